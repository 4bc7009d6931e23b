import { createPrivateKey, X509Certificate } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer, request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { classroomCertificate, ownAddresses, serveTrust } from './classroom.mjs';

let folder;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vane-classroom-'));
  process.env.VANE_HOME = folder;
});
afterEach(() => {
  delete process.env.VANE_HOME;
  rmSync(folder, { recursive: true, force: true });
});
const DAY = 86_400_000;

describe('a classroom’s certificate', () => {
  it('is made once, names every address, and is made anew when one is new or it is about to end', async () => {
    const now = Date.now();
    const first = await classroomCertificate(['192.168.1.20'], now);
    expect(first.fresh).toBe(true);
    expect(statSync(first.key).mode & 0o077).toBe(0);
    const certificate = new X509Certificate(readFileSync(first.certificate));
    expect(certificate.checkIP('192.168.1.20')).toBe('192.168.1.20');
    expect(certificate.checkIP('127.0.0.1')).toBe('127.0.0.1');
    expect(certificate.checkHost('localhost')).toBe('localhost');
    // What devices trust has signed this one and no other: its key is nowhere.
    const authority = new X509Certificate(readFileSync(first.authority));
    expect([certificate.ca, authority.ca, certificate.verify(authority.publicKey)]).toEqual([false, true, true]);
    expect(authority.fingerprint256).toBe(first.fingerprint);
    const key = createPrivateKey(readFileSync(first.key));
    expect(authority.checkPrivateKey(key)).toBe(false);
    expect(readdirSync(join(folder, 'classroom')).sort()).toEqual(['authority.pem', 'certificate.pem', 'key.pem']);
    const again = await classroomCertificate(['192.168.1.20'], now + 30 * DAY);
    expect([again.fresh, again.fingerprint]).toEqual([false, first.fingerprint]);
    expect((await classroomCertificate(['192.168.1.20', '10.0.0.7'], now)).fresh).toBe(true);
    expect((await classroomCertificate(['10.0.0.7'], now + 380 * DAY)).fresh).toBe(true);
    // One of before there was an authority could vouch for any site.
    rmSync(join(folder, 'classroom', 'authority.pem'));
    expect((await classroomCertificate(['10.0.0.7'], now)).fresh).toBe(true);
  });

  it('is trusted by whoever took it, and by nobody else', async () => {
    const { key, certificate, authority } = await classroomCertificate(['127.0.0.1']);
    const ca = readFileSync(authority);
    const server = createServer({ key: readFileSync(key), cert: readFileSync(certificate) }, (_, response) =>
      response.end('hello'),
    );
    await new Promise((done) => server.listen(0, '127.0.0.1', done));
    const ask = (options) =>
      new Promise((done, fail) => {
        request({ host: '127.0.0.1', port: server.address().port, agent: false, ...options }, (response) => {
          response.resume();
          done(response.statusCode);
        })
          .on('error', fail)
          .end();
      });
    expect(await ask({ ca })).toBe(200);
    await expect(ask({})).rejects.toThrow(/self-signed/);
    server.close();
  });

  it('is handed out beside a page that says how to trust it, and nothing else is', async () => {
    const made = await classroomCertificate(['127.0.0.1']);
    const server = await serveTrust(0, made, 'https://127.0.0.1:8263', '127.0.0.1');
    const base = `http://127.0.0.1:${server.address().port}`;
    const page = await (await fetch(base)).text();
    expect(page).toContain(made.fingerprint);
    expect(page).toContain('href="https://127.0.0.1:8263"');
    expect(new X509Certificate(await (await fetch(`${base}/vane.crt`)).text()).fingerprint256).toBe(made.fingerprint);
    expect((await fetch(`${base}/key.pem`)).status).toBe(404);
    server.close();
  });
});

it('own addresses are those that others in the network can reach', () =>
  expect(
    ownAddresses({
      lo: [{ family: 'IPv4', internal: true, address: '127.0.0.1' }],
      wifi: [
        { family: 'IPv6', internal: false, address: 'fe80::1' },
        { family: 'IPv4', internal: false, address: '192.168.1.20' },
      ],
    }),
  ).toEqual(['192.168.1.20']));

import { weekRow } from '@vane/contract';
import { expect, test } from '@playwright/test';
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import type { IncomingMessage } from 'node:http';
import { request } from 'node:https';
import { connect } from 'node:net';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  administer,
  DEMO,
  databaseUrl,
  freePort,
  everyRow,
  inDatabase,
  SET_UP_CODE,
  TEMPLATE,
  VaneServer,
} from '../server';

/** The commands that work from files alone, run as a teacher's colleague would. */
interface Ran {
  readonly status: number | null;
  readonly lines: string[];
  readonly trouble: string;
}
const vane = (...args: string[]): Ran => vaneWith({}, ...args);
function vaneWith(env: Record<string, string>, ...args: string[]): Ran {
  const options = { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024, env: { ...process.env, ...env } } as const;
  const ran = spawnSync(join(import.meta.dirname, '../../vane'), args, options);
  return { status: ran.status, lines: ran.stdout.trim().split('\n'), trouble: ran.stderr };
}

/** Cells of a line by the names of the first; none of these files has a comma in a cell. */
const zipped = (head: string, line: string): [string, string][] => {
  const cells = line.split(',');
  return head.split(',').map((name, i) => [name, cells[i] ?? '']);
};

test('a simulated class is judged and planned from its file; a bad file ends with 2 and is named @long', () => {
  test.setTimeout(200_000);
  const folder = mkdtempSync(join(tmpdir(), 'vane-commands-'));
  expect(vane('rehearse', '--out', folder, '--seed', '5', '--children', '3', '--weeks', '4').status).toBe(0);
  const file = join(folder, 'responses.csv');
  const child = readFileSync(file, 'utf8').split('\n')[1]?.split(',')[1] ?? '';

  const judged = vane('judge', file);
  expect([judged.status, judged.lines[0]]).toEqual([
    0,
    'child,fact,reading,p_automatic,lean,certainty,responses,days,reason,own_view,own_reason',
  ]);

  const [, fact, , pAutomatic] = judged.lines.find((line) => line.startsWith(`${child},`))!.split(',');
  const why = vane('judge', file, '--explain', '--child', child, '--fact', fact!);
  expect(why.status).toBe(0);
  expect(why.lines.join('\n')).toContain(`p automatic: ${Number(pAutomatic).toFixed(3)};`);

  for (const aim of ['judge', 'practise']) {
    const planned = vane('plan', file, '--child', child, '--count', '9', '--aim', aim);
    expect([planned.status, planned.lines[0], planned.lines.length]).toEqual([
      0,
      'order,child,fact,reading,p_automatic,reason',
      10,
    ]);
    expect(planned.lines[1]).toMatch(new RegExp(`^1,${child},.*,sure-start$`));
    expect(vane('plan', file, '--child', child, '--count', '9', '--aim', aim).lines).toEqual(planned.lines);
  }

  // A week: teaching days after the date, every child heard as often as wanted, most questions at the title's need.
  const week = vane('plan', file, '--week', '--adults', '2', '--as-of', '2026-11-27');
  expect([week.status, week.lines[0]]).toEqual([0, 'day,session,title,routine,minutes,child,fact,role,why']);
  const rows = week.lines.slice(1).map((line) => weekRow.parse(Object.fromEntries(zipped(week.lines[0]!, line))));
  expect(rows[0]?.day).toBe('2026-11-30');
  const heard = (of: string): number => new Set(rows.filter((r) => r.child === of).map((r) => r.day)).size;
  const children = [...new Set(rows.map((r) => r.child))];
  expect(children.map(heard)).toEqual([2, 2, 2]);
  expect(rows.filter((r) => r.role === 'need').length / rows.length).toBeGreaterThanOrEqual(0.6);
  expect(vane('plan', file, '--week', '--adults', '2', '--as-of', '2026-11-27').lines).toEqual(week.lines);

  const broken = join(folder, 'broken.csv');
  writeFileSync(broken, 'child,fact\nOriel,3+4\n');
  for (const wrong of [
    ['plan', broken, '--child', child],
    ['judge', join(folder, 'nowhere.csv')],
    ['plan', file, '--child', 'nobody'],
    ['plan', file, '--child', child, '--aim', 'win'],
    ['plan', file, '--child', child, '--count', 'many'],
    ['plan', file, '--week', '--child', child],
    ['plan', file, '--week', '--group', '9'],
    ['judge', file, '--as-of', 'tomorrow'],
    ['judge', file, '--explain', '--child', child],
    ['judge', file, '--explain', '--child', child, '--fact', '9+1+1'],
  ])
    expect([wrong.slice(0, 1), vane(...wrong).status]).toEqual([wrong.slice(0, 1), 2]);
  expect(vane('judge', join(folder, 'nowhere.csv')).trouble).toContain('nowhere.csv: ENOENT');
});

test('a backup is read back when it is made, restored whole, and what was there before is kept', async () => {
  const name = `e2e_backup_${process.pid}`;
  await administer(`create database ${name} template ${TEMPLATE}`);
  const env = { DATABASE_URL: databaseUrl(name) };
  const folder = mkdtempSync(join(tmpdir(), 'vane-backup-'));
  const file = join(folder, 'night.backup');
  const before = await everyRow(name);
  const made = vaneWith(env, 'backup', file);
  expect([made.status, made.lines[0]]).toEqual([
    0,
    expect.stringMatching(/night\.backup: \d+ rows of \d+ tables, .* read back and compared\.$/),
  ]);
  await inDatabase(name, `delete from child where nickname < 'M'`);
  expect(await everyRow(name)).not.toBe(before);
  const restored = vaneWith(env, 'restore', file);
  expect([restored.status, restored.lines[0]]).toEqual([0, expect.stringContaining('34 children')]);
  // All but what lets somebody in: whoever was signed in then signs in anew.
  expect(before).toMatch(/^sign_in /m);
  const rows = before.split('\n').filter((row) => !/^(sign_in|known_device) /.test(row));
  expect((await everyRow(name)).split('\n').sort()).toEqual(rows.sort());
  const kept = (n: number): string => `${name}_before_restore_${n}`;
  expect(await everyRow(kept(1))).not.toContain('"Cleo"');
  // However often: what was there before stays, under a name of its own.
  await inDatabase(name, `update adult set password_hash = 'of today'`);
  expect(vaneWith(env, 'restore', file).status).toBe(0);
  expect(await everyRow(kept(1))).not.toContain('"Cleo"');
  expect(await everyRow(kept(2))).toContain('"Cleo"');
  // Whoever is still here signs in by the password of today.
  expect(await everyRow(name)).toContain('of today');
  await administer(...[name, kept(1), kept(2)].map((one) => `drop database ${one}`));
});

test('a child who was deleted after the backup stays deleted when it is restored @long', async () => {
  const name = `e2e_erased_${process.pid}`;
  await administer(`create database ${name}`);
  const folder = mkdtempSync(join(tmpdir(), 'vane-erased-'));
  const [file, list] = [join(folder, 'night.backup'), join(folder, 'erased.csv')];
  const env = { DATABASE_URL: databaseUrl(name), VANE_HOME: folder };
  const server = await VaneServer.on(name);
  const school = { school: 'Saltmarsh Infants', className: 'Sandpiper', name: 'Harbour mate' };
  const adult = { email: 'mate@saltmarsh.example', password: 'buoys-on-the-water' };
  const asks = (method: string, path: string, body: object, cookie = '') =>
    fetch(`${server.url}${path}`, {
      method,
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify(body),
    });
  const made = await asks('POST', '/api/set-up', {
    code: SET_UP_CODE,
    ...school,
    ...adult,
    children: ['Linnet', 'Yusra'],
  });
  const cookie = made.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
  const { classes } = (await made.json()) as { classes: { id: string }[] };
  expect(vaneWith(env, 'backup', file).status).toBe(0);
  const [linnet = ''] = /child .*"Linnet".*/.exec(await everyRow(name)) ?? [];
  const [, id = ''] = /"id": "([^"]+)"/.exec(linnet) ?? [];
  expect((await asks('DELETE', `/api/classes/${classes[0]?.id}/children/${id}`, {}, cookie)).status).toBe(200);
  await server.stop();
  const restored = vaneWith(env, 'restore', file);
  expect([restored.status, restored.lines[0]]).toEqual([
    0,
    expect.stringContaining('1 children, adults and imports that were deleted since'),
  ]);
  expect(await everyRow(name)).not.toContain('Linnet');
  expect(await everyRow(name)).toContain('Yusra');
  // The list is in the file too, for when the database is gone with all it remembered.
  expect(readFileSync(list, 'utf8')).toContain(`,child,${id},`);
  await inDatabase(name, 'drop table erased cascade');
  expect(vaneWith(env, 'restore', file).lines[0]).toContain('1 children, adults and imports');
  await inDatabase(name, 'drop table erased cascade');
  rmSync(list);
  expect(vaneWith(env, 'restore', file).lines[0]).toContain('is not known here: delete it again');
  expect(await everyRow(name)).toContain('Linnet');
  await administer(...[name, 1, 2, 3].map((n) => `drop database ${n === name ? name : `${name}_before_restore_${n}`}`));
});

test('what is no backup of Vane’s is refused by name, and nothing is changed @long', async () => {
  const name = `e2e_refused_${process.pid}`;
  await administer(`create database ${name} template ${TEMPLATE}`);
  const env = { DATABASE_URL: databaseUrl(name) };
  const folder = mkdtempSync(join(tmpdir(), 'vane-refused-'));
  const file = join(folder, 'night.backup');
  expect(vaneWith(env, 'backup', file).status).toBe(0);
  const before = await everyRow(name);
  writeFileSync(join(folder, 'broken.backup'), readFileSync(file).subarray(0, 20_000));
  // Another program's database, and one of Vane's without a school in it.
  const dumped = (from: string, to: string): string => {
    const program = join(process.env['VANE_PG_BIN'] ?? '', 'pg_dump');
    const ran = spawnSync(program, ['--format=custom', `--file=${join(folder, to)}`, `--dbname=${databaseUrl(from)}`]);
    expect(ran.status).toBe(0);
    return to;
  };
  const foreign = `e2e_foreign_${process.pid}`;
  await administer(`create database ${foreign}`);
  await inDatabase(foreign, 'create table vane_migration (id int, name text); create table response (id text)');
  const noSchool = `e2e_no_school_${process.pid}`;
  await administer(`create database ${noSchool} template ${TEMPLATE}`);
  await inDatabase(noSchool, 'delete from school');
  // It would do something of its own when it is read.
  const ruled = `e2e_ruled_${process.pid}`;
  await administer(`create database ${ruled} template ${TEMPLATE}`);
  await inDatabase(ruled, 'create rule quiet as on insert to school do instead nothing');
  for (const [wrong, why] of [
    ['broken.backup', 'pg_restore failed'],
    ['nowhere.backup', 'ENOENT'],
    [dumped(foreign, 'foreign.backup'), 'it is damaged: its migrations are none'],
    [dumped(noSchool, 'empty.backup'), 'there is no school in it'],
    [dumped(ruled, 'ruled.backup'), 'it holds RULE'],
  ] as const) {
    const refused = vaneWith(env, 'restore', join(folder, wrong));
    expect([wrong, refused.status, refused.trouble]).toEqual([wrong, 1, expect.stringContaining(why)]);
    expect(refused.trouble).toContain('Nothing was restored, and nothing was changed');
  }
  expect((await everyRow(name)).split('\n').sort()).toEqual(before.split('\n').sort());
  await administer(...[name, foreign, noSchool, ruled].map((one) => `drop database ${one}`));
});

test('told to stop, the server lets what is under way end, and takes nothing new @long', async () => {
  const name = `e2e_stop_${process.pid}`;
  await administer(`create database ${name} template ${TEMPLATE}`);
  const server = await VaneServer.on(name);
  const address = new URL(server.url);
  // A request whose second half comes after the server was told to stop.
  const socket = connect(Number(address.port), address.hostname);
  let heard = '';
  socket.on('data', (part) => (heard += String(part)));
  const body = JSON.stringify({ email: 'nobody@harbour.example', password: 'x' });
  const head = `POST /api/sign-in HTTP/1.1\r\nHost: ${address.host}\r\nContent-Type: application/json\r\nContent-Length: ${body.length}\r\n\r\n`;
  socket.write(head + body.slice(0, 10));
  await expect.poll(async () => (await fetch(`${server.url}/api/health`)).status).toBe(200);
  const stopped = server.stop();
  await expect
    .poll(() =>
      fetch(`${server.url}/api/health`).then(
        () => 'taken',
        () => 'refused',
      ),
    )
    .toBe('refused');
  socket.write(body.slice(10));
  await expect.poll(() => heard).toMatch(/^HTTP\/1\.1 401 /);
  await stopped;
  socket.destroy();
  await administer(`drop database ${name} with (force)`);
});

/** An answer over HTTPS, from a device that trusts this certificate; none = one that trusts nobody but the usual. */
const askSecurely = (address: string, ca: string | undefined, body?: string): Promise<IncomingMessage> =>
  new Promise((answer, failed) => {
    const headers = body === undefined ? {} : { 'content-type': 'application/json' };
    request(
      address,
      { agent: false, method: body === undefined ? 'GET' : 'POST', headers, ...(ca ? { ca } : {}) },
      (got) => {
        got.resume();
        answer(got);
      },
    )
      .on('error', failed)
      .end(body);
  });

test('a classroom is served over HTTPS, with a certificate that a device takes, compares and trusts @long', async () => {
  const here = Object.values(networkInterfaces()).flat();
  const name = `e2e_room_${process.pid}`;
  const home = mkdtempSync(join(tmpdir(), 'vane-room-'));
  await administer(`create database ${name} template ${TEMPLATE}`);
  const env = { ...process.env, DATABASE_URL: databaseUrl(name), VANE_HOME: home, VANE_PORT: String(await freePort()) };
  const room = spawn(join(import.meta.dirname, '../../vane'), ['start', '--no-demo', '--classroom'], { env });
  let said = '';
  for (const stream of [room.stdout, room.stderr]) stream.on('data', (text) => (said += String(text)));
  const ended = once(room, 'exit');
  if (!here.some((one) => one?.family === 'IPv4' && !one.internal)) {
    await ended;
    expect(said).toContain('This computer is in no network');
  } else {
    await expect.poll(() => said, { timeout: 80_000 }).toMatch(/compares:\n +[0-9A-F:]{95}/);
    const [, address = ''] = /school's network: (https:\S+)/.exec(said) ?? [];
    const [, plain = '', fingerprint = ''] = /opens (http:\S+) first, and compares:\n +(\S+)/.exec(said) ?? [];
    expect(await (await fetch(plain)).text()).toContain(fingerprint);
    const certificate = await (await fetch(`${plain}/vane.crt`)).text();
    await expect(askSecurely(`${address}/api/health`, undefined)).rejects.toThrow(/self-signed/);
    expect((await askSecurely(`${address}/api/health`, certificate)).statusCode).toBe(200);
    const signedIn = await askSecurely(`${address}/api/sign-in`, certificate, JSON.stringify(DEMO));
    expect(signedIn.headers['set-cookie']?.join()).toMatch(/__Host-vane_sign_in=.*Secure/);
    expect(signedIn.headers['strict-transport-security']).toBeUndefined();
    room.kill('SIGTERM');
    await ended;
  }
  await administer(`drop database ${name} with (force)`);
});

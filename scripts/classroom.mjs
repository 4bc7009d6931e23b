import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { home } from './home.mjs';
import { Trouble } from './setup.mjs';

/** Longest lifetime of a self-made certificate that devices accept; it is renewed a month before. */
const LASTS_DAYS = 397;
const RENEW_DAYS = 30;
const DAY_MS = 86_400_000;

/** This machine's addresses in its networks (IPv4, none of them loopback), in the system's order. */
export const ownAddresses = (interfaces = networkInterfaces()) =>
  Object.values(interfaces)
    .flat()
    .filter((one) => one !== undefined && one.family === 'IPv4' && !one.internal)
    .map((one) => one.address);

const folder = () => join(home(), 'classroom');
const file = (name) => join(folder(), name);

/** Whether the certificate that is there still serves: it cannot vouch for others, names every address, and is not about to end. */
function serves(addresses, now) {
  // Of before there was one, when the certificate vouched for itself, and its key could for any site.
  if (!['key.pem', 'certificate.pem', 'authority.pem'].every((name) => existsSync(file(name)))) return false;
  const certificate = new X509Certificate(readFileSync(file('certificate.pem')));
  const left = Date.parse(certificate.validTo) - now;
  return left > RENEW_DAYS * DAY_MS && addresses.every((address) => certificate.checkIP(address) !== undefined);
}

/**
 * The certificate for these addresses, made by Vane itself and kept in its home until an address changes or it is about to end. Devices trust an authority that has signed this one certificate: its
 * key is thrown away, so that nobody can vouch for another site by it.
 * @returns {Promise<{ key: string, certificate: string, authority: string, fingerprint: string, fresh: boolean }>} paths of three files, the authority's SHA-256 fingerprint, and whether it was just made
 */
export async function classroomCertificate(addresses, now = Date.now()) {
  const fresh = !serves(addresses, now);
  if (fresh) {
    const { generate } = await import('selfsigned');
    const names = ['localhost', hostname(), `${hostname()}.local`];
    const common = {
      keyType: 'ec',
      algorithm: 'sha256',
      notBeforeDate: new Date(now - DAY_MS),
      notAfterDate: new Date(now + (LASTS_DAYS - 1) * DAY_MS),
    };
    const authority = await generate([{ name: 'commonName', value: `Authority of Vane on ${hostname()}` }], {
      ...common,
      extensions: [
        { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
        { name: 'keyUsage', keyCertSign: true, critical: true },
      ],
    });
    const made = await generate([{ name: 'commonName', value: `Vane on ${hostname()}` }], {
      ...common,
      ca: { key: authority.private, cert: authority.cert },
      extensions: [
        { name: 'basicConstraints', cA: false, critical: true },
        { name: 'keyUsage', digitalSignature: true, critical: true },
        { name: 'extKeyUsage', serverAuth: true },
        {
          name: 'subjectAltName',
          altNames: [
            ...names.map((value) => ({ type: 2, value })),
            ...['127.0.0.1', ...addresses].map((ip) => ({ type: 7, ip })),
          ],
        },
      ],
    });
    mkdirSync(folder(), { recursive: true, mode: 0o700 });
    writeFileSync(file('key.pem'), made.private, { mode: 0o600 });
    writeFileSync(file('certificate.pem'), `${made.cert.trim()}\n${authority.cert.trim()}\n`);
    writeFileSync(file('authority.pem'), `${authority.cert.trim()}\n`);
  }
  const { fingerprint256: fingerprint } = new X509Certificate(readFileSync(file('authority.pem')));
  const [key, certificate, authority] = ['key.pem', 'certificate.pem', 'authority.pem'].map(file);
  return { key, certificate, authority, fingerprint, fresh };
}

const escaped = (text) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** How a device comes to trust this Vane: plain HTML, since it is read before there is trust. */
const trustPage = (address, fingerprint) => `<!doctype html>
<html lang="en-GB">
<meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Vane: let this device trust it</title>
<style>body{font:18px/1.5 sans-serif;max-width:42em;margin:2em auto;padding:0 1em;color:#1f2d36;background:#faf6ec}a.go{display:inline-block;padding:.7em 1.2em;background:#1d6b70;color:#fff;border-radius:8px;text-decoration:none}code{word-break:break-all}</style>
<h1>Let this device trust Vane</h1>
<p>Vane runs on a computer in this school and has made its own certificate. Once this device trusts it, the device can join a session, and works when the network is away.</p>
<ol>
<li>Check that these are the same characters as in the window where Vane was started:<br><code>${fingerprint}</code><br>If they are not, stop: somebody else answers here.</li>
<li><a href="/vane.crt">Download the certificate</a> and let the device install it.
<ul>
<li>iPad, iPhone: Settings → General → VPN &amp; Device Management → install; then Settings → General → About → Certificate Trust Settings → switch it on.</li>
<li>Android: Settings → Security → Encryption &amp; credentials → Install a certificate → CA certificate.</li>
<li>Chromebook: Settings → Privacy and security → Manage certificates → Authorities → Import → trust for websites.</li>
<li>Windows: open the file → Install certificate → Trusted Root Certification Authorities. Mac: open the file → Keychain Access → Always trust.</li>
</ul>
Devices that the school manages are set up by whoever manages them: ask them, and follow your school’s rules.</li>
<li><a class="go" href="${escaped(address)}">Open Vane</a></li>
</ol>
<p>Take the certificate off the device when it no longer belongs to the class.</p>
</html>
`;

/** Serves that page and the certificate, and nothing else, without encryption. */
export function serveTrust(port, { authority, fingerprint }, address, host = '0.0.0.0') {
  const server = createServer((request, response) => {
    if (request.url === '/vane.crt') {
      response.setHeader('content-type', 'application/x-x509-ca-cert');
      response.setHeader('content-disposition', 'attachment; filename="vane.crt"');
      return response.end(readFileSync(authority));
    }
    response.setHeader('content-type', 'text/html; charset=utf-8');
    response.statusCode = request.url === '/' ? 200 : 404;
    return response.end(
      request.url === '/' ? trustPage(address, fingerprint) : '<!doctype html><p>There is nothing here.',
    );
  });
  return new Promise((done, fail) => {
    server.once('error', fail);
    server.listen(port, host, () => done(server));
  });
}

/** What `--classroom` needs before the server starts. @throws Trouble where this machine is in no network */
export async function classroom() {
  const addresses = ownAddresses();
  if (addresses.length === 0)
    throw new Trouble('This computer is in no network: connect it to the school’s, or start Vane without --classroom.');
  return { addresses, ...(await classroomCertificate(addresses)) };
}

// npm run certificate: a certificate for this machine's addresses, so that phones in the room come in over https. It is signed by an authority
// of this Viaticum alone, which each phone is told to trust once. Made again it is for the addresses as they are then; the authority stays.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { dataFolder } from './instance.mjs';
import { npmPackages, phase, run } from './setup.mjs';

const DAY_MS = 86_400_000;
/** Phones take no certificate of a machine that is good for longer. */
const MACHINE_DAYS = 397;
const AUTHORITY_DAYS = 3650;
const TO_NAME = 2;
const TO_ADDRESS = 7;

/** Where the certificate of a data folder lies. */
export const certificateIn = (data) => ({
  authority: join(data, 'certificate', 'authority.pem'),
  authorityKey: join(data, 'certificate', 'authority-key.pem'),
  cert: join(data, 'certificate', 'machine.pem'),
  key: join(data, 'certificate', 'machine-key.pem'),
});

async function make() {
  await phase('npm packages', npmPackages);
  const { generate } = await import('selfsigned');
  const data = dataFolder();
  const at = certificateIn(data);
  mkdirSync(join(data, 'certificate'), { recursive: true, mode: 0o700 });
  const named = (value) => [{ name: 'commonName', value }];
  const until = (days) => ({ notBeforeDate: new Date(Date.now() - DAY_MS), notAfterDate: new Date(Date.now() + days * DAY_MS) });
  if (!existsSync(at.authorityKey)) {
    const made = await generate(named(`Viaticum on ${hostname()}`), {
      ...{ keySize: 2048, algorithm: 'sha256', ...until(AUTHORITY_DAYS) },
      extensions: [
        { name: 'basicConstraints', cA: true, critical: true },
        { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
      ],
    });
    writeFileSync(at.authorityKey, made.private, { mode: 0o600 });
    writeFileSync(at.authority, made.cert, { mode: 0o644 });
  }
  const addresses = Object.values(networkInterfaces())
    .flat()
    .filter((one) => one.family === 'IPv4')
    .map(({ address }) => address);
  const names = ['localhost', hostname(), `${hostname().replace(/\.local$/, '')}.local`];
  const { cert, private: key } = await generate(named(hostname()), {
    ...{ keySize: 2048, algorithm: 'sha256', ...until(MACHINE_DAYS) },
    ca: { key: readFileSync(at.authorityKey, 'utf8'), cert: readFileSync(at.authority, 'utf8') },
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true, keyEncipherment: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          ...[...new Set(names)].map((value) => ({ type: TO_NAME, value })),
          ...[...new Set(addresses)].map((ip) => ({ type: TO_ADDRESS, ip })),
        ],
      },
    ],
  });
  writeFileSync(at.key, key, { mode: 0o600 });
  writeFileSync(at.cert, cert, { mode: 0o644 });
  const near = addresses.find((one) => !one.startsWith('127.')) ?? '127.0.0.1';
  console.log(`
A certificate for ${addresses.join(', ')} lies in ${join(data, 'certificate')}; it is good for ${MACHINE_DAYS} days.
VIATICUM_HOST=0.0.0.0 npm start takes it by itself from now on.

Each phone is told once to trust it. On the phone open https://${near}:${process.env.VIATICUM_PORT || 4870}/certificate, go past the warning, and
  iPhone, iPad   allow the profile; Settings, General, VPN & Device Management: install it; then Settings, General, About,
                 Certificate Trust Settings: switch it on.
  Android        Settings, Security, More security settings, Install a certificate, CA certificate: choose the file.
Whoever has ${at.authorityKey} could make certificates that these phones believe: it stays on this machine.`);
}

if (import.meta.url === `file://${process.argv[1]}`) run(make);

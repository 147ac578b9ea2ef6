import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { PASSWORD_LETTERS } from '@viaticum/contract';
import { BODY_MS } from './guard/access.js';

export type Config = {
  host: string;
  port: number;
  publicUrl: string;
  dataFolder: string;
  databaseUrl: string;
  webFolder: string;
  /** Origins from which browsers may change anything. */
  origins: ReadonlySet<string>;
  /** Addresses under which phones in the room reach this machine; empty on loopback. */
  addresses: string[];
  /** Files of a certificate and its key: served over TLS where given. */
  tls: { cert: string; key: string } | null;
  /** Redis through which several servers tell each other what happens in classes. */
  redisUrl: string | null;
  /** Addresses of proxies whose word about a caller's address is taken. */
  trustProxy: string[] | false;
  /** The demo's password, where another than the usual one is wanted. */
  demoPassword: string | null;
  /** The owner, where one is to be made without a browser on this machine. */
  owner: { name: string; password: string } | null;
  /** How long the body of a request may be in coming, ms. */
  bodyMs: number;
  quiet: boolean;
};

const loopback = new Set(['127.0.0.1', 'localhost', '::1']);

/** IPv4 addresses of this machine other than loopback. */
function machineAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((entry) => entry.family === 'IPv4' && !entry.internal)
    .map((entry) => entry.address);
}

/** A host as it stands in an address: IPv6 in brackets. */
const inAddress = (host: string): string => (host.includes(':') ? `[${host}]` : host);

/** Whether only this machine can reach the server: neither its address nor the one that students are told lead elsewhere. */
export const isOnlyHere = ({ host, publicUrl }: Pick<Config, 'host' | 'publicUrl'>): boolean =>
  loopback.has(host) && loopback.has(new URL(publicUrl).hostname.replace(/[[\]]/g, ''));

/** Configuration from the environment. Throws a sentence on a port or an address that cannot be. */
export function readConfig(env: NodeJS.ProcessEnv, webFolder: string): Config {
  const host = env.VIATICUM_HOST || '127.0.0.1';
  const port = Number(env.VIATICUM_PORT || 4870);
  if (!Number.isInteger(port) || port < 1 || port > 65535) {
    throw new RangeError(`VIATICUM_PORT is “${env.VIATICUM_PORT}”. Give a port between 1 and 65535.`);
  }
  if (!env.VIATICUM_DATABASE_URL)
    throw new Error('VIATICUM_DATABASE_URL is not set. Start with npm start, or give the address of a MariaDB.');
  const isLoopback = loopback.has(host);
  const everywhere = host === '0.0.0.0' || host === '::';
  const addresses = isLoopback ? [] : everywhere ? machineAddresses() : [host];
  const { VIATICUM_TLS_CERT: cert, VIATICUM_TLS_KEY: key, VIATICUM_REDIS_URL: redisUrl } = env;
  if (Boolean(cert) !== Boolean(key))
    throw new RangeError('VIATICUM_TLS_CERT and VIATICUM_TLS_KEY belong together. Give both files, or neither.');
  if (redisUrl && !/^rediss?:\/\/[^/]+/.test(redisUrl))
    throw new RangeError(`VIATICUM_REDIS_URL is “${redisUrl}”. Give an address such as redis://127.0.0.1:6379.`);
  const scheme = cert ? 'https' : 'http';
  const publicUrl = (
    env.VIATICUM_PUBLIC_URL || `${scheme}://${isLoopback ? inAddress(host) : (addresses[0] ?? 'localhost')}:${port}`
  ).replace(/\/$/, '');
  if (!/^https?:\/\/[^/]+$/.test(publicUrl))
    throw new RangeError(`VIATICUM_PUBLIC_URL is “${publicUrl}”. Give an address such as http://192.168.1.20:4870.`);
  const names = ['127.0.0.1', 'localhost', '[::1]', ...addresses];
  return {
    host,
    port,
    publicUrl,
    dataFolder: env.VIATICUM_DATA || '.viaticum',
    databaseUrl: env.VIATICUM_DATABASE_URL,
    webFolder,
    origins: new Set([publicUrl, ...names.map((name) => `${scheme}://${name}:${port}`)]),
    addresses,
    tls: cert && key ? { cert, key } : null,
    redisUrl: redisUrl || null,
    trustProxy: proxiesOf(env.VIATICUM_TRUST_PROXY),
    demoPassword: env.VIATICUM_DEMO_PASSWORD || null,
    owner: ownerOf(env),
    bodyMs: BODY_MS,
    quiet: env.VIATICUM_QUIET === '1',
  };
}

/** The owner that the settings name. Throws a sentence where half of it is given or the password is short. */
function ownerOf({ VIATICUM_OWNER: name, VIATICUM_OWNER_PASSWORD: password }: NodeJS.ProcessEnv): Config['owner'] {
  if (!name && !password) return null;
  if (!name || !password)
    throw new RangeError('VIATICUM_OWNER and VIATICUM_OWNER_PASSWORD belong together. Give both, or neither.');
  if (password.length < PASSWORD_LETTERS)
    throw new RangeError(`VIATICUM_OWNER_PASSWORD is short. Give at least ${PASSWORD_LETTERS} letters.`);
  return { name: name.trim(), password };
}

/** Addresses of proxies with commas between. Throws a sentence on anything else. */
function proxiesOf(given: string | undefined): Config['trustProxy'] {
  if (!given) return false;
  const list = given.split(',').map((one) => one.trim());
  if (list.every((one) => isIP(one.replace(/\/\d{1,3}$/, '')))) return list;
  throw new RangeError(`VIATICUM_TRUST_PROXY is “${given}”. Give the addresses of the proxies, such as 127.0.0.1 or 10.0.0.0/8.`);
}

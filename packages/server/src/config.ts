import { networkInterfaces } from 'node:os';

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
  quiet: boolean;
};

const loopback = new Set(['127.0.0.1', 'localhost', '::1']);

/** IPv4 addresses of this machine other than loopback. */
export function machineAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((entry) => entry.family === 'IPv4' && !entry.internal)
    .map((entry) => entry.address);
}

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
  const publicUrl = (env.VIATICUM_PUBLIC_URL || `http://${isLoopback ? host : (addresses[0] ?? 'localhost')}:${port}`).replace(
    /\/$/,
    '',
  );
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
    origins: new Set([publicUrl, ...names.map((name) => `http://${name}:${port}`)]),
    addresses,
    quiet: env.VIATICUM_QUIET === '1',
  };
}

import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import pino, { type Logger } from 'pino';
import roll from 'pino-roll';

/** A file of this size is put aside; so many are kept. */
const MOST_SIZE = '5m';
const MOST_FILES = 8;

type Fault = Error & { code?: string; errno?: number };

/**
 * An error as the log keeps it. What a database says of itself repeats the values it was given, among them names: only its code
 * and its number are kept.
 */
const plain = (error: Fault) => {
  const fromDatabase = typeof error.code === 'string' && error.code.startsWith('ER_');
  const [, ...places] = (error.stack ?? '').split('\n');
  return {
    type: error.name,
    code: error.code,
    ...(fromDatabase ? { errno: error.errno } : { message: error.message }),
    at: places.map((place) => place.trim()).slice(0, 8),
  };
};

export type Logging = { log: Logger; place: string; close: () => Promise<void> };

/**
 * The log of a server: lines of JSON (pino) in the data folder, put aside by size; warnings also on the error output, in words. What is
 * logged names routes, not addresses: no codes, names or passwords.
 */
export async function openLog(dataFolder: string, quiet: boolean): Promise<Logging> {
  await mkdir(join(dataFolder, 'logs'), { recursive: true, mode: 0o700 });
  const file = join(dataFolder, 'logs', 'viaticum');
  const stream = await roll({ file, extension: '.log', size: MOST_SIZE, limit: { count: MOST_FILES }, mkdir: true, mode: 0o600 });
  // A full disk must not stop the server: what cannot be written is not kept.
  stream.on('error', () => undefined);
  let open = true;
  const kept = { write: (line: string) => void (open && stream.write(line)) };
  const said = {
    write(line: string) {
      const { time, msg, err } = JSON.parse(line) as { time: string; msg?: string; err?: { message?: string; code?: string } };
      process.stderr.write(`${time.slice(11, 19)} ${msg ?? 'fault'}${err ? `: ${err.message ?? err.code}` : ''}\n`);
    },
  };
  const log = pino(
    {
      base: { pid: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      serializers: { err: plain },
    },
    pino.multistream([{ stream: kept, level: 'info' }, ...(quiet ? [] : [{ stream: said, level: 'warn' as const }])]),
  );
  return {
    log,
    place: join(dataFolder, 'logs'),
    close: () =>
      new Promise<void>((done) => {
        open = false;
        stream.once('close', done);
        stream.once('finish', done);
        stream.end();
        setTimeout(done, 1000).unref();
      }),
  };
}

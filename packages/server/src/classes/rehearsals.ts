import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { DeviceRole, Rehearsal } from '@viaticum/contract';
import type { ClassEntity } from '../db/entities.js';

const MOST_AT_ONCE = 5;
/** The stand-ins as they are built, beside this package. */
const script = fileURLToPath(new URL('../../../standins/dist/rehearsal.js', import.meta.url));

/** Starts the stand-ins of a rehearsal in a process of their own: they reach this server as everybody does. */
export function rehearsals(reach: () => { url: string; origin: string }) {
  const running = new Map<string, ChildProcess>();
  return {
    begin(one: ClassEntity, { students, level, sensor, seed }: Rehearsal, keyOf: (role: DeviceRole) => string): void {
      if (running.size >= MOST_AT_ONCE) {
        const [oldest] = running.keys();
        if (oldest) running.get(oldest)?.kill();
      }
      const { url, origin } = reach();
      const child = spawn(process.execPath, [script], {
        stdio: ['ignore', 'ignore', 'inherit'],
        env: {
          PATH: process.env.PATH ?? '',
          STANDIN_URL: url,
          STANDIN_ORIGIN: origin,
          STANDIN_CODE: one.code,
          STANDIN_STUDENTS: String(students),
          STANDIN_LEVEL: level,
          STANDIN_SEED: String(seed ?? Math.floor(Math.random() * 1e6)),
          STANDIN_SENSOR: keyOf('sensor'),
          STANDIN_AIR: sensor ? '1' : '0',
          STANDIN_CAMERA: keyOf('camera'),
        },
      });
      running.set(one.id, child);
      child.on('error', () => running.delete(one.id));
      child.on('exit', () => running.delete(one.id));
    },
    close(): void {
      for (const child of running.values()) child.kill();
    },
  };
}
export type Rehearsals = ReturnType<typeof rehearsals>;

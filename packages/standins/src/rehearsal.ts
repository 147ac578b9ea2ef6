// Run as a process of its own: simulated students, a room sensor and a camera for one class, told by the environment where.
import type { Level } from '@viaticum/contract';
import { camera } from './camera.js';
import { sensor } from './sensor.js';
import { student } from './student.js';

const TICK_MS = 150;
/** Joining takes a while, as it does when people look for the code. */
const JOIN_EVERY_MS = 250;
const LOST_MS = 60_000;

const { env } = process;
const place = { url: env.STANDIN_URL ?? '', origin: env.STANDIN_ORIGIN ?? '', code: env.STANDIN_CODE ?? '' };
if (!place.url || !place.code) {
  console.error('The stand-ins need to be told where: set STANDIN_URL, STANDIN_ORIGIN and STANDIN_CODE.');
  process.exit(1);
}
// A camera posts by http, which has no way of its own to take a certificate of this machine.
if (place.url.startsWith('wss://127.')) process.env.NODE_TLS_REJECT_UNAUTHORIZED = '0';
const seed = Number(env.STANDIN_SEED ?? 1);
const count = Number(env.STANDIN_STUDENTS ?? 8);
const level = (env.STANDIN_LEVEL ?? 'beginner') as Level;

const students: ReturnType<typeof student>[] = [];
const joining = setInterval(() => {
  if (students.length >= count) return clearInterval(joining);
  students.push(student(place, students.length, level, seed));
}, JOIN_EVERY_MS);
const air = sensor(place, env.STANDIN_SENSOR ?? '', seed);
const eye = env.STANDIN_CAMERA ? camera(place, env.STANDIN_CAMERA, air.socket) : null;

const leave = (): void => {
  clearInterval(ticking);
  clearInterval(joining);
  for (const one of [...students, air]) one.socket.leave();
  setTimeout(() => process.exit(0), 200);
};
const ticking = setInterval(() => {
  for (const one of students) one.tick();
  if (env.STANDIN_AIR === '1') air.tick();
  eye?.tick();
  if (air.socket.state.phase === 'ended' || air.socket.lostMs > LOST_MS) leave();
}, TICK_MS);
process.on('SIGTERM', leave);
process.on('SIGINT', leave);

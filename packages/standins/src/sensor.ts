import { uniform } from '@viaticum/core/pace';
import { classSocket, type Place } from './socket.js';

const EVERY_MS = 60_000;

/** The air of a room in which people paint, minutes after they came: it warms, and grows damp until somebody opens a window. */
export function airAt(
  start: { airC: number; humidity: number },
  minutes: number,
  seed: number,
): { airC: number; humidity: number } {
  const draw = uniform(seed);
  const [phase, windowAt] = [draw() * 6.28, 45 + draw() * 30];
  const warm = 2.5 * (1 - Math.exp(-minutes / 22)) + 0.3 * Math.sin(phase + minutes / 9);
  const damp = 0.12 * (1 - Math.exp(-minutes / 25)) + 0.012 * Math.sin(phase + minutes / 6);
  const aired = Math.max(0, Math.min(1, (minutes - windowAt) / 6));
  return {
    airC: Math.round((start.airC + warm - 2.2 * aired) * 10) / 10,
    humidity: Math.round(Math.min(0.95, Math.max(0.1, start.humidity + damp - 0.1 * aired)) * 1000) / 1000,
  };
}

/** A simulated room sensor: tells the class the temperature and humidity once a minute of the class's time. */
export function sensor(place: Place, key: string, seed: number) {
  const socket = classSocket(place, 'sensor', key);
  let saidAt = 0;
  return {
    socket,
    tick(): void {
      const { state } = socket;
      const [first] = state.visits;
      if (!socket.isHere || !state.plan || !first || !['running', 'held'].includes(state.phase)) return;
      const now = socket.now();
      if (now - saidAt < EVERY_MS) return;
      saidAt = now;
      void socket.say({ type: 'climate', ...airAt(state.plan.room, (now - first.startedAt) / 60_000, seed) });
    },
  };
}

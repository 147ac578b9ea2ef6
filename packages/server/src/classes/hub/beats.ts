import { say } from '@viaticum/contract';
import type { Seat } from './seat.js';

/** With several servers: how often a hub says who is here and looks for what it missed. */
const PULSE_MS = 4000;
/** Who has not said hello by then, or not answered two of these, is gone. */
const HELLO_MS = 15_000;
const HEARTBEAT_MS = 30_000;

/** Begins the pulse of a hub, and ends connections that do not answer any more; gives how to stop both. */
export function beats(seats: ReadonlySet<Seat>, pulse: () => void): () => void {
  const pulses = setInterval(pulse, PULSE_MS).unref();
  const heartbeat = setInterval(() => {
    for (const seat of seats) {
      if (!seat.alive) seat.socket.terminate();
      else {
        seat.alive = false;
        seat.socket.ping();
      }
    }
  }, HEARTBEAT_MS).unref();
  return () => {
    clearInterval(heartbeat);
    clearInterval(pulses);
  };
}

/** Listens to a seat's socket from its first frame until it closes. */
export function attend(
  seat: Seat,
  { listen, leave }: { listen: (data: Buffer, isBinary: boolean) => void; leave: () => void },
): void {
  const { socket } = seat;
  seat.late = setTimeout(() => socket.close(1008, say('Say hello first. Reload the page.')), HELLO_MS).unref();
  socket.on('message', listen);
  socket.on('pong', () => {
    seat.alive = true;
  });
  socket.on('error', () => socket.terminate());
  socket.on('close', leave);
}

import type { ClassEvent, ServerFrame } from '@viaticum/contract';
import type { WebSocket } from 'ws';

/** Events in one frame of those that are sent in pieces. */
const PIECE = 500;
/** A socket with so much unsent gets no live events: it is told what it missed when it has read. */
const SLOW_BYTES = 256 * 1024;
/** One with so much unsent reads nothing: it is ended, and catches up when it returns. */
const MOST_BYTES = 1024 * 1024;

/** A socket and what it was sent of the log. */
export type Line = { socket: WebSocket; sentTo: number; catching: boolean };
export const newLine = (socket: WebSocket): Line => ({ socket, sentTo: 0, catching: false });

/** Sends frames to the sockets of a class, so that one that does not read costs nobody else anything. */
export function fanOut(after: (seq: number, most: number) => ClassEvent[]) {
  const write = (line: Line, data: Buffer | string, sent?: () => void): void => {
    if (line.socket.bufferedAmount > MOST_BYTES) line.socket.terminate();
    else line.socket.send(data, { binary: false }, (error) => !error && sent?.());
  };
  /** What a line has not been sent yet, piece by piece: the next when the last has been read. */
  const catchUp = (line: Line): void => {
    if (line.catching) return;
    const events = after(line.sentTo, PIECE);
    const [first] = events;
    if (!first) return;
    line.catching = true;
    line.sentTo = events.at(-1)?.seq as number;
    write(line, JSON.stringify({ type: 'events', from: first.seq, to: line.sentTo, events } satisfies ServerFrame), () => {
      line.catching = false;
      catchUp(line);
    });
  };
  return {
    send: (line: Line, frame: ServerFrame): void => write(line, JSON.stringify(frame)),
    /** One frame for many, encoded once. */
    toAll(lines: Iterable<Line>, frame: ServerFrame): void {
      const bytes = Buffer.from(JSON.stringify(frame));
      for (const line of lines) write(line, bytes);
    },
    /** Fresh events, encoded once for all who were sent what comes before them. */
    events(lines: Iterable<Line>, events: ClassEvent[]): void {
      const [from, to] = [events[0]?.seq as number, events.at(-1)?.seq as number];
      const bytes = Buffer.from(JSON.stringify({ type: 'events', from, to, events } satisfies ServerFrame));
      for (const line of lines) {
        if (line.sentTo >= to) continue;
        if (line.sentTo === from - 1 && line.socket.bufferedAmount < SLOW_BYTES) {
          line.sentTo = to;
          write(line, bytes);
        } else catchUp(line);
      }
    },
    /** The first frame of a line, with the first piece of what it missed. */
    hello(line: Line, seq: number, frame: (events: ClassEvent[]) => ServerFrame): void {
      const events = after(seq, PIECE);
      line.sentTo = events.at(-1)?.seq ?? seq;
      line.catching = true;
      write(line, JSON.stringify(frame(events)), () => {
        line.catching = false;
        catchUp(line);
      });
    },
  };
}
export type FanOut = ReturnType<typeof fanOut>;

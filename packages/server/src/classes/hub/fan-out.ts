import type { ClassEvent, ServerFrame } from '@viaticum/contract';
import { type Eye, seenBy } from '@viaticum/core/class';
import type { WebSocket } from 'ws';
import type { Stretch } from '../log/copy.js';

/** Events in one frame of those that are sent in pieces. */
const PIECE = 500;
/** A socket with so much unsent gets no live events: it is told what it missed when it has read. */
const SLOW_BYTES = 256 * 1024;
/** One with so much unsent reads nothing: it is ended, and catches up when it returns. */
const MOST_BYTES = 1024 * 1024;

/**
 * A socket, what it sees of the log, how far it was sent what it sees, and how far it knows that it was: what is not for it passes without
 * a frame.
 */
export type Line = { socket: WebSocket; eye: Eye; sentTo: number; told: number; catching: boolean };
export const newLine = (socket: WebSocket, eye: Eye): Line => ({ socket, eye, sentTo: 0, told: 0, catching: false });

/** Fresh events as each eye sees them, picked and encoded once for all who see the same. */
function freshFor(events: readonly ClassEvent[]): (line: Line) => Buffer | null {
  const to = events.at(-1)?.seq as number;
  const named = new Set(events.flatMap(({ body }) => ('studentId' in body ? [body.studentId] : [])));
  const seen = new Map<string, string>();
  const frames = new Map<string, Buffer>();
  return ({ eye, told }) => {
    // Whom none of it names sees what nobody in particular does.
    const who = eye.sees === 'own' ? `own ${eye.studentId !== null && named.has(eye.studentId) ? eye.studentId : ''}` : eye.sees;
    const text = seen.get(who) ?? JSON.stringify(events.flatMap((event) => seenBy(eye, event) ?? []));
    seen.set(who, text);
    if (text === '[]') return null;
    const key = `${told} ${who}`;
    const frame = frames.get(key) ?? Buffer.from(`{"type":"events","from":${told + 1},"to":${to},"events":${text}}`);
    frames.set(key, frame);
    return frame;
  };
}

/** Sends frames to the sockets of a class, so that one that does not read costs nobody else anything. */
export function fanOut(after: (seq: number, most: number, eye: Eye) => Stretch) {
  const write = (line: Line, data: Buffer | string, sent?: () => void): void => {
    if (line.socket.bufferedAmount > MOST_BYTES) line.socket.terminate();
    else line.socket.send(data, { binary: false }, (error) => !error && sent?.());
  };
  /** What a line has not been sent yet, piece by piece: the next when the last has been read. */
  const catchUp = (line: Line): void => {
    if (line.catching) return;
    const stretch = after(line.told, PIECE, line.eye);
    if (stretch.to === line.told) return;
    line.catching = true;
    line.sentTo = line.told = stretch.to;
    write(line, JSON.stringify({ type: 'events', ...stretch } satisfies ServerFrame), () => {
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
    /** Fresh events, to all who were sent what comes before them. */
    events(lines: Iterable<Line>, events: ClassEvent[]): void {
      const [from, to] = [events[0]?.seq as number, events.at(-1)?.seq as number];
      const fresh = freshFor(events);
      for (const line of lines) {
        if (line.sentTo >= to) continue;
        if (line.sentTo === from - 1 && line.socket.bufferedAmount < SLOW_BYTES) {
          line.sentTo = to;
          const frame = fresh(line);
          if (!frame) continue;
          line.told = to;
          write(line, frame);
        } else catchUp(line);
      }
    },
    /** The first frame of a line, with the first piece of what it missed. */
    hello(line: Line, seq: number, frame: (stretch: Stretch) => ServerFrame): void {
      const stretch = after(seq, PIECE, line.eye);
      line.sentTo = line.told = stretch.to;
      line.catching = true;
      write(line, JSON.stringify(frame(stretch)), () => {
        line.catching = false;
        catchUp(line);
      });
    },
  };
}
export type FanOut = ReturnType<typeof fanOut>;

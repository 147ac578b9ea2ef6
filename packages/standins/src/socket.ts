import type { ClientFrame, Command, ServerFrame } from '@viaticum/contract';
import { type ClassState, classTime, foldStretch, newClass } from '@viaticum/core/class';
import WebSocket from 'ws';

/** Where a stand-in connects: the same address as everybody's, with the class's code. */
export type Place = { url: string; origin: string; code: string };

/** As phones do. */
const RETRY_MS = [300, 600, 1000, 1000, 1000, 1000, 1000, 1000, 1000, 1000, 2000];
const isLoopback = (url: string) => /\/\/(127\.|localhost|\[::1)/.test(url);
/** How wrong the clock of a stand-in may be, ms. */
const BOUND_MS = 500;
let ids = 0;

/** The clock of this device, which may be wrong. */
const clock = (skewMs: number) => Date.now() + skewMs;

/** One connection to a class over the public protocol: it folds what it hears and mends itself until it is told to leave. */
export function classSocket(place: Place, role: 'phone' | 'sensor', key = '', skewMs = 0) {
  let socket: WebSocket | null = null;
  let state: ClassState = newClass();
  let offset = 0;
  let greeted = false;
  let left = false;
  let away = false;
  let you: string | null = null;
  let token: string | undefined;
  let lostAt: number | null = null;
  let attempts = 0;
  const waiting = new Map<string, { command: Command; when: object; done: (ok: boolean) => void }>();

  const send = (frame: ClientFrame) => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify(frame));
  const open = (): void => {
    if (left || away) return;
    const fresh = new WebSocket(`${place.url}/api/live/${place.code}?as=${role}`, {
      headers: { origin: place.origin },
      // A certificate of one's own is nobody else's on this very machine.
      ...(isLoopback(place.url) && { rejectUnauthorized: false }),
    });
    socket = fresh;
    fresh.on('open', () => send({ type: 'hello', after: state.seq, ...(token && { token }), ...(key && { key }) }));
    fresh.on('message', (data) => hear(JSON.parse(String(data)) as ServerFrame));
    fresh.on('error', () => undefined);
    fresh.on('close', () => {
      if (socket !== fresh) return;
      greeted = false;
      lostAt ??= Date.now();
      const wait = RETRY_MS[Math.min(attempts++, RETRY_MS.length - 1)] as number;
      setTimeout(open, wait * (0.75 + Math.random() / 2));
    });
  };
  const hear = (frame: ServerFrame): void => {
    if (frame.type === 'hello') {
      offset = frame.now - clock(skewMs);
      state = foldStretch(frame.from === 1 ? newClass() : state, frame.events, frame.to);
      you = frame.you ?? you;
      greeted = true;
      attempts = 0;
      lostAt = null;
      for (const [id, { command, when }] of waiting) send({ type: 'command', id, command, ...when });
    } else if (frame.type === 'events') {
      if (frame.from > state.seq + 1) socket?.close();
      else foldStretch(state, frame.events, frame.to);
    } else if (frame.type === 'ack' || frame.type === 'refused') {
      if (frame.type === 'ack' && frame.token) {
        token = frame.token;
        you = frame.studentId ?? null;
      }
      waiting.get(frame.id)?.done(frame.type === 'ack');
      waiting.delete(frame.id);
    }
  };
  open();
  return {
    get state() {
      return state;
    },
    get you() {
      return you;
    },
    get isHere() {
      return greeted;
    },
    /** How long nothing has been heard, ms. */
    get lostMs() {
      return lostAt === null ? 0 : Date.now() - lostAt;
    },
    /** The class's own time, ms. */
    now: () => classTime(state, clock(skewMs) + offset),
    /** Gives a command; true when it is committed, false when it is refused, however often the connection breaks meanwhile. */
    say(command: Command, id = `standin${process.pid}x${ids++}`): Promise<boolean> {
      return new Promise((done) => {
        // Said without a network it is dated, as a phone does.
        const when = greeted ? {} : { pressed: clock(skewMs) + offset, bound: BOUND_MS, seenSeq: state.seq };
        waiting.set(id, { command, when, done });
        if (greeted) send({ type: 'command', id, command });
      });
    },
    /** Sends what is waiting once more, in another order: a bad network does so. */
    repeat(): void {
      if (greeted) for (const [id, { command, when }] of [...waiting].reverse()) send({ type: 'command', id, command, ...when });
    },
    /** Walks out of the network's reach for so many ms of real time. */
    goAway(ms: number): void {
      if (away) return;
      away = true;
      socket?.terminate();
      setTimeout(() => {
        away = false;
        open();
      }, ms);
    },
    /** Forgets all and begins from nothing, as a phone that was reloaded does. */
    forget(): void {
      state = newClass();
      socket?.terminate();
    },
    leave(): void {
      left = true;
      socket?.close();
    },
  };
}
export type ClassSocket = ReturnType<typeof classSocket>;

import type { ClientFrame, Command, ServerFrame } from '@viaticum/contract';
import { type ClassState, classTime, fold, newClass } from '@viaticum/core/class';
import WebSocket from 'ws';

/** Where a stand-in connects: the same address as everybody's, with the class's code. */
export type Place = { url: string; origin: string; code: string };
export type Memory = { token?: string };

const RETRY_MS = 400;
const isLoopback = (url: string) => /\/\/(127\.|localhost|\[::1)/.test(url);
let ids = 0;

/** One connection to a class over the public protocol: it folds what it hears and mends itself until it is told to leave. */
export function classSocket(place: Place, role: 'phone' | 'sensor', key = '') {
  let socket: WebSocket | null = null;
  let state: ClassState = newClass();
  let offset = 0;
  let greeted = false;
  let left = false;
  let away = false;
  let you: string | null = null;
  let token: string | undefined;
  let lostAt: number | null = null;
  const waiting = new Map<string, { command: Command; done: (ok: boolean) => void }>();

  const send = (frame: ClientFrame) => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify(frame));
  const open = (): void => {
    if (left || away) return;
    const fresh = new WebSocket(`${place.url}/api/live/${place.code}?as=${role}${key ? `&key=${encodeURIComponent(key)}` : ''}`, {
      headers: { origin: place.origin },
      // A certificate of one's own is nobody else's on this very machine.
      ...(isLoopback(place.url) && { rejectUnauthorized: false }),
    });
    socket = fresh;
    fresh.on('open', () => send({ type: 'hello', after: state.seq, ...(token && { token }) }));
    fresh.on('message', (data) => hear(JSON.parse(String(data)) as ServerFrame));
    fresh.on('error', () => undefined);
    fresh.on('close', () => {
      if (socket !== fresh) return;
      greeted = false;
      lostAt ??= Date.now();
      setTimeout(open, RETRY_MS);
    });
  };
  const hear = (frame: ServerFrame): void => {
    if (frame.type === 'hello') {
      offset = frame.now - Date.now();
      for (const event of frame.events) fold(state, event);
      you = frame.you ?? you;
      greeted = true;
      lostAt = null;
      for (const [id, { command }] of waiting) send({ type: 'command', id, command });
    } else if (frame.type === 'events') {
      if (frame.from > state.seq + 1) socket?.close();
      else for (const event of frame.events) fold(state, event);
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
    now: () => classTime(state, Date.now() + offset),
    say(command: Command): Promise<boolean> {
      return new Promise((done) => {
        const id = `standin${process.pid}x${ids++}`;
        waiting.set(id, { command, done });
        if (greeted) send({ type: 'command', id, command });
      });
    },
    /** Walks out of the network's reach for so many ms of real time. */
    goAway(ms: number): void {
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

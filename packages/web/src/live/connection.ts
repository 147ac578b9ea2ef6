import {
  type AtTheDoor,
  type Away,
  CLOSED,
  type ClientFrame,
  type Command,
  type ServerFrame,
  sayAgain,
} from '@viaticum/contract';
import {
  type ClassState,
  classTime,
  foldStretch,
  isKept,
  type Kept,
  newClass,
  phoneClock,
  type Reading,
} from '@viaticum/core/class';
import { createStore } from 'zustand/vanilla';
import { liveWords as w } from '../words/live.js';
import type { KeptRows } from './kept-rows.js';
import { type Answer, commandOutbox } from './outbox.js';

const PING_MS = 4000;
const SILENCE_MS = 9000;
const AT_ONCE_MS = 2000;
const KEEP_MS = 400;
/** What moves the class is not said later than this: by then it may mean something else. */
const TOO_LATE_MS = 5000;
/** Never long: once the server is back, the last phone is within three seconds. */
const RETRY_MS = [300, 600, 1000, 1000, 1000, 1000, 1000, 1000, 1000, 1000, 2000];

export type LiveSnapshot = {
  /** Counts up with every change; the state is folded in place. */
  version: number;
  state: ClassState;
  online: boolean;
  ready: boolean;
  you: string | null;
  connected: readonly string[];
  /** Since when (the server's ms) students who were connected are not. */
  away: Away;
  /** What was said here and the server has not answered yet, the oldest first. */
  kept: readonly Kept[];
  /** What had waited for a network and was heard last, and when (class time, ms). */
  sent: { command: Command; at: number } | null;
  refusal: string | null;
  /** The server ended the connection for good: why, in a sentence. */
  ended: string | null;
  /** The join of this phone waits for the desk's yes. */
  isAtDoor: boolean;
  /** Who waits for this desk's yes. */
  door: readonly AtTheDoor[];
  /** Why nothing can be stored just now. */
  storage: string | null;
  /** When the camera's newest picture came, on the desk. */
  camera: { at: number; simulated: boolean } | null;
};
/** A connection on which nothing special is the matter. */
export const calm = {
  connected: [],
  away: {},
  kept: [],
  sent: null,
  refusal: null,
  ended: null,
  isAtDoor: false,
  door: [],
  storage: null,
  camera: null,
} as const;
export type Role = 'desk' | 'co' | 'phone' | 'wall' | 'assistant';
/** What a connection remembers beyond itself: who this phone is, and the class as it was when it was last heard of. */
export type Memory = {
  token: string | null;
  keepToken: (token: string) => void;
  /** The key of an assistant's link. */
  key?: string;
  kept?: { state: ClassState; you: string | null } | null;
  keep?: (state: ClassState, you: string | null) => void;
  /** Where what is said waits that has no answer yet. */
  rows?: KeptRows;
  /** How far ahead the server's clock was when it was last heard. */
  clock?: { stored: Reading | null; keep: (reading: Reading) => void };
};

/**
 * The connection of a desk or a phone to its class: folds events, keeps the server's clock, and mends itself. Commands wait in
 * an outbox by their id until the server has answered; after a reconnect they are sent again under the same id.
 */
export function liveConnection(code: string, as: Role, memory: Memory) {
  let socket: WebSocket | null = null;
  let attempts = 0;
  let heard = 0;
  const clock = phoneClock(memory.clock?.stored);
  const mono = (): number => performance.now();
  const reading = (): Reading => clock.reading(Date.now(), mono());
  let closed = false;
  let greeted = false;
  let head = 0;
  let keeping: ReturnType<typeof setTimeout> | null = null;
  const store = createStore<LiveSnapshot>(() => ({
    version: 0,
    state: memory.kept?.state ?? newClass(),
    online: false,
    // What is remembered is shown at once; whether anything happened since is heard with hello.
    ready: Boolean(memory.kept),
    you: memory.kept?.you ?? null,
    ...calm,
  }));
  const latest = store.getState;
  const keepSoon = (): void => {
    if (!memory.keep) return;
    keeping ??= setTimeout(() => {
      keeping = null;
      memory.keep?.(latest().state, latest().you);
    }, KEEP_MS);
  };

  const set = (next: Partial<LiveSnapshot>): void => {
    store.setState({ ...next, version: latest().version + 1 });
  };
  const send = (frame: ClientFrame): void => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(frame));
  };
  /** The class's time in ms: the server's, or a rehearsal's own. */
  const now = (): number => classTime(latest().state, clock.now(Date.now(), mono()));
  const isLate = ({ wall }: { wall: number }): boolean => Date.now() - wall > AT_ONCE_MS;
  const outbox = commandOutbox(memory.rows ?? null, () => set({ kept: outbox.rows() }));
  /** Says what waits, as much of it as may be on its way. */
  const flush = (): void => {
    if (!greeted) return;
    const next = outbox.next().map(({ id, command, pressed: { wall, offset, bound, seenSeq } }) => ({
      id,
      command,
      // What is said at once is dated by the server.
      ...(isLate({ wall }) && isKept(command) && { pressed: wall + offset, bound, seenSeq }),
    }));
    const [first] = next;
    if (first && next.length === 1) send({ type: 'command', ...first });
    else if (first) send({ type: 'commands', commands: next });
  };
  const settle = (id: string, answer: Answer): void => {
    const settled = outbox.settle(id, answer);
    if (settled && answer.ok && isLate(settled.pressed)) set({ sent: { command: settled.command, at: now() } });
    if (latest().isAtDoor && settled?.command.type === 'join') set({ isAtDoor: false });
    flush();
  };

  const hear = (frame: ServerFrame): void => {
    heard = Date.now();
    if (frame.type === 'pong') {
      clock.trip(frame.sent, Date.now(), mono(), frame.now);
      memory.clock?.keep(reading());
    } else if (frame.type === 'hello') {
      attempts = 0;
      clock.first(Date.now(), frame.now);
      // What was known of a class in which this phone was nobody yet is known anew.
      const state = foldStretch(frame.from === 1 ? newClass() : latest().state, frame.events, frame.to);
      greeted = true;
      head = frame.head;
      // A long log comes in pieces: shown when all of it is here.
      const ready = latest().ready || state.seq >= head;
      const { you, connected, away } = frame;
      set({ state, online: true, ready, you, connected, away, door: [], storage: null, isAtDoor: false });
      keepSoon();
      flush();
    } else if (frame.type === 'events') {
      if (frame.from > latest().state.seq + 1)
        socket?.close(); // something is missing: say hello again
      else {
        foldStretch(latest().state, frame.events, frame.to);
        set(latest().ready || latest().state.seq < head ? {} : { ready: true });
        keepSoon();
      }
    } else if (frame.type === 'presence') set({ connected: frame.connected, away: frame.away });
    else if (frame.type === 'camera') set({ camera: { at: frame.at, simulated: frame.simulated } });
    else if (frame.type === 'waiting') set({ isAtDoor: true });
    else if (frame.type === 'door') set({ door: frame.waiting });
    else if (frame.type === 'storage') set({ storage: frame.fault });
    else if (frame.type === 'ack') {
      if (frame.token && frame.studentId) {
        memory.token = frame.token;
        memory.keepToken(frame.token);
        set({ you: frame.studentId });
      }
      settle(frame.id, { ok: true });
    } else if (frame.type === 'refused') {
      const message = sayAgain(frame.message);
      set({ refusal: message });
      settle(frame.id, { ok: false, message });
    }
  };

  /** What moves the class is given up where there is no network for it: it is said again by who wants it then. */
  const notTooLate = (id: string): void => {
    setTimeout(() => {
      if (!outbox.waits(id) || closed) return;
      if (greeted) return notTooLate(id);
      set({ refusal: w.sayAgain });
      settle(id, { ok: false, message: w.sayAgain });
    }, TOO_LATE_MS);
  };

  const open = (): void => {
    if (closed) return;
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const fresh = new WebSocket(`${scheme}://${location.host}/api/live/${encodeURIComponent(code)}?as=${as}`);
    socket = fresh;
    heard = Date.now();
    fresh.onopen = () => {
      send({
        type: 'hello',
        after: latest().state.seq,
        ...(memory.token ? { token: memory.token } : {}),
        ...(memory.key ? { key: memory.key } : {}),
      });
      send({ type: 'ping', sent: Date.now() });
    };
    fresh.onmessage = (message) => hear(JSON.parse(String(message.data)) as ServerFrame);
    fresh.onclose = ({ code: why, reason }) => {
      if (socket !== fresh) return;
      socket = null;
      greeted = false;
      outbox.broken();
      if (why === CLOSED.signedOut || why === CLOSED.noLink || why === CLOSED.over) {
        closed = true;
        set({ online: false, ended: sayAgain(reason) });
        return;
      }
      if (latest().online) set({ online: false });
      const wait = RETRY_MS[Math.min(attempts++, RETRY_MS.length - 1)] as number;
      setTimeout(open, wait * (0.75 + Math.random() / 2));
    };
  };
  const heartbeat = setInterval(() => {
    // A clock that is set while there is no network is noticed, and remembered.
    memory.clock?.keep(reading());
    if (socket?.readyState === WebSocket.OPEN && Date.now() - heard > SILENCE_MS) socket.close();
    else send({ type: 'ping', sent: Date.now() });
  }, PING_MS);
  const wake = () => document.visibilityState === 'visible' && send({ type: 'ping', sent: Date.now() });
  document.addEventListener('visibilitychange', wake);
  open();
  void outbox.load().then(flush);

  return {
    get: latest,
    subscribe: store.subscribe,
    now,
    /** Gives a command; resolves when it is committed or refused, however often the connection breaks meanwhile. */
    say(command: Command): Promise<Answer> {
      const { id, answer } = outbox.put(command, { wall: Date.now(), ...reading(), seenSeq: latest().state.seq });
      if (latest().refusal) set({ refusal: null });
      flush();
      if (!isKept(command)) notTooLate(id);
      return answer;
    },
    /** The desk's answer to those at the door. */
    admit: (ids: string[], yes: boolean) => send({ type: 'admit', ids, yes }),
    clearRefusal: () => set({ refusal: null }),
    close(): void {
      closed = true;
      clearInterval(heartbeat);
      if (keeping) clearTimeout(keeping);
      document.removeEventListener('visibilitychange', wake);
      socket?.close();
    },
  };
}
export type LiveConnection = ReturnType<typeof liveConnection>;

export const closeConnection = (connection: LiveConnection): void => connection.close();

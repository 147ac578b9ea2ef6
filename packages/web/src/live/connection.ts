import { type AtTheDoor, CLOSED, type ClientFrame, type Command, type ServerFrame } from '@viaticum/contract';
import { type ClassState, classTime, fold, newClass } from '@viaticum/core/class';
import { createStore } from 'zustand/vanilla';
import { type Answer, commandOutbox } from './outbox.js';
import { serverClock } from './server-clock.js';

const PING_MS = 4000;
const SILENCE_MS = 9000;
const KEEP_MS = 400;
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
  refusal: null,
  ended: null,
  isAtDoor: false,
  door: [],
  storage: null,
  camera: null,
} as const;
export type Role = 'desk' | 'phone' | 'assistant';
/** What a connection remembers beyond itself: who this phone is, and the class as it was when it was last heard of. */
export type Memory = {
  token: string | null;
  keepToken: (token: string) => void;
  /** The key of an assistant's link. */
  key?: string;
  kept?: { state: ClassState; you: string | null } | null;
  keep?: (state: ClassState, you: string | null) => void;
};

/**
 * The connection of a desk or a phone to its class: folds events, keeps the server's clock, and mends itself. Commands wait in
 * an outbox by their id until the server has answered; after a reconnect they are sent again under the same id.
 */
export function liveConnection(code: string, as: Role, memory: Memory) {
  let socket: WebSocket | null = null;
  let attempts = 0;
  let heard = 0;
  const clock = serverClock();
  let closed = false;
  let greeted = false;
  let head = 0;
  let keeping: ReturnType<typeof setTimeout> | null = null;
  const outbox = commandOutbox();
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
  const settle = (id: string, answer: Answer): void => {
    const settled = outbox.settle(id, answer);
    if (latest().isAtDoor && settled?.type === 'join') set({ isAtDoor: false });
  };

  const hear = (frame: ServerFrame): void => {
    heard = Date.now();
    if (frame.type === 'pong') clock.trip(frame.sent, frame.now);
    else if (frame.type === 'hello') {
      attempts = 0;
      clock.first(frame.now);
      for (const event of frame.events) fold(latest().state, event);
      greeted = true;
      head = frame.head;
      // A long log comes in pieces: shown when all of it is here.
      const ready = latest().ready || latest().state.seq >= head;
      set({ online: true, ready, you: frame.you, connected: frame.connected, door: [], storage: null, isAtDoor: false });
      keepSoon();
      for (const [id, command] of outbox.waiting()) send({ type: 'command', id, command });
    } else if (frame.type === 'events') {
      if (frame.from > latest().state.seq + 1)
        socket?.close(); // something is missing: say hello again
      else {
        for (const event of frame.events) fold(latest().state, event);
        set(latest().ready || latest().state.seq < head ? {} : { ready: true });
        keepSoon();
      }
    } else if (frame.type === 'presence') set({ connected: frame.connected });
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
      set({ refusal: frame.message });
      settle(frame.id, { ok: false, message: frame.message });
    }
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
      if (why === CLOSED.signedOut || why === CLOSED.noLink) {
        closed = true;
        set({ online: false, ended: reason });
        return;
      }
      if (latest().online) set({ online: false });
      const wait = RETRY_MS[Math.min(attempts++, RETRY_MS.length - 1)] as number;
      setTimeout(open, wait * (0.75 + Math.random() / 2));
    };
  };
  const heartbeat = setInterval(() => {
    if (socket?.readyState === WebSocket.OPEN && Date.now() - heard > SILENCE_MS) socket.close();
    else send({ type: 'ping', sent: Date.now() });
  }, PING_MS);
  const wake = () => document.visibilityState === 'visible' && send({ type: 'ping', sent: Date.now() });
  document.addEventListener('visibilitychange', wake);
  open();

  return {
    get: latest,
    subscribe: store.subscribe,
    /** The class's time in ms: the server's, or a rehearsal's own. */
    now: () => classTime(latest().state, clock.now()),
    /** Gives a command; resolves when it is committed or refused, however often the connection breaks meanwhile. */
    say(command: Command): Promise<Answer> {
      const { id, answer } = outbox.put(command);
      if (latest().refusal) set({ refusal: null });
      if (greeted) send({ type: 'command', id, command });
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

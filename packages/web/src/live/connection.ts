import type { ClientFrame, Command, ServerFrame } from '@viaticum/contract';
import { type ClassState, fold, newClass } from '@viaticum/core/class';

const PING_MS = 4000;
const SILENCE_MS = 9000;
const RETRY_MS = [300, 600, 1200, 2500, 4000];

export type LiveSnapshot = {
  /** Counts up with every change; the state is folded in place. */
  version: number;
  state: ClassState;
  online: boolean;
  ready: boolean;
  you: string | null;
  connected: readonly string[];
  refusal: string | null;
};
type Outgoing = { id: string; command: Command; resolve: (answer: { ok: boolean; message?: string }) => void };

const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => 'abcdefghijklmnopqrstuvwxyz012345'[byte & 31]).join('');

/**
 * The connection of a desk or a phone to its class: folds events, keeps the server's clock, and mends itself. Commands wait in
 * an outbox by their id until the server has answered; after a reconnect they are sent again under the same id.
 */
export function liveConnection(
  code: string,
  as: 'desk' | 'phone',
  memory: { token: string | null; keepToken: (token: string) => void },
) {
  let socket: WebSocket | null = null;
  let attempts = 0;
  let heard = 0;
  let offset = 0;
  let bestTrip = Number.POSITIVE_INFINITY;
  let closed = false;
  const outbox = new Map<string, Outgoing>();
  const listeners = new Set<() => void>();
  let snapshot: LiveSnapshot = {
    version: 0,
    state: newClass(),
    online: false,
    ready: false,
    you: null,
    connected: [],
    refusal: null,
  };

  const set = (next: Partial<LiveSnapshot>): void => {
    snapshot = { ...snapshot, ...next, version: snapshot.version + 1 };
    for (const listener of listeners) listener();
  };
  const send = (frame: ClientFrame): void => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(frame));
  };
  const settle = (id: string, answer: { ok: boolean; message?: string }): void => {
    outbox.get(id)?.resolve(answer);
    outbox.delete(id);
  };

  const hear = (frame: ServerFrame): void => {
    heard = Date.now();
    if (frame.type === 'pong') {
      const trip = Date.now() - frame.sent;
      if (trip <= bestTrip * 1.5) {
        bestTrip = Math.min(bestTrip, trip);
        offset = frame.now + trip / 2 - Date.now();
      }
    } else if (frame.type === 'hello') {
      attempts = 0;
      if (bestTrip === Number.POSITIVE_INFINITY) offset = frame.now - Date.now();
      for (const event of frame.events) fold(snapshot.state, event);
      set({ online: true, ready: true, you: frame.you, connected: frame.connected });
      for (const { id, command } of outbox.values()) send({ type: 'command', id, command });
    } else if (frame.type === 'events') {
      if (frame.from > snapshot.state.seq + 1)
        socket?.close(); // something is missing: say hello again
      else {
        for (const event of frame.events) fold(snapshot.state, event);
        set({});
      }
    } else if (frame.type === 'presence') set({ connected: frame.connected });
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
      send({ type: 'hello', after: snapshot.state.seq, ...(memory.token ? { token: memory.token } : {}) });
      send({ type: 'ping', sent: Date.now() });
    };
    fresh.onmessage = (message) => hear(JSON.parse(String(message.data)) as ServerFrame);
    fresh.onclose = () => {
      if (socket !== fresh) return;
      socket = null;
      if (snapshot.online) set({ online: false });
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
    get: () => snapshot,
    subscribe(listener: () => void): () => void {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    /** The server's time in ms. */
    now: () => Date.now() + offset,
    /** Gives a command; resolves when it is committed or refused, however often the connection breaks meanwhile. */
    say(command: Command): Promise<{ ok: boolean; message?: string }> {
      return new Promise((resolve) => {
        const id = newId();
        outbox.set(id, { id, command, resolve });
        if (snapshot.refusal) set({ refusal: null });
        if (snapshot.ready) send({ type: 'command', id, command });
      });
    },
    clearRefusal: () => set({ refusal: null }),
    close(): void {
      closed = true;
      clearInterval(heartbeat);
      document.removeEventListener('visibilitychange', wake);
      socket?.close();
    },
  };
}
export type LiveConnection = ReturnType<typeof liveConnection>;

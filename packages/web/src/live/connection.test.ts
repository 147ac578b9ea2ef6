import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { CLOSED, type ClassEvent, type ClientFrame, type EventBody, type ServerFrame } from '@viaticum/contract';
import { fold, newClass } from '@viaticum/core/class';
import { type LiveConnection, liveConnection } from './connection.js';

/** A socket whose other end is the test. */
class Wire {
  static OPEN = 1;
  static all: Wire[] = [];
  readyState = 0;
  frames: ClientFrame[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;
  onclose: ((event: { code: number; reason: string }) => void) | null = null;
  constructor(readonly url: string) {
    Wire.all.push(this);
  }
  send(text: string): void {
    this.frames.push(JSON.parse(text));
  }
  close(code = 1006, reason = ''): void {
    this.readyState = 3;
    this.onclose?.({ code, reason });
  }
  arrive(): void {
    this.readyState = 1;
    this.onopen?.();
  }
  say(frame: ServerFrame): void {
    this.onmessage?.({ data: JSON.stringify(frame) });
  }
  commands() {
    return this.frames.flatMap((frame) => (frame.type === 'command' ? [[frame.id, frame.command.type]] : []));
  }
}

const joined = (seq: number, studentId: string): ClassEvent => ({
  seq,
  at: 1000 + seq,
  actor: studentId,
  body: { type: 'joined', v: 1, studentId, firstName: studentId, kit: [] } satisfies EventBody,
});
const hello = (events: ClassEvent[], more: Partial<Extract<ServerFrame, { type: 'hello' }>> = {}): ServerFrame => ({
  type: 'hello',
  head: events.at(-1)?.seq ?? 0,
  now: Date.now(),
  you: null,
  connected: [],
  away: {},
  from: events[0]?.seq ?? 1,
  to: events.at(-1)?.seq ?? 0,
  events,
  ...more,
});
const wire = () => Wire.all.at(-1) as Wire;
let kept: string[] = [];
let live: LiveConnection;
const connect = (token: string | null = null) => {
  live = liveConnection('CODE23', 'phone', { token, keepToken: (fresh) => kept.push(fresh) });
  wire().arrive();
  return live;
};

beforeEach(() => {
  jest.useFakeTimers({ now: 1_000_000 });
  Wire.all = [];
  kept = [];
  Object.assign(globalThis, {
    WebSocket: Wire,
    location: { protocol: 'http:', host: 'room:4870' },
    document: { addEventListener: () => undefined, removeEventListener: () => undefined, visibilityState: 'visible' },
  });
});
afterEach(() => {
  live.close();
  jest.useRealTimers();
});

describe('a connection to the class', () => {
  it('says hello with what it knows, and folds what it hears', () => {
    connect('token-of-mine');
    expect(wire().url).toBe('ws://room:4870/api/live/CODE23?as=phone');
    expect(wire().frames[0]).toEqual({ type: 'hello', after: 0, token: 'token-of-mine' });
    wire().say(hello([joined(1, 'mara')], { you: 'mara' }));
    expect(live.get()).toMatchObject({ online: true, ready: true, you: 'mara' });
    wire().say({ type: 'events', from: 2, to: 2, events: [joined(2, 'kofi')] });
    expect(Object.keys(live.get().state.students)).toEqual(['mara', 'kofi']);
  });
  it('an event heard twice counts once', () => {
    connect();
    wire().say(hello([joined(1, 'mara')]));
    wire().say({ type: 'events', from: 1, to: 1, events: [joined(1, 'mara')] });
    expect(live.get().state.seq).toBe(1);
  });
  it('a gap is never folded over: it says hello again from what it surely has', async () => {
    connect();
    wire().say(hello([joined(1, 'mara')]));
    const first = wire();
    first.say({ type: 'events', from: 3, to: 3, events: [joined(3, 'ines')] });
    expect(first.readyState).toBe(3);
    expect(live.get().online).toBe(false);
    await jest.advanceTimersByTimeAsync(500);
    expect(wire()).not.toBe(first);
    wire().arrive();
    expect(wire().frames[0]).toEqual({ type: 'hello', after: 1 });
    wire().say(hello([joined(2, 'kofi'), joined(3, 'ines')]));
    expect(live.get().state.seq).toBe(3);
  });
  it('a command waits for hello, is sent again under the same id after a break, and resolves once', async () => {
    connect();
    const answer = live.say({ type: 'join', firstName: 'Mara', kit: [] });
    expect(wire().commands()).toEqual([]);
    wire().say(hello([]));
    const [[id, type] = []] = wire().commands();
    expect(type).toBe('join');
    wire().close();
    await jest.advanceTimersByTimeAsync(500);
    wire().arrive();
    wire().say(hello([]));
    expect(wire().commands()).toEqual([[id, 'join']]);
    wire().say({ type: 'ack', id: id as string, seq: 1, token: 'fresh', studentId: 's1' });
    await expect(answer).resolves.toEqual({ ok: true });
    expect(kept).toEqual(['fresh']);
    expect(live.get().you).toBe('s1');
    wire().close();
    await jest.advanceTimersByTimeAsync(500);
    wire().arrive();
    wire().say(hello([]));
    expect(wire().commands()).toEqual([]);
    expect(wire().frames[0]).toMatchObject({ type: 'hello', token: 'fresh' });
  });
  it('what was said without a network is dated, and goes together; what moves the class is not said later', async () => {
    connect();
    wire().say(hello([], { now: Date.now() + 60_000 }));
    wire().close();
    const at = Date.now();
    void live.say({ type: 'done', studentId: 's1', stepId: 'one' });
    void live.say({ type: 'hand', studentId: 's1', reason: 'colour' });
    const goOn = live.say({ type: 'goOn', from: 0 });
    expect(live.get().kept.map(({ command }) => command.type)).toEqual(['done', 'hand', 'goOn']);
    const lost = wire();
    await jest.advanceTimersByTimeAsync(5100);
    await expect(goOn).resolves.toMatchObject({ ok: false });
    expect(live.get().refusal).toBe('No network: say it again when you are back.');
    expect(wire()).not.toBe(lost);
    wire().arrive();
    wire().say(hello([]));
    expect(wire().frames.at(-1)).toEqual({
      type: 'commands',
      commands: [
        expect.objectContaining({ command: expect.objectContaining({ type: 'done' }), pressed: at + 60_000, seenSeq: 0 }),
        expect.objectContaining({ command: expect.objectContaining({ type: 'hand' }), pressed: at + 60_000, seenSeq: 0 }),
      ],
    });
    const frame = wire().frames.at(-1);
    for (const { id } of frame?.type === 'commands' ? frame.commands : []) wire().say({ type: 'ack', id, seq: 1 });
    expect(live.get().kept).toEqual([]);
  });
  it('a window of what waits is on its way at once, the rest as it is answered', () => {
    connect();
    for (let k = 0; k < 40; k++) void live.say({ type: 'done', studentId: 's1', stepId: `step${k}` });
    wire().say(hello([]));
    const together = () => wire().frames.flatMap((frame) => (frame.type === 'commands' ? [frame.commands.length] : []));
    expect(together()).toEqual([16]);
    const first = wire().frames.at(-1);
    const ids = first?.type === 'commands' ? first.commands.map(({ id }) => id) : [];
    wire().say({ type: 'ack', id: ids[0] as string, seq: 1 });
    expect(wire().frames.at(-1)).toMatchObject({ type: 'command', command: { stepId: 'step16' } });
  });
  it('shows what it remembers at once, and hears only what came after it', () => {
    const state = newClass();
    fold(state, joined(1, 'mara'));
    const saved: number[] = [];
    live = liveConnection('CODE23', 'phone', {
      token: 'token-of-mine',
      keepToken: () => undefined,
      kept: { state, you: 'mara' },
      keep: (now) => saved.push(now.seq),
    });
    expect(live.get()).toMatchObject({ ready: true, online: false, you: 'mara' });
    const done = live.say({ type: 'handDown', studentId: 'mara' });
    wire().arrive();
    expect(wire().frames[0]).toEqual({ type: 'hello', after: 1, token: 'token-of-mine' });
    expect(wire().commands()).toEqual([]);
    wire().say(hello([joined(2, 'kofi')], { you: 'mara' }));
    expect(wire().commands()).toHaveLength(1);
    jest.advanceTimersByTime(1000);
    expect(saved).toEqual([2]);
    void done;
  });
  it('an assistant’s key goes with hello, not with the address; a rehearsal’s time runs as fast as its class says', () => {
    live = liveConnection('CODE23', 'assistant', { token: null, keepToken: () => undefined, key: '~assistant.x/y' });
    expect(wire().url).toBe('ws://room:4870/api/live/CODE23?as=assistant');
    wire().arrive();
    expect(wire().frames[0]).toEqual({ type: 'hello', after: 0, key: '~assistant.x/y' });
    const at = Date.now();
    wire().say(hello([{ seq: 1, at, actor: 'instructor', body: { type: 'speedSet', v: 1, speed: 20, real: at } }], { now: at }));
    jest.setSystemTime(at + 500);
    expect(live.now()).toBe(at + 10_000);
  });
  it('a long log comes in pieces and is shown when all of it is here', () => {
    connect();
    wire().say(hello([joined(1, 'mara')], { head: 3 }));
    expect(live.get()).toMatchObject({ online: true, ready: false });
    wire().say({ type: 'events', from: 2, to: 3, events: [joined(2, 'kofi'), joined(3, 'ines')] });
    expect(live.get().ready).toBe(true);
  });
  it('says that it waits at the door, until there is an answer; a desk hears who waits and lets them in', async () => {
    connect();
    wire().say(hello([]));
    const answer = live.say({ type: 'join', firstName: 'Mara', kit: [] });
    const [[id = ''] = []] = wire().commands();
    wire().say({ type: 'waiting', id });
    expect(live.get().isAtDoor).toBe(true);
    wire().say({ type: 'refused', id, code: 'not-admitted', message: 'You were not let in this time.' });
    await expect(answer).resolves.toMatchObject({ ok: false });
    expect(live.get().isAtDoor).toBe(false);
    wire().say({ type: 'door', waiting: [{ id: 'x', firstName: 'Kofi', why: 'taken-out' }] });
    expect(live.get().door).toHaveLength(1);
    live.admit(['x'], true);
    expect(wire().frames.at(-1)).toEqual({ type: 'admit', ids: ['x'], yes: true });
  });
  it('what cannot be stored just now is told, and told again when it can', () => {
    connect();
    wire().say(hello([]));
    wire().say({ type: 'storage', fault: 'The disk is full.' });
    expect(live.get().storage).toBe('The disk is full.');
    wire().say({ type: 'storage', fault: null });
    expect(live.get().storage).toBeNull();
  });
  it('a link that was taken back, or a session that was ended, is said and not tried again', async () => {
    connect();
    wire().say(hello([]));
    wire().close(CLOSED.noLink, 'This link was taken back.');
    expect(live.get()).toMatchObject({ online: false, ended: 'This link was taken back.' });
    const count = Wire.all.length;
    await jest.advanceTimersByTimeAsync(20_000);
    expect(Wire.all.length).toBe(count);
  });
  it('a refusal is a sentence, gone with the next command', async () => {
    connect();
    wire().say(hello([]));
    const answer = live.say({ type: 'hold' });
    wire().say({
      type: 'refused',
      id: wire().commands()[0]?.[0] as string,
      code: 'may-not',
      message: 'Only the instructor may.',
    });
    await expect(answer).resolves.toEqual({ ok: false, message: 'Only the instructor may.' });
    expect(live.get().refusal).toBe('Only the instructor may.');
    void live.say({ type: 'hold' });
    expect(live.get().refusal).toBeNull();
  });
  it('keeps the server’s clock by half the shortest round trip', () => {
    connect();
    wire().say(hello([], { now: Date.now() + 5000 }));
    expect(live.now() - Date.now()).toBe(5000);
    const sentAt = Date.now();
    jest.advanceTimersByTime(80);
    wire().say({ type: 'pong', sent: sentAt, now: sentAt + 6040 });
    expect(live.now() - Date.now()).toBe(6000);
    // A slow answer tells less than the quick one before.
    jest.advanceTimersByTime(2920);
    wire().say({ type: 'pong', sent: sentAt + 100, now: sentAt + 9000 });
    expect(live.now() - Date.now()).toBe(6000);
  });
  it('silence for nine seconds is a lost connection', async () => {
    connect();
    wire().say(hello([]));
    const first = wire();
    await jest.advanceTimersByTimeAsync(7900);
    expect(first.readyState).toBe(1);
    await jest.advanceTimersByTimeAsync(5000);
    expect(first.readyState).toBe(3);
  });
  it('tries again less and less often, and never once it was closed', async () => {
    connect();
    const waits: number[] = [];
    for (let i = 0; i < 14; i++) {
      const count = Wire.all.length;
      const from = Date.now();
      wire().close();
      while (Wire.all.length === count) await jest.advanceTimersByTimeAsync(50);
      waits.push(Date.now() - from);
    }
    expect(waits[0]).toBeLessThan(500);
    // While a server is being started again it is looked for every second.
    expect(Math.max(...waits.slice(0, 10))).toBeLessThan(1350);
    expect(waits.at(-1)).toBeGreaterThan(1400);
    expect(Math.max(...waits)).toBeLessThan(2700);
    live.close();
    const count = Wire.all.length;
    await jest.advanceTimersByTimeAsync(20_000);
    expect(Wire.all.length).toBe(count);
  });
});

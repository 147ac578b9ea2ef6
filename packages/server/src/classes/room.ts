import { randomUUID } from 'node:crypto';
import { type ClassEvent, ClientFrame, type Command, type ServerFrame } from '@viaticum/contract';
import { type Actor, type ClassState, classTime, type WorkedOut } from '@viaticum/core/class';
import { Ajv } from 'ajv';
import type { Pool } from 'mysql2/promise';
import type { WebSocket } from 'ws';
import type { Bus, BusMessage } from '../bus/bus.js';
import { sentenceFor } from '../errors.js';
import { type ClassLog, classLog } from './log.js';
import { seal, sealedBy } from './tokens.js';

const FLUSH_MS = 50;
const PRESENCE_MS = 200;
/** With several servers: how often a room says who is here and looks for what it missed, and when another server is taken for gone. */
const PULSE_MS = 4000;
const GONE_MS = 10_000;
/** More commands than this in ten seconds are no person; nor a desk with its clicker. */
const MOST_COMMANDS = 60;

const isFrame = new Ajv({ removeAdditional: false, coerceTypes: false, allErrors: true, strict: false }).compile(ClientFrame);

/** Whose screen a connection is. Only a phone may become a student. */
export type Role = 'desk' | 'assistant' | 'sensor' | 'phone';
type Seat = { socket: WebSocket; role: Role; student: string | null; greeted: boolean; commands: number; since: number };
/** Works out what a command needs that takes long, on a thread of its own. */
export type WorkOut = (state: ClassState, command: Command, now: number) => Promise<WorkedOut>;

/** A class as it is connected: one log, and everybody who follows it here. */
export function classRoom(pool: Pool, bus: Bus, found: { id: string; secret: string }, workOut: WorkOut) {
  const seats = new Set<Seat>();
  const self = randomUUID();
  const elsewhere = new Map<string, { students: string[]; at: number }>();
  let pending: ClassEvent[] = [];
  let timer: NodeJS.Timeout | null = null;
  let presenceTimer: NodeJS.Timeout | null = null;

  /** One frame for all, encoded once. */
  const toAll = (frame: ServerFrame, to: (seat: Seat) => boolean = () => true): void => {
    const bytes = Buffer.from(JSON.stringify(frame));
    for (const seat of seats) if (seat.greeted && to(seat)) seat.socket.send(bytes, { binary: false });
  };
  const flush = (): void => {
    if (timer) clearTimeout(timer);
    timer = null;
    const [first] = pending;
    if (!first) return;
    const events = pending;
    pending = [];
    toAll({ type: 'events', from: first.seq, to: events.at(-1)?.seq as number, events });
  };
  const arrive = (events: ClassEvent[], from: 'here' | 'elsewhere'): void => {
    if (from === 'here') bus.publish(found.id, { type: 'events', events });
    pending.push(...events);
    if (events.some((event) => event.actor === 'instructor')) flush();
    else timer ??= setTimeout(flush, FLUSH_MS);
  };
  const log: ClassLog = classLog(pool, found.id, arrive);

  const studentOf = (given: string | undefined): string | null => {
    const studentId = sealedBy(found.secret, given);
    return studentId && log.state.students[studentId] ? studentId : null;
  };
  const here = (): string[] => [...new Set([...seats].flatMap((seat) => seat.student ?? []))];
  const connected = (): string[] => {
    const gone = Date.now() - GONE_MS;
    for (const [server, { at }] of elsewhere) if (at < gone) elsewhere.delete(server);
    return [...new Set([...here(), ...[...elsewhere.values()].flatMap((one) => one.students)])].sort();
  };
  const watches = (seat: Seat): boolean => seat.role === 'desk' || seat.role === 'assistant';
  const send = (seat: Seat, frame: ServerFrame): void => seat.socket.send(JSON.stringify(frame));
  const tellPresence = (toOthers = true): void => {
    if (toOthers) bus.publish(found.id, { type: 'presence', server: self, students: here() });
    presenceTimer ??= setTimeout(() => {
      presenceTimer = null;
      toAll({ type: 'presence', connected: connected() }, watches);
    }, PRESENCE_MS);
  };

  const hear = (message: BusMessage): void => {
    if (message.type === 'events') log.hear(message.events);
    else if (message.type === 'camera') toAll(message, (seat) => seat.role === 'desk');
    else {
      const fresh = !elsewhere.has(message.server);
      elsewhere.set(message.server, { students: message.students, at: Date.now() });
      // A server that has just come does not know who is here.
      if (fresh) bus.publish(found.id, { type: 'presence', server: self, students: here() });
      tellPresence(false);
    }
  };
  const unsubscribe = bus.subscribe(found.id, hear);
  const pulse = bus.isShared
    ? setInterval(() => {
        if (seats.size === 0) return;
        tellPresence();
        log.look();
      }, PULSE_MS)
    : null;

  const greet = (seat: Seat, after: number, given: string | undefined): void => {
    flush(); // what is on its way goes out first, so that hello and the events after it join without a gap
    if (seat.role === 'phone') seat.student = studentOf(given);
    seat.greeted = true;
    const { head } = log;
    send(seat, {
      type: 'hello',
      head,
      now: Date.now(),
      you: seat.student,
      connected: watches(seat) ? connected() : [],
      events: log.after(Math.min(after, head)),
    });
    tellPresence();
  };

  const actorOf = (seat: Seat): Actor => {
    if (seat.role === 'desk') return { kind: 'instructor' };
    if (seat.role !== 'phone') return { kind: seat.role };
    return seat.student ? { kind: 'student', id: seat.student } : { kind: 'guest' };
  };
  const obey = async (seat: Seat, id: string, command: Command): Promise<void> => {
    const now = Date.now();
    if (now - seat.since > 10_000) Object.assign(seat, { since: now, commands: 0 });
    seat.commands += 1;
    if (seat.commands > MOST_COMMANDS) {
      seat.socket.close(1008, 'Too many commands in a short time.');
      return;
    }
    const actor = actorOf(seat);
    let worked: WorkedOut = {};
    if (command.type === 'replan' || command.type === 'climate') {
      try {
        worked = await workOut(log.state, command, classTime(log.state, Date.now()));
      } catch (error) {
        send(seat, { type: 'refused', id, code: 'no-plan', message: (error as Error).message });
        return;
      }
    }
    const result = await log.command(id, actor, command, worked);
    if ('refused' in result) {
      send(seat, { type: 'refused', id, code: result.refused.code, message: result.refused.message });
      return;
    }
    if (result.studentId && command.type === 'join' && seat.role === 'phone') {
      seat.student = result.studentId;
      tellPresence();
    }
    send(seat, {
      type: 'ack',
      id,
      seq: result.seq,
      ...(result.studentId ? { studentId: result.studentId, token: seal(found.secret, result.studentId) } : {}),
    });
  };

  return {
    log,
    get connections() {
      return seats.size;
    },
    /** Takes a socket in; a role other than phone only after it was checked. */
    enter(socket: WebSocket, role: Role): void {
      const seat: Seat = { socket, role, student: null, greeted: false, commands: 0, since: Date.now() };
      seats.add(seat);
      socket.on('message', (data: Buffer, isBinary: boolean) => {
        let frame: unknown;
        try {
          if (isBinary) throw new Error('binary');
          frame = JSON.parse(data.toString('utf8'));
        } catch {
          socket.close(1007, 'This frame could not be read. Reload the page.');
          return;
        }
        if (!isFrame(frame)) {
          const id = (frame as { id?: unknown } | null)?.id;
          if (typeof id === 'string' && (frame as { type?: unknown }).type === 'command') {
            send(seat, { type: 'refused', id, code: 'invalid', message: sentenceFor(isFrame.errors ?? []) });
            return;
          }
          socket.close(1008, 'This frame has the wrong shape. Reload the page.');
          return;
        }
        const good = frame as ClientFrame;
        if (good.type === 'ping') send(seat, { type: 'pong', sent: good.sent, now: Date.now() });
        else if (good.type === 'hello') greet(seat, good.after, good.token);
        else if (!seat.greeted) socket.close(1008, 'Say hello first. Reload the page.');
        else obey(seat, good.id, good.command).catch(() => socket.close(1011, 'Something went wrong here. It will mend itself.'));
      });
      socket.on('error', () => socket.terminate());
      socket.on('close', () => {
        seats.delete(seat);
        tellPresence();
      });
    },
    /** A picture came from the camera: the desks are told. */
    pictured(at: number, simulated: boolean): void {
      const message: BusMessage = { type: 'camera', at, simulated };
      hear(message);
      bus.publish(found.id, message);
    },
    close(): void {
      log.close();
      unsubscribe();
      if (pulse) clearInterval(pulse);
      if (timer) clearTimeout(timer);
      if (presenceTimer) clearTimeout(presenceTimer);
      for (const seat of seats) seat.socket.close(1001, 'The server is stopping.');
    },
  };
}
export type ClassRoom = ReturnType<typeof classRoom>;

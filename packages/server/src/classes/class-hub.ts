import { randomUUID } from 'node:crypto';
import {
  type AtTheDoor,
  CLOSED,
  type ClassEvent,
  ClientFrame,
  type Command,
  classErrors,
  type DeviceRole,
  type ServerFrame,
  sentenceFor,
} from '@viaticum/contract';
import { type Actor, type ClassState, classTime, may, Refusal, type WorkedOut } from '@viaticum/core/class';
import { Ajv } from 'ajv';
import type { FastifyBaseLogger } from 'fastify';
import type { Pool } from 'mysql2/promise';
import type { WebSocket } from 'ws';
import type { Bus, BusMessage } from '../bus/bus.js';
import { type Bucket, bucket } from '../guard/wrong-tries.js';
import { door } from './door.js';
import { fanOut, type Line, newLine } from './fan-out.js';
import { type ClassLog, classLog, type StorageTrouble } from './log.js';
import { seal, sealedBy } from './tokens.js';

const FLUSH_MS = 50;
const PRESENCE_MS = 200;
/** With several servers: how often a hub says who is here and looks for what it missed, and when another server is taken for gone. */
const PULSE_MS = 4000;
const GONE_MS = 10_000;
/** Who has not said hello by then, or not answered two of these, is gone. */
const HELLO_MS = 15_000;
const HEARTBEAT_MS = 30_000;
/** How much one connection may say at once and in the long run, and all behind one address: beyond it they are heard later. */
const FRAMES = { most: 300, perSecond: 10 };
const FRAMES_OF_ADDRESS = { most: 6000, perSecond: 600 };
/** A command of the wrong shape costs as much as so many. */
const INVALID_COST = 5;
const MOST_HELD = 2000;

const isFrame = new Ajv({ removeAdditional: false, coerceTypes: false, strict: false }).compile(ClientFrame);

const storageSentences: Record<StorageTrouble, string> = {
  'database-away': 'The database does not answer just now. What was said is kept and written as soon as it does.',
  'disk-full': 'The disk of the machine is full. What was said is kept; free some space and it is written by itself.',
};

/** Whose screen a connection is. Only a phone may become a student. */
export type Role = 'desk' | 'assistant' | 'sensor' | 'phone';
/** From where a connection comes, and the session of the instructor at a desk. */
export type Origin = { role: Role; address: string; session: string | null };
type Seat = Line &
  Origin & {
    student: string | null;
    /** The student whom this phone was, and who was taken out of the class. */
    takenOut: boolean;
    greeted: boolean;
    /** Ends the connection that does not say hello. */
    late: NodeJS.Timeout | null;
    alive: boolean;
    frames: Bucket;
    /** Takes it from those who wait at the door. */
    leaveDoor: (() => void) | null;
    /** Frames that are heard later, while the connection rests. */
    held: [Buffer, boolean][] | null;
  };
/** Works out what a command needs that takes long, on a thread of its own. */
type WorkOut = (state: ClassState, command: Command, now: number, caller: string) => Promise<WorkedOut>;
export type RoomParts = {
  pool: Pool;
  bus: Bus;
  found: { id: string; secret: string };
  workOut: WorkOut;
  /** Whether a key lets a device in, now. */
  isDevice: (role: DeviceRole, key: string | undefined) => Promise<boolean>;
  /** For how many the class was planned. */
  planned: () => Promise<number>;
  /** Whether the disk is full: nothing is written then. */
  isFull: () => boolean;
  log: FastifyBaseLogger;
};

/** A class as it is connected: one log, and everybody who follows it here. */
export function classHub({ pool, bus, found, workOut, isDevice, planned, isFull, log: note }: RoomParts) {
  const seats = new Set<Seat>();
  const self = randomUUID();
  const elsewhere = new Map<string, { students: string[]; waiting: AtTheDoor[]; at: number }>();
  const addresses = new Map<string, Bucket>();
  let pending: ClassEvent[] = [];
  let timer: NodeJS.Timeout | null = null;
  let presenceTimer: NodeJS.Timeout | null = null;
  let trouble: StorageTrouble | null = null;
  let emptySince = Date.now();

  const greeted = (to: (seat: Seat) => boolean = () => true): Seat[] => [...seats].filter((seat) => seat.greeted && to(seat));
  const watches = (seat: Seat): boolean => seat.role === 'desk' || seat.role === 'assistant';
  const isDesk = (seat: Seat): boolean => seat.role === 'desk';

  const flush = (): void => {
    if (timer) clearTimeout(timer);
    timer = null;
    if (pending.length === 0) return;
    const events = pending;
    pending = [];
    lines.events(greeted(), events);
  };
  const arrive = (events: ClassEvent[], from: 'here' | 'elsewhere'): void => {
    if (from === 'here') bus.publish(found.id, { type: 'events', events });
    for (const { body } of events) if (body.type === 'removed') entrance.removed(body.studentId);
    pending.push(...events);
    if (events.some((event) => event.actor === 'instructor')) flush();
    else timer ??= setTimeout(flush, FLUSH_MS);
  };
  const tellTrouble = (): ServerFrame => ({ type: 'storage', fault: trouble && storageSentences[trouble] });
  const log: ClassLog = classLog(pool, found.id, arrive, {
    isFull,
    onTrouble(now) {
      trouble = now;
      note.warn({ class: found.id, trouble: now }, now ? 'a class cannot be written' : 'a class is written again');
      lines.toAll(greeted(watches), tellTrouble());
    },
    onFailed: (command, err) => note.error({ class: found.id, command, err }, 'a command could not be carried out'),
    onPassedOver: (count) => note.warn({ class: found.id, count }, 'events that name no id were passed over'),
  });
  const lines = fanOut(log.after);

  const tellDoor = (): void => lines.toAll(greeted(isDesk), { type: 'door', waiting: atTheDoor() });
  const entrance = door(() => {
    tellPresence();
    tellDoor();
  });
  const atTheDoor = (): AtTheDoor[] => [...entrance.list(), ...[...elsewhere.values()].flatMap((one) => one.waiting)];

  const here = (): string[] => [...new Set([...seats].flatMap((seat) => seat.student ?? []))];
  const connected = (): string[] => {
    const gone = Date.now() - GONE_MS;
    for (const [server, { at }] of elsewhere) if (at < gone) elsewhere.delete(server);
    return [...new Set([...here(), ...[...elsewhere.values()].flatMap((one) => one.students)])].sort();
  };
  const present = (): BusMessage => ({ type: 'presence', server: self, students: here(), waiting: entrance.list() });
  const tellPresence = (toOthers = true): void => {
    if (toOthers) bus.publish(found.id, present());
    presenceTimer ??= setTimeout(() => {
      presenceTimer = null;
      lines.toAll(greeted(watches), { type: 'presence', connected: connected() });
    }, PRESENCE_MS);
  };

  const hear = (message: BusMessage): void => {
    switch (message.type) {
      case 'events':
        log.hear(message.events);
        break;
      case 'camera':
        lines.toAll(greeted(isDesk), message);
        break;
      case 'admit':
        entrance.answer(message.ids, message.yes);
        break;
      case 'recalled':
        endAll(
          (seat) => seat.role === message.role,
          CLOSED.noLink,
          'This link was taken back. Ask the instructor for a new one.',
        );
        break;
      case 'presence': {
        const fresh = !elsewhere.has(message.server);
        elsewhere.set(message.server, { students: message.students, waiting: message.waiting, at: Date.now() });
        // A server that has just come does not know who is here.
        if (fresh) bus.publish(found.id, present());
        tellPresence(false);
        tellDoor();
      }
    }
  };
  const endAll = (which: (seat: Seat) => boolean, code: number, reason: string): void => {
    for (const seat of [...seats].filter(which)) {
      seat.socket.close(code, reason);
      seat.greeted = false;
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
  const heartbeat = setInterval(() => {
    for (const seat of seats) {
      if (!seat.alive) seat.socket.terminate();
      else {
        seat.alive = false;
        seat.socket.ping();
      }
    }
  }, HEARTBEAT_MS).unref();

  const greet = async (seat: Seat, { after, token, key }: Extract<ClientFrame, { type: 'hello' }>): Promise<void> => {
    if ((seat.role === 'assistant' || seat.role === 'sensor') && !(await isDevice(seat.role, key))) {
      seat.socket.close(CLOSED.noLink, 'This link does not let you in. Ask the instructor for the present one.');
      return;
    }
    flush(); // what is on its way goes out first, so that hello and the events after it join without a gap
    if (seat.role === 'phone') {
      const studentId = sealedBy(found.secret, token);
      if (studentId && log.state.students[studentId]) {
        seat.student = studentId;
        entrance.came(studentId, seat.address);
      } else seat.takenOut = studentId !== null && log.state.removed.includes(studentId);
    }
    seat.greeted = true;
    if (seat.late) clearTimeout(seat.late);
    seat.late = null;
    lines.hello(seat, after, (events) => ({
      type: 'hello',
      head: log.head,
      now: Date.now(),
      you: seat.student,
      connected: watches(seat) ? connected() : [],
      events,
    }));
    if (trouble && watches(seat)) lines.send(seat, tellTrouble());
    if (isDesk(seat) && atTheDoor().length > 0) lines.send(seat, { type: 'door', waiting: atTheDoor() });
    tellPresence();
  };

  const actorOf = (seat: Seat): Actor => {
    if (seat.role === 'desk') return { kind: 'instructor' };
    if (seat.role !== 'phone') return { kind: seat.role };
    return seat.student ? { kind: 'student', id: seat.student } : { kind: 'guest' };
  };
  const refuse = (seat: Seat, id: string, { code, message }: { code: string; message: string }): void =>
    lines.send(seat, { type: 'refused', id, code, message });

  /** Carries a command out that this seat may give. */
  const obey = async (seat: Seat, id: string, command: Command, worked: WorkedOut = {}): Promise<void> => {
    const result = await log.command(id, actorOf(seat), command, worked);
    if ('refused' in result) return refuse(seat, id, result.refused);
    if (result.studentId && command.type === 'join' && seat.role === 'phone') {
      seat.student = result.studentId;
      entrance.came(result.studentId, seat.address);
      tellPresence();
    }
    lines.send(seat, {
      type: 'ack',
      id,
      seq: result.seq,
      ...(result.studentId ? { studentId: result.studentId, token: seal(found.secret, result.studentId) } : {}),
    });
  };
  /** Who may is asked before anything is worked out. */
  const consider = async (seat: Seat, id: string, command: Command): Promise<void> => {
    const actor = actorOf(seat);
    if (command.type === 'replan' || command.type === 'climate') {
      try {
        may(log.state, actor, command);
        return obey(seat, id, command, await workOut(log.state, command, classTime(log.state, Date.now()), actor.kind));
      } catch (error) {
        return refuse(
          seat,
          id,
          error instanceof Refusal ? error : new Refusal(classErrors.notWorkedOut((error as Error).message)),
        );
      }
    }
    // A phone that is in already, or has asked before, is answered by the log.
    if (command.type !== 'join' || actor.kind !== 'guest' || seat.role !== 'phone') return obey(seat, id, command);
    const why = entrance.reason(seat.address, seat.takenOut, await planned());
    if (!why || log.state.phase === 'ended' || log.state.phase === 'planned') {
      const over = entrance.coming(seat.address);
      return obey(seat, id, command).finally(over);
    }
    seat.leaveDoor?.();
    lines.send(seat, { type: 'waiting', id });
    seat.leaveDoor = entrance.wait({
      id,
      firstName: command.firstName.trim(),
      why,
      admit: () => void obey(seat, id, command).catch(() => seat.socket.terminate()),
      refuse: () => refuse(seat, id, new Refusal(classErrors.notAdmitted)),
    });
  };

  /** How long a connection that says so much must rest, ms. */
  const tooFast = (seat: Seat, cost: number): number => {
    const all = addresses.get(seat.address) ?? bucket(FRAMES_OF_ADDRESS.most, FRAMES_OF_ADDRESS.perSecond);
    addresses.set(seat.address, all);
    return Math.max(seat.frames.take(cost), all.take(cost));
  };
  const listen = (seat: Seat, data: Buffer, isBinary: boolean): void => {
    if (seat.held) {
      seat.held.push([data, isBinary]);
      if (seat.held.length > MOST_HELD) seat.socket.close(1008, 'Too many frames in a short time.');
      return;
    }
    const rest = tooFast(seat, 1);
    if (rest > 0) {
      // Nothing is lost and nobody is sent away: the rest is heard a little later.
      seat.held = [[data, isBinary]];
      seat.socket.pause();
      setTimeout(() => {
        const held = seat.held ?? [];
        seat.held = null;
        seat.socket.resume();
        const [first, ...others] = held;
        if (first) take(seat, ...first);
        for (const one of others) listen(seat, ...one);
      }, rest);
      return;
    }
    take(seat, data, isBinary);
  };
  /** Why a connection is ended that says what nobody says; null where all is well. */
  const take = (seat: Seat, data: Buffer, isBinary: boolean): void => {
    const fault = answer(seat, data, isBinary);
    if (fault) seat.socket.close(...fault);
  };
  const answer = (seat: Seat, data: Buffer, isBinary: boolean): [code: number, reason: string] | null => {
    let frame: unknown;
    try {
      if (isBinary) throw new Error('binary');
      frame = JSON.parse(data.toString('utf8'));
    } catch {
      return [1007, 'This frame could not be read. Reload the page.'];
    }
    if (!isFrame(frame)) {
      tooFast(seat, INVALID_COST - 1);
      const { id, type } = (frame ?? {}) as { id?: unknown; type?: unknown };
      if (typeof id !== 'string' || type !== 'command') return [1008, 'This frame has the wrong shape. Reload the page.'];
      refuse(seat, id.slice(0, 40), new Refusal(classErrors.invalid(sentenceFor(isFrame.errors ?? []))));
      return null;
    }
    const good = frame as ClientFrame;
    const failed = (err: unknown) => {
      note.error({ class: found.id, err }, 'a frame could not be answered');
      seat.socket.close(1011, 'Something went wrong here. It will mend itself.');
    };
    if (good.type === 'ping') lines.send(seat, { type: 'pong', sent: good.sent, now: Date.now() });
    else if (good.type === 'hello') {
      if (greeting.has(seat)) return [1008, 'Hello was said already. Reload the page.'];
      greeting.add(seat);
      greet(seat, good).catch(failed);
    } else if (!seat.greeted) return [1008, 'Say hello first. Reload the page.'];
    else if (good.type === 'command') consider(seat, good.id, good.command).catch(failed);
    else if (isDesk(seat)) {
      hear(good);
      bus.publish(found.id, good);
    } else return [1008, 'Only the desk lets people in.'];
    return null;
  };
  const greeting = new WeakSet<Seat>();

  return {
    log,
    get connections() {
      return seats.size;
    },
    /** How long nobody has been here and nothing was to be written, ms. */
    get idleMs() {
      return seats.size > 0 || log.isBusy ? 0 : Date.now() - emptySince;
    },
    /** Takes a socket in; a desk only after it was checked. */
    enter(socket: WebSocket, origin: Origin): void {
      // Gone again while the class was being read: nothing will say so any more.
      if (socket.readyState !== socket.OPEN) return;
      const seat: Seat = {
        ...newLine(socket),
        ...origin,
        student: null,
        takenOut: false,
        greeted: false,
        late: null,
        alive: true,
        frames: bucket(FRAMES.most, FRAMES.perSecond),
        leaveDoor: null,
        held: null,
      };
      seats.add(seat);
      seat.late = setTimeout(() => socket.close(1008, 'Say hello first. Reload the page.'), HELLO_MS).unref();
      socket.on('message', (data: Buffer, isBinary: boolean) => listen(seat, data, isBinary));
      socket.on('pong', () => {
        seat.alive = true;
      });
      socket.on('error', () => socket.terminate());
      socket.on('close', () => {
        if (seat.late) clearTimeout(seat.late);
        seats.delete(seat);
        seat.leaveDoor?.();
        emptySince = Date.now();
        if (![...seats].some((one) => one.address === seat.address)) addresses.delete(seat.address);
        tellPresence();
      });
    },
    /** A picture came from the camera: the desks are told. */
    pictured(at: number, simulated: boolean): void {
      const message: BusMessage = { type: 'camera', at, simulated };
      hear(message);
      bus.publish(found.id, message);
    },
    /** The keys of a kind of device were made anew: those that came with the former go. */
    recalled(role: DeviceRole): void {
      const message: BusMessage = { type: 'recalled', role };
      hear(message);
      bus.publish(found.id, message);
    },
    /** Somebody signed out: what was opened with that session closes. */
    endSession(session: string): void {
      endAll((seat) => seat.session === session, CLOSED.signedOut, 'You signed out. Sign in to come back.');
    },
    close(): void {
      log.close();
      unsubscribe();
      clearInterval(heartbeat);
      if (pulse) clearInterval(pulse);
      if (timer) clearTimeout(timer);
      if (presenceTimer) clearTimeout(presenceTimer);
      for (const seat of seats) seat.socket.close(1001, 'The server is stopping.');
    },
  };
}
export type ClassHub = ReturnType<typeof classHub>;

import {
  CLOSED,
  type ClassEvent,
  type ClientFrame,
  type DeviceRole,
  type ServerFrame,
  say,
  serverErrors,
} from '@viaticum/contract';
import type { FastifyBaseLogger } from 'fastify';
import type { Pool } from 'mysql2/promise';
import type { WebSocket } from 'ws';
import type { Bus, BusMessage } from '../../bus/bus.js';
import { type ClassLog, classLog, type StorageTrouble } from '../log/log.js';
import { sealedBy } from '../tokens.js';
import { attend, beats } from './beats.js';
import { door } from './door.js';
import { fanOut } from './fan-out.js';
import { type Ending, frameReader } from './frames.js';
import { presence } from './presence.js';
import { reception, type WorkOut } from './reception.js';
import { isDesk, newSeat, type Origin, type Seat, watches } from './seat.js';

const FLUSH_MS = 50;
const storageSentences: Record<StorageTrouble, string> = {
  'database-away': 'The database does not answer just now. What was said is kept and written as soon as it does.',
  'disk-full': 'The disk of the machine is full. What was said is kept; free some space and it is written by itself.',
};

export type HubParts = {
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
export function classHub({ pool, bus, found, workOut, isDevice, planned, isFull, log: note }: HubParts) {
  const seats = new Set<Seat>();
  const greeting = new WeakSet<Seat>();
  let pending: ClassEvent[] = [];
  let timer: NodeJS.Timeout | null = null;
  let trouble: StorageTrouble | null = null;
  let emptySince = Date.now();
  const greeted = (to: (seat: Seat) => boolean = () => true): Seat[] => [...seats].filter((seat) => seat.greeted && to(seat));

  /** Events leave together: at once where the instructor spoke, a moment later otherwise. */
  const flush = (): void => {
    if (timer) clearTimeout(timer);
    timer = null;
    const events = pending;
    pending = [];
    if (events.length > 0) lines.events(greeted(), events);
  };
  const arrive = (events: ClassEvent[], from: 'here' | 'elsewhere'): void => {
    if (from === 'here') bus.publish(found.id, { type: 'events', events });
    for (const { body } of events) if (body.type === 'removed') entrance.removed(body.studentId);
    pending.push(...events);
    // Who has just joined is known to be a student, in this very turn, before what is theirs goes out.
    const isUrgent = events.some((event) => event.actor === 'instructor') && !pending.some(({ body }) => body.type === 'joined');
    if (isUrgent) flush();
    else timer ??= setTimeout(flush, FLUSH_MS);
  };
  const troubleFrame = (): ServerFrame => ({ type: 'storage', fault: trouble && storageSentences[trouble] });
  const log: ClassLog = classLog(pool, found.id, arrive, {
    isFull,
    onTrouble(now) {
      trouble = now;
      note.warn({ class: found.id, trouble: now }, now ? 'a class cannot be written' : 'a class is written again');
      lines.toAll(greeted(watches), troubleFrame());
    },
    onFailed: (command, err) => note.error({ class: found.id, command, err }, 'a command could not be carried out'),
    onPassedOver: (count) => note.warn({ class: found.id, count }, 'events that name no id were passed over'),
  });
  const lines = fanOut(log.after);
  const entrance = door(() => {
    who.changed();
    tellDoor();
  });
  const who = presence({
    bus,
    classId: found.id,
    here: () => [...new Set([...seats].flatMap((seat) => seat.student ?? []))],
    waiting: () => entrance.list(),
    tell: (connected, away) => lines.toAll(greeted(watches), { type: 'presence', connected, away }),
  });
  const tellDoor = (): void => lines.toAll(greeted(isDesk), { type: 'door', waiting: who.atTheDoor() });
  /** A phone has become a student's. */
  const onJoined = (seat: Seat, seq: number): void => {
    // Where it had been told of a stretch in which it was nobody yet, it begins anew.
    if (seat.sentTo >= seq) hello(seat, 0);
    who.changed();
  };
  const desk = reception({ log, lines, entrance, secret: found.secret, workOut, planned, onJoined });

  const endAll = (which: (seat: Seat) => boolean, code: number, reason: string): void => {
    for (const seat of [...seats].filter(which)) {
      seat.socket.close(code, reason);
      seat.greeted = false;
    }
  };
  const hear = (message: BusMessage): void => {
    if (message.type === 'events') log.hear(message.events);
    else if (message.type === 'camera') lines.toAll(greeted(isDesk), message);
    else if (message.type === 'admit') entrance.answer(message.ids, message.yes);
    else if (message.type === 'recalled') {
      const sentence = say('This link was taken back. Ask the instructor for a new one.');
      endAll((seat) => seat.role === message.role, CLOSED.noLink, sentence);
    } else if (message.type === 'presence') {
      who.hear(message);
      tellDoor();
    }
  };
  /** Here, and at every other server of this class. */
  const everywhere = (message: BusMessage): void => {
    hear(message);
    bus.publish(found.id, message);
  };

  /** Whose phone it is, by the token that it keeps. */
  const recognize = (seat: Seat, token: string | undefined): void => {
    const studentId = sealedBy(found.secret, token);
    // Who was taken out hears that they were.
    if (studentId) seat.eye = { sees: 'own', studentId };
    if (studentId && log.state.students[studentId]) {
      seat.student = studentId;
      entrance.came(studentId, seat.address);
    } else seat.takenOut = studentId !== null && log.state.removed.includes(studentId);
  };
  const hello = (seat: Seat, after: number): void =>
    lines.hello(seat, after, (stretch) => ({
      type: 'hello',
      head: log.head,
      now: Date.now(),
      you: seat.student,
      connected: watches(seat) ? who.connected() : [],
      away: watches(seat) ? who.away() : {},
      ...stretch,
    }));
  const greet = async (seat: Seat, { after, token, key }: Extract<ClientFrame, { type: 'hello' }>): Promise<void> => {
    if (seat.role !== 'desk' && seat.role !== 'phone' && seat.role !== 'wall' && !(await isDevice(seat.role, key))) {
      seat.socket.close(CLOSED.noLink, say('This link does not let you in. Ask the instructor for the present one.'));
      return;
    }
    flush(); // what is on its way goes out first, so that hello and the events after it join without a gap
    if (seat.role === 'phone') recognize(seat, token);
    // A code is worth nothing any more once its class is over; who was in it keeps seeing what is their own.
    const isStranger = seat.role === 'wall' || (seat.role === 'phone' && !seat.student && !seat.takenOut);
    if (log.state.phase === 'ended' && isStranger) {
      seat.socket.close(CLOSED.over, serverErrors.classOver.sentence);
      return;
    }
    seat.greeted = true;
    if (seat.late) clearTimeout(seat.late);
    seat.late = null;
    hello(seat, after);
    if (trouble && watches(seat)) lines.send(seat, troubleFrame());
    if (isDesk(seat) && who.atTheDoor().length > 0) lines.send(seat, { type: 'door', waiting: who.atTheDoor() });
    who.changed();
  };
  const onFrame = (seat: Seat, frame: ClientFrame): Ending | null => {
    const failed = (err: unknown) => {
      note.error({ class: found.id, err }, 'a frame could not be answered');
      seat.socket.close(1011, say('Something went wrong here. It will mend itself.'));
    };
    if (frame.type === 'ping') lines.send(seat, { type: 'pong', sent: frame.sent, now: Date.now() });
    else if (frame.type === 'hello') {
      if (greeting.has(seat)) return [1008, say('Hello was said already. Reload the page.')];
      greeting.add(seat);
      greet(seat, frame).catch(failed);
    } else if (!seat.greeted) return [1008, say('Say hello first. Reload the page.')];
    else if (seat.role === 'wall') return [1008, say('A wall only shows.')];
    else if (frame.type === 'command' || frame.type === 'commands')
      for (const one of frame.type === 'commands' ? frame.commands : [frame]) desk.consider(seat, one).catch(failed);
    else if (isDesk(seat)) everywhere(frame);
    else return [1008, say('Only the desk lets people in.')];
    return null;
  };
  const frames = frameReader({ onFrame, onRefused: desk.refuse });

  const unsubscribe = bus.subscribe(found.id, hear);
  const stopBeats = beats(seats, () => {
    if (!bus.isShared || seats.size === 0) return;
    who.changed();
    log.look();
  });
  const leave = (seat: Seat): void => {
    if (seat.late) clearTimeout(seat.late);
    seats.delete(seat);
    seat.leaveDoor?.();
    emptySince = Date.now();
    if (![...seats].some((one) => one.address === seat.address)) frames.forget(seat.address);
    who.changed();
  };

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
      const seat = newSeat(socket, origin);
      seats.add(seat);
      attend(seat, { listen: (data, isBinary) => frames.listen(seat, data, isBinary), leave: () => leave(seat) });
    },
    /** A picture came from the camera: the desks are told. */
    pictured: (at: number, simulated: boolean): void => everywhere({ type: 'camera', at, simulated }),
    /** The keys of a kind of device were made anew: those that came with the former go. */
    recalled: (role: DeviceRole): void => everywhere({ type: 'recalled', role }),
    /** Somebody signed out: what was opened with that session closes. */
    endSession: (session: string): void =>
      endAll((seat) => seat.session === session, CLOSED.signedOut, say('You signed out. Sign in to come back.')),
    close(): void {
      log.close();
      unsubscribe();
      who.close();
      stopBeats();
      if (timer) clearTimeout(timer);
      for (const seat of seats) seat.socket.close(1001, say('The server is stopping.'));
    },
  };
}
export type ClassHub = ReturnType<typeof classHub>;

import { createHmac, timingSafeEqual } from 'node:crypto';
import { type ClassEvent, ClientFrame, type Command, type ServerFrame } from '@viaticum/contract';
import type { Actor } from '@viaticum/core/class';
import { Ajv } from 'ajv';
import type { Pool } from 'mysql2/promise';
import type { WebSocket } from 'ws';
import { sentenceFor } from '../errors.js';
import { type ClassLog, classLog } from './log.js';

const FLUSH_MS = 50;
const PRESENCE_MS = 200;
/** More commands than this in ten seconds are no person. */
const MOST_COMMANDS = 60;

const isFrame = new Ajv({ removeAdditional: false, coerceTypes: false, allErrors: true, strict: false }).compile(ClientFrame);

type Seat = { socket: WebSocket; desk: boolean; student: string | null; greeted: boolean; commands: number; since: number };

/** A class as it is connected: one log, and everybody who follows it. */
export function classRoom(pool: Pool, found: { id: string; secret: string }) {
  const seats = new Set<Seat>();
  let pending: ClassEvent[] = [];
  let timer: NodeJS.Timeout | null = null;
  let presenceTimer: NodeJS.Timeout | null = null;

  const flush = (): void => {
    if (timer) clearTimeout(timer);
    timer = null;
    const [first] = pending;
    if (!first) return;
    const frame: ServerFrame = { type: 'events', from: first.seq, to: pending.at(-1)?.seq as number, events: pending };
    pending = [];
    const text = JSON.stringify(frame);
    for (const seat of seats) if (seat.greeted) seat.socket.send(text);
  };
  const arrive = (events: ClassEvent[]): void => {
    pending.push(...events);
    if (events.some((event) => event.actor === 'instructor')) flush();
    else timer ??= setTimeout(flush, FLUSH_MS);
  };
  const log: ClassLog = classLog(pool, found.id, arrive);

  const token = (studentId: string): string =>
    `${studentId}.${createHmac('sha256', found.secret).update(studentId).digest('base64url')}`;
  const studentOf = (given: string | undefined): string | null => {
    const studentId = given?.split('.')[0];
    if (!given || !studentId) return null;
    const [a, b] = [Buffer.from(given), Buffer.from(token(studentId))];
    return a.length === b.length && timingSafeEqual(a, b) && log.state.students[studentId] ? studentId : null;
  };
  const connected = (): string[] => [...new Set([...seats].flatMap((seat) => seat.student ?? []))].sort();
  const send = (seat: Seat, frame: ServerFrame): void => seat.socket.send(JSON.stringify(frame));
  const tellPresence = (): void => {
    presenceTimer ??= setTimeout(() => {
      presenceTimer = null;
      const frame: ServerFrame = { type: 'presence', connected: connected() };
      for (const seat of seats) if (seat.desk && seat.greeted) send(seat, frame);
    }, PRESENCE_MS);
  };

  const greet = (seat: Seat, after: number, given: string | undefined): void => {
    flush(); // what is on its way goes out first, so that hello and the events after it join without a gap
    if (!seat.desk) seat.student = studentOf(given);
    seat.greeted = true;
    const head = log.state.seq;
    send(seat, {
      type: 'hello',
      head,
      now: Date.now(),
      you: seat.student,
      connected: seat.desk ? connected() : [],
      events: log.after(Math.min(after, head)),
    });
    tellPresence();
  };

  const obey = async (seat: Seat, id: string, command: Command): Promise<void> => {
    const now = Date.now();
    if (now - seat.since > 10_000) Object.assign(seat, { since: now, commands: 0 });
    seat.commands += 1;
    if (seat.commands > MOST_COMMANDS) {
      seat.socket.close(1008, 'Too many commands in a short time.');
      return;
    }
    const actor: Actor = seat.desk
      ? { kind: 'instructor' }
      : seat.student
        ? { kind: 'student', id: seat.student }
        : { kind: 'guest' };
    const result = await log.command(id, actor, command);
    if ('refused' in result) {
      send(seat, { type: 'refused', id, code: result.refused.code, message: result.refused.message });
      return;
    }
    if (result.studentId && command.type === 'join') {
      seat.student = result.studentId;
      tellPresence();
    }
    send(seat, {
      type: 'ack',
      id,
      seq: result.seq,
      ...(result.studentId ? { studentId: result.studentId, token: token(result.studentId) } : {}),
    });
  };

  return {
    log,
    get connections() {
      return seats.size;
    },
    /** Takes a socket in; `desk` only after its session was checked. */
    enter(socket: WebSocket, desk: boolean): void {
      const seat: Seat = { socket, desk, student: null, greeted: false, commands: 0, since: Date.now() };
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
    close(): void {
      log.close();
      if (timer) clearTimeout(timer);
      if (presenceTimer) clearTimeout(presenceTimer);
      for (const seat of seats) seat.socket.close(1001, 'The server is stopping.');
    },
  };
}
export type ClassRoom = ReturnType<typeof classRoom>;

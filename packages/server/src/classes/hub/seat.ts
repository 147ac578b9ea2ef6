import type { Actor, Eye } from '@viaticum/core/class';
import type { WebSocket } from 'ws';
import { type Bucket, bucket } from '../../guard/wrong-tries.js';
import { type Line, newLine } from './fan-out.js';

/** How much one connection may say at once and in the long run: beyond it, it is heard later. */
const FRAMES = { most: 300, perSecond: 10 };

/** Whose screen a connection is. Only a phone may become a student; a wall only shows. */
export type Role = 'desk' | 'co' | 'assistant' | 'sensor' | 'wall' | 'phone';
/** From where a connection comes, and the session of the instructor at a desk. */
export type Origin = { role: Role; address: string; session: string | null };
export type Seat = Line &
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

/** What a screen is shown of the class before anybody is known at it. */
const eyeOf = (role: Role): Eye => {
  if (role === 'wall') return { sees: 'room' };
  return role === 'phone' || role === 'sensor' ? { sees: 'own', studentId: null } : { sees: 'all' };
};
/** A connection that has said nothing yet. */
export const newSeat = (socket: WebSocket, origin: Origin): Seat => ({
  ...newLine(socket, eyeOf(origin.role)),
  ...origin,
  student: null,
  takenOut: false,
  greeted: false,
  late: null,
  alive: true,
  frames: bucket(FRAMES.most, FRAMES.perSecond),
  leaveDoor: null,
  held: null,
});

/** Who speaks from a seat. */
export function actorOf(seat: Seat): Actor {
  if (seat.role === 'desk') return { kind: 'instructor' };
  if (seat.role !== 'phone' && seat.role !== 'wall') return { kind: seat.role };
  return seat.student ? { kind: 'student', id: seat.student } : { kind: 'guest' };
}
export const isDesk = (seat: Seat): boolean => seat.role === 'desk';
/** Who is shown the whole room. */
export const watches = (seat: Seat): boolean => isDesk(seat) || seat.role === 'co' || seat.role === 'assistant';

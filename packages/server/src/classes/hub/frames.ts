import { ClientFrame, classErrors, say, sentenceFor } from '@viaticum/contract';
import { Refusal } from '@viaticum/core/class';
import { Ajv } from 'ajv';
import { type Bucket, bucket } from '../../guard/wrong-tries.js';
import type { Seat } from './seat.js';

/** How much all connections behind one address may say: beyond it they are heard later. */
const FRAMES_OF_ADDRESS = { most: 6000, perSecond: 600 };
/** A command of the wrong shape costs as much as so many. */
const INVALID_COST = 5;
const MOST_HELD = 2000;
/** So many commands come together at most. */
const MOST_TOGETHER = 16;

const isFrame = new Ajv({ removeAdditional: false, coerceTypes: false, strict: false }).compile(ClientFrame);

/** Why a connection is ended that says what nobody says. */
export type Ending = [code: number, reason: string];

type Parts = {
  /** Answers a frame of the right shape; gives why the connection ends, or null. */
  onFrame: (seat: Seat, frame: ClientFrame) => Ending | null;
  /** A command of the wrong shape is refused under its id. */
  onRefused: (seat: Seat, id: string, refusal: Refusal) => void;
};

/** Hears what connections say: no more at once than a person says, and only what has a shape that is known. */
export function frameReader({ onFrame, onRefused }: Parts) {
  const addresses = new Map<string, Bucket>();
  /** How long a connection that says so much must rest, ms. */
  const tooFast = (seat: Seat, cost: number): number => {
    const all = addresses.get(seat.address) ?? bucket(FRAMES_OF_ADDRESS.most, FRAMES_OF_ADDRESS.perSecond);
    addresses.set(seat.address, all);
    return Math.max(seat.frames.take(cost), all.take(cost));
  };
  const answer = (seat: Seat, data: Buffer, isBinary: boolean): Ending | null => {
    let frame: unknown;
    try {
      if (isBinary) throw new Error('binary');
      frame = JSON.parse(data.toString('utf8'));
    } catch {
      return [1007, say('This frame could not be read. Reload the page.')];
    }
    if (isFrame(frame)) {
      const known = frame as ClientFrame;
      if (known.type === 'commands') tooFast(seat, known.commands.length - 1);
      return onFrame(seat, known);
    }
    const { id, type, commands } = (frame ?? {}) as { id?: unknown; type?: unknown; commands?: unknown };
    // One that cannot be read does not take the others with it.
    if (type === 'commands' && Array.isArray(commands) && commands.length <= MOST_TOGETHER)
      return oneByOne(seat, commands as Record<string, unknown>[]);
    tooFast(seat, INVALID_COST - 1);
    if (typeof id !== 'string' || type !== 'command') return [1008, say('This frame has the wrong shape. Reload the page.')];
    onRefused(seat, id.slice(0, 40), new Refusal(classErrors.invalid(sentenceFor(isFrame.errors ?? []))));
    return null;
  };
  /** Commands that came together, one by one. */
  const oneByOne = (seat: Seat, commands: Record<string, unknown>[]): Ending | null =>
    commands.reduce<Ending | null>(
      (ending, command) => ending ?? answer(seat, Buffer.from(JSON.stringify({ ...command, type: 'command' })), false),
      null,
    );
  const take = (seat: Seat, data: Buffer, isBinary: boolean): void => {
    const ending = answer(seat, data, isBinary);
    if (ending) seat.socket.close(...ending);
  };
  /** Nothing is lost and nobody is sent away: what comes too fast is heard a little later. */
  const restFor = (seat: Seat, ms: number): void => {
    seat.socket.pause();
    setTimeout(() => {
      const [first, ...others] = seat.held ?? [];
      seat.held = null;
      seat.socket.resume();
      if (first) take(seat, ...first);
      for (const one of others) listen(seat, ...one);
    }, ms);
  };
  const listen = (seat: Seat, data: Buffer, isBinary: boolean): void => {
    if (seat.held) {
      seat.held.push([data, isBinary]);
      if (seat.held.length > MOST_HELD) seat.socket.close(1008, say('Too many frames in a short time.'));
      return;
    }
    const rest = tooFast(seat, 1);
    if (rest === 0) {
      take(seat, data, isBinary);
      return;
    }
    seat.held = [[data, isBinary]];
    restFor(seat, rest);
  };
  return {
    listen,
    /** Nobody is connected from an address any more. */
    forget: (address: string): void => void addresses.delete(address),
  };
}

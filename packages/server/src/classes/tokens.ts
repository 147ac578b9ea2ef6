import { createHmac, timingSafeEqual } from 'node:crypto';
import type { DeviceRole } from '@viaticum/contract';

/** A name with its seal: only a server that knows the class's secret can have made it. */
export const seal = (secret: string, name: string): string =>
  `${name}.${createHmac('sha256', secret).update(name).digest('base64url')}`;

/** The name that a seal of this class is for, or null where it is not one. */
export function sealedBy(secret: string, given: string | undefined): string | null {
  const name = given?.split('.')[0];
  if (!given || !name) return null;
  const [a, b] = [Buffer.from(given), Buffer.from(seal(secret, name))];
  return a.length === b.length && timingSafeEqual(a, b) ? name : null;
}

/** How often the key of each kind of device was made anew: those before let nobody in. */
export type DeviceRounds = Partial<Record<DeviceRole, number>>;
/** Student ids have no tilde. */
const nameOf = (role: DeviceRole, rounds: DeviceRounds) => (rounds[role] ? `~${role}~${rounds[role]}` : `~${role}`);
/** Devices and helpers of a class are let in by a link of their own, without an account. */
export const deviceToken = (secret: string, role: DeviceRole, rounds: DeviceRounds): string => seal(secret, nameOf(role, rounds));
export const isDevice = (secret: string, role: DeviceRole, rounds: DeviceRounds, given: string | undefined): boolean =>
  sealedBy(secret, given) === nameOf(role, rounds);

/** How often the keys of each kind of device were made anew. */
export const roundsOf = (one: { deviceRound: string }): DeviceRounds => JSON.parse(one.deviceRound) as DeviceRounds;

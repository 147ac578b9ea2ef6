import { createHmac, timingSafeEqual } from 'node:crypto';

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

/** Devices and helpers of a class that are let in by a link of their own, without an account. */
export const deviceRoles = ['assistant', 'sensor', 'camera'] as const;
export type DeviceRole = (typeof deviceRoles)[number];
/** Student ids have no tilde. */
export const deviceToken = (secret: string, role: DeviceRole): string => seal(secret, `~${role}`);
export const isDevice = (secret: string, role: DeviceRole, given: string | undefined): boolean =>
  sealedBy(secret, given) === `~${role}`;

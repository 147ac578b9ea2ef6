import { randomBytes, timingSafeEqual } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { hashed } from './sessions.js';

/** Digits are good for half a minute, and for the half minutes before and after: clocks differ. */
const PERIOD_S = 30;
const WINDOW = 1;
const SPARE_CODES = 8;

const totpOf = (secret: string, name: string) =>
  new TOTP({ issuer: 'Viaticum', label: name, period: PERIOD_S, secret: Secret.fromBase32(secret) });

/** A fresh secret of 160 bits, and the address under which an authenticator takes it (RFC 6238). */
export function newSecondFactor(name: string): { secret: string; address: string } {
  const { base32: secret } = new Secret({ size: 20 });
  return { secret, address: totpOf(secret, name).toString() };
}

/**
 * The interval whose digits these are, counted in half minutes since 1970; null where they are of none nearby, or of one that was used
 * already: digits that somebody saw over a shoulder are good for nothing.
 */
export function intervalOf(secret: string, digits: string, used: number, atMs: number): number | null {
  const token = digits.replace(/\s/g, '');
  const timestamp = atMs;
  const delta = totpOf(secret, '').validate({ token, timestamp, window: WINDOW });
  if (delta === null) return null;
  const interval = Math.floor(atMs / 1000 / PERIOD_S) + delta;
  return interval > used ? interval : null;
}

const plain = (code: string) => code.toUpperCase().replace(/[^A-Z2-7]/g, '');

/** Codes to write down, for when the authenticator is lost; each is good once. Only hashes are kept. */
export function newSpareCodes(): { codes: string[]; hashes: string[] } {
  const codes = Array.from({ length: SPARE_CODES }, () =>
    new Secret({ buffer: new Uint8Array(randomBytes(10)).buffer }).base32.replace(/(.{4})(?=.)/g, '$1-'),
  );
  return { codes, hashes: codes.map((code) => hashed(plain(code))) };
}

/** The hashes that are left once a code was used; null where it is none of them. */
export function useSpareCode(hashes: readonly string[], code: string): string[] | null {
  const given = Buffer.from(hashed(plain(code)));
  const left = hashes.filter((one) => !timingSafeEqual(Buffer.from(one), given));
  return left.length < hashes.length ? left : null;
}

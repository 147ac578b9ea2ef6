import { describe, expect, it } from '@jest/globals';
import { Secret } from 'otpauth';
import { intervalOf, newSecondFactor, newSpareCodes, useSpareCode } from './second-factor.js';

/** RFC 6238, appendix B, SHA-1: time in s and the last six of the eight digits given there. */
const rfc: [number, string][] = [
  [59, '287082'],
  [1111111109, '081804'],
  [1111111111, '050471'],
  [1234567890, '005924'],
  [2000000000, '279037'],
  [20000000000, '353130'],
];
const secret = Secret.fromUTF8('12345678901234567890').base32;

describe('digits of an authenticator', () => {
  it('are those of the standard’s table', () => {
    for (const [s, digits] of rfc) expect([s, intervalOf(secret, digits, 0, s * 1000)]).toEqual([s, Math.floor(s / 30)]);
  });
  it('are taken half a minute early or late, not a minute; with a space between, too', () => {
    for (const [off, taken] of [
      [-30, true],
      [30, true],
      [-61, false],
      [61, false],
    ] as const)
      expect([off, intervalOf(secret, '005 924', 0, (1234567890 + off) * 1000) !== null]).toEqual([off, taken]);
  });
  it('are good once: those of an interval that was used, or of an earlier one, are not taken', () => {
    const interval = Math.floor(1234567890 / 30);
    expect(intervalOf(secret, '005924', interval, 1234567890_000)).toBeNull();
    expect(intervalOf(secret, '005924', interval - 1, 1234567890_000)).toBe(interval);
  });
  it('of a fresh secret are asked for under the account’s name', () => {
    const [one, other] = [newSecondFactor('Ada Ames'), newSecondFactor('Ada Ames')];
    expect(one.secret).toMatch(/^[A-Z2-7]{32}$/);
    expect(one.secret).not.toBe(other.secret);
    expect(one.address).toMatch(/^otpauth:\/\/totp\/Viaticum:Ada%20Ames\?.*secret=/);
  });
});

describe('codes that were written down', () => {
  it('are eight, let in once each, however they are written', () => {
    const { codes, hashes } = newSpareCodes();
    expect(new Set(codes).size).toBe(8);
    const first = codes[0] as string;
    const left = useSpareCode(hashes, ` ${first.toLowerCase().replaceAll('-', ' ')}`);
    expect(left).toHaveLength(7);
    expect(useSpareCode(left as string[], first)).toBeNull();
    expect(useSpareCode(hashes, 'AAAA-BBBB-CCCC-DDDD')).toBeNull();
    expect(hashes.join()).not.toContain(first);
  });
});

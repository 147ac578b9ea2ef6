import { describe, expect, test } from '@jest/globals';
import { boxFacts } from './index.js';

const text = (words: string): Uint8Array => Uint8Array.from(words, (letter) => letter.charCodeAt(0));
const joined = (...parts: Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((part) => [...part]));
const number = (n: number): Uint8Array => Uint8Array.of(n >>> 24, (n >>> 16) & 255, (n >>> 8) & 255, n & 255);
const box = (name: string, ...inner: Uint8Array[]): Uint8Array => {
  const body = joined(...inner);
  return joined(number(body.length + 8), text(name), body);
};
const read = (file: Uint8Array) => boxFacts(async (from, length) => file.subarray(from, from + length), file.length);
const nameAt = (file: Uint8Array, at: number) => String.fromCharCode(...file.subarray(at, at + 4));

const ftyp = box('ftyp', text('isom0000'));
const mdat = box('mdat', new Uint8Array(400));
const place = box('\u00a9xyz', text('+48.2+016.4/'));

describe('the boxes of an MP4 (ISO/IEC 14496-12)', () => {
  test('its place of filming is found, wherever the maker wrote it', async () => {
    const inUserData = joined(
      ftyp,
      box('moov', box('mvhd', new Uint8Array(100)), box('udta', box('name', text('x')), place)),
      mdat,
    );
    const [found] = (await read(inUserData))?.places ?? [];
    expect(nameAt(inUserData, found as number)).toBe('\u00a9xyz');
    const key = (name: string) => joined(number(name.length + 8), text('mdta'), text(name));
    const keys = box('keys', number(0), number(2), key('com.apple.quicktime.make'), key('com.apple.quicktime.location.ISO6709'));
    const item = (k: number) => joined(number(16), number(k), new Uint8Array(8));
    const withKeys = joined(
      ftyp,
      box('moov', box('meta', box('hdlr', new Uint8Array(24)), keys, box('ilst', item(1), item(2)))),
      mdat,
    );
    const facts = await read(withKeys);
    expect(facts?.places).toHaveLength(1);
    expect([...withKeys.subarray(facts?.places[0], (facts?.places[0] as number) + 4)]).toEqual([0, 0, 0, 2]);
  });
  test('an index at the end, and an end in the middle', async () => {
    const slow = joined(ftyp, mdat, box('moov', box('mvhd', new Uint8Array(100))));
    expect(await read(slow)).toEqual({ isIndexLast: true, missing: 0, places: [] });
    const quick = joined(ftyp, box('moov', box('mvhd', new Uint8Array(100))), mdat);
    expect(await read(quick)).toEqual({ isIndexLast: false, missing: 0, places: [] });
    expect((await read(quick.subarray(0, quick.length - 150)))?.missing).toBe(150);
  });
  test('other files, and odd ones, say nothing and break nothing', async () => {
    expect(await read(text('%PDF-1.7 and so on, and on'))).toBeNull();
    expect(await read(new Uint8Array(0))).toBeNull();
    const odd = joined(
      ftyp,
      box('moov', joined(number(3), text('udta'), new Uint8Array(30))),
      number(0),
      text('mdat'),
      new Uint8Array(9),
    );
    expect((await read(odd))?.places).toEqual([]);
  });
});

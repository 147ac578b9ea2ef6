/** Reads bytes of a file: as many as there are from `from` on, `length` at most. */
export type ReadAt = (from: number, length: number) => Promise<Uint8Array>;
/** What the boxes of an MP4 file say (ISO/IEC 14496-12), without its picture being looked at. */
export type BoxFacts = {
  /** Its index stands at the end: it starts slowly. */
  isIndexLast: boolean;
  /** It ends before its last box does: so many bytes are missing. */
  missing: number;
  /** Where the names of boxes stand that say where it was filmed, or with which camera. */
  places: number[];
};

const MOST_INDEX = 64 * 1024 * 1024;
const containers = new Set(['moov', 'trak', 'mdia', 'udta', 'meta', 'ilst']);
/** Boxes that hold a place or a serial number, as cameras and telephones write them (from memory). */
const telling = new Set([
  '\u00a9xyz',
  'loci',
  'GPMF',
  'GPS ',
  'CAME',
  'MUID',
  'SNum',
  'CNSN',
  '\u00a9gpt',
  '\u00a9gyw',
  '\u00a9grl',
]);
const placeKey = /location|gps|serial/i;

const nameAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * The boxes of an MP4, read by a few bytes each. `null` where the file does not begin as one. A file of another kind has nothing to say here.
 */
export async function boxFacts(readAt: ReadAt, bytes: number): Promise<BoxFacts | null> {
  const head = await readAt(0, 16);
  if (head.length < 16 || nameAt(head, 4) !== 'ftyp') return null;
  const facts: BoxFacts = { isIndexLast: false, missing: 0, places: [] };
  let hasData = false;
  for (let at = 0; at + 8 <= bytes; ) {
    const own = await readAt(at, 16);
    if (own.length < 8) break;
    const name = nameAt(own, 4);
    const size = sizeOf(own, bytes - at);
    if (size < 8) break;
    if (at + size > bytes) {
      facts.missing = at + size - bytes;
      break;
    }
    if (name === 'mdat') hasData = true;
    if (name === 'moov') {
      facts.isIndexLast = hasData;
      if (size <= MOST_INDEX) facts.places.push(...tellingIn(await readAt(at, size), at));
    }
    at += size;
  }
  return facts;
}

function sizeOf(own: Uint8Array, rest: number): number {
  const short = view(own).getUint32(0);
  if (short === 0) return rest;
  if (short !== 1) return short;
  return own.length >= 16 ? Number(view(own).getBigUint64(8)) : 0;
}

/** Where boxes within the index tell a place; offsets of their names in the file. */
function tellingIn(moov: Uint8Array, start: number): number[] {
  const found: number[] = [];
  const walk = (from: number, to: number, keys: readonly string[]) => {
    let names = keys;
    for (let at = from; at + 8 <= to; ) {
      const name = nameAt(moov, at + 4);
      const size = sizeOf(moov.subarray(at), to - at);
      if (size < 8 || at + size > to) return;
      if (telling.has(name)) found.push(start + at + 4);
      else if (name === 'keys') names = keysIn(moov.subarray(at + 8, at + size));
      else if (placeKey.test(names[view(moov).getUint32(at + 4) - 1] ?? '') && !containers.has(name)) found.push(start + at + 4);
      else if (containers.has(name)) {
        // In files of some makers `meta` has four bytes before its boxes.
        const isFull = name === 'meta' && nameAt(moov, at + 12) !== 'hdlr' && nameAt(moov, at + 16) === 'hdlr';
        walk(at + 8 + (isFull ? 4 : 0), at + size, names);
        if (name === 'meta') names = keys;
      }
      at += size;
    }
  };
  walk(0, moov.length, []);
  return found;
}

/** The names in a box of keys, to which numbered boxes refer. */
function keysIn(body: Uint8Array): string[] {
  const names: string[] = [];
  for (let at = 8; at + 8 <= body.length; ) {
    const size = view(body).getUint32(at);
    if (size < 8 || at + size > body.length) break;
    names.push(String.fromCharCode(...body.subarray(at + 8, at + size)));
    at += size;
  }
  return names;
}

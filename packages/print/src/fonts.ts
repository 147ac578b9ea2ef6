import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { inflateSync } from 'node:zlib';

/** The faces of the pack: titles and the instructor's voice in a serif, all else in a face made to be read easily. */
const files = {
  serif: '@fontsource/alegreya/files/alegreya-latin-400-normal.woff',
  serifMedium: '@fontsource/alegreya/files/alegreya-latin-500-normal.woff',
  serifBold: '@fontsource/alegreya/files/alegreya-latin-700-normal.woff',
  voice: '@fontsource/alegreya/files/alegreya-latin-400-italic.woff',
  sans: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
  sansBold: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-600-normal.woff',
} as const;
export type Face = keyof typeof files;

/** A WOFF file unpacked to a plain font, once: the PDF's own reader unpacks a table anew at every look (W3C WOFF 1.0). */
function unpacked(woff: Buffer): Buffer {
  const count = woff.readUInt16BE(12);
  const power = 2 ** Math.floor(Math.log2(count));
  const head = Buffer.alloc(12 + 16 * count);
  head.writeUInt32BE(woff.readUInt32BE(4), 0);
  [count, power * 16, Math.log2(power), count * 16 - power * 16].forEach((value, i) => {
    head.writeUInt16BE(value, 4 + 2 * i);
  });
  const parts = [head];
  let at = head.length;
  for (let i = 0; i < count; i++) {
    const entry = 44 + i * 20;
    const [from, packed, whole] = [4, 8, 12].map((field) => woff.readUInt32BE(entry + field)) as [number, number, number];
    const raw = woff.subarray(from, from + packed);
    const data = packed < whole ? inflateSync(raw) : raw;
    woff.copy(head, 12 + i * 16, entry, entry + 4);
    head.writeUInt32BE(woff.readUInt32BE(entry + 16), 16 + i * 16);
    head.writeUInt32BE(at, 20 + i * 16);
    head.writeUInt32BE(data.length, 24 + i * 16);
    const padded = Buffer.alloc((data.length + 3) & ~3);
    data.copy(padded);
    parts.push(padded);
    at += padded.length;
  }
  return Buffer.concat(parts);
}

let known: Record<Face, Buffer> | null = null;
/** The fonts as the PDF takes them; read once. */
export function fonts(): Record<Face, Buffer> {
  const find = createRequire(import.meta.url).resolve;
  known ??= Object.fromEntries(Object.entries(files).map(([face, file]) => [face, unpacked(readFileSync(find(file)))])) as Record<
    Face,
    Buffer
  >;
  return known;
}

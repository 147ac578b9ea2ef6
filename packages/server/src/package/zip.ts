import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { say } from '@viaticum/contract';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { writeHashed } from '../work/uploads.js';

/** What is wrong with a ZIP file, as a sentence. */
export class UnsoundZip extends Error {}

export type ZipLimits = { entries: number; unfoldedBytes: number };
const openPath = promisify<string, yauzl.Options, ZipFile>(yauzl.open);

/** Folders and a name, none of which leads elsewhere. */
const isPlain = (name: string): boolean =>
  /^[\w.-]+(\/[\w.-]+)*\/?$/.test(name) && !name.split('/').some((part) => part === '..' || part === '.');

export type OpenZip = {
  has: (name: string) => boolean;
  names: () => string[];
  /** The text of an entry of at most so many bytes. */
  text: (name: string, most: number) => Promise<string>;
  /** Its bytes as they unfold. */
  stream: (name: string) => Promise<Readable>;
  /** Writes an entry of at most so many bytes to a file; gives its SHA-256. */
  extract: (name: string, path: string, most: number) => Promise<string>;
  close: () => void;
};

/**
 * A ZIP file, opened by its table of contents. Throws {@link UnsoundZip} where it is none, has names that lead elsewhere or twice the same,
 * is encrypted, or would unfold to more than the limits; what an entry unfolds to beyond what it says ends its reading.
 */
export async function openZip(path: string, { entries: most, unfoldedBytes }: ZipLimits): Promise<OpenZip> {
  let zip: ZipFile;
  try {
    zip = await openPath(path, { lazyEntries: true, autoClose: false, strictFileNames: true });
  } catch {
    throw new UnsoundZip(say('It is no ZIP file, or was cut off.'));
  }
  const entries = new Map<string, Entry>();
  try {
    if (zip.entryCount > most) throw new UnsoundZip(say`It has more than ${most} files.`);
    await new Promise<void>((done, fail) => {
      let unfolded = 0;
      zip.on('entry', (entry: Entry) => {
        const name = entry.fileName;
        unfolded += entry.uncompressedSize;
        if (!isPlain(name)) return fail(new UnsoundZip(say('A file in it has a name that leads elsewhere.')));
        if (entries.has(name)) return fail(new UnsoundZip(say`“${name}” is in it twice.`));
        if (entry.generalPurposeBitFlag & 1) return fail(new UnsoundZip(say('It is encrypted.')));
        if (unfolded > unfoldedBytes)
          return fail(new UnsoundZip(say`It unfolds to more than ${Math.round(unfoldedBytes / 1024 ** 3)} GB.`));
        entries.set(name, entry);
        zip.readEntry();
      });
      zip.once('end', () => done());
      zip.once('error', (error: Error) =>
        fail(
          /file name|invalid characters|absolute|relative/i.test(error.message)
            ? new UnsoundZip(say('A file in it has a name that leads elsewhere.'))
            : new UnsoundZip(say('Its table of contents cannot be read.')),
        ),
      );
      zip.readEntry();
    });
  } catch (fault) {
    zip.close();
    throw fault;
  }
  const entryOf = (name: string): Entry => {
    const entry = entries.get(name);
    if (!entry) throw new UnsoundZip(say`“${name}” is missing from it.`);
    return entry;
  };
  const openEntry = promisify<Entry, Readable>(zip.openReadStream.bind(zip));
  const small = (name: string, limit: number): Entry => {
    const entry = entryOf(name);
    if (entry.uncompressedSize > limit) throw new UnsoundZip(say`“${name}” is larger than such a file is.`);
    return entry;
  };
  const unreadable =
    (name: string) =>
    (fault: unknown): never => {
      throw fault instanceof UnsoundZip ? fault : new UnsoundZip(say`“${name}” cannot be unfolded.`);
    };
  return {
    has: (name) => entries.has(name),
    names: () => [...entries.keys()],
    stream: async (name) => openEntry(entryOf(name)),
    text: async (name, limit) => {
      const chunks: Buffer[] = [];
      const stream = await openEntry(small(name, limit)).catch(unreadable(name));
      try {
        for await (const chunk of stream) chunks.push(chunk as Buffer);
      } catch (fault) {
        unreadable(name)(fault);
      }
      return Buffer.concat(chunks).toString('utf8');
    },
    extract: async (name, to, limit) => {
      const stream = await openEntry(small(name, limit)).catch(unreadable(name));
      const written = await writeHashed(stream, to).catch(unreadable(name));
      return written.sha256;
    },
    close: () => zip.close(),
  };
}

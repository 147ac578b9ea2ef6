import {
  type BroughtIn,
  Kept,
  PackageManifest,
  packageLimits,
  Room,
  say,
  sentenceFor,
  serverErrors,
  shelfLimits,
} from '@viaticum/contract';
import { Ajv } from 'ajv';
import { nanoid } from 'nanoid';
import { CourseEntity, KeptEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault } from '../errors.js';
import { filesNamed } from '../lessons/reach.js';
import type { ReaderAnswer, ReaderJob, ReadLesson } from '../lessons/reader-worker.js';
import type { LessonStore } from '../lessons/store.js';
import { MOST_BYTES } from '../pictures/limits.js';
import type { PictureStore } from '../pictures/store.js';
import { inUploads } from '../work/uploads.js';
import { type OpenZip, openZip, UnsoundZip } from './zip.js';

const ajv = new Ajv({ allErrors: false, strict: false });
const isManifest = ajv.compile(PackageManifest);
const keptKinds = { room: ajv.compile(Room), kept: ajv.compile(Kept) };
const MOST_MANIFEST = 8 * 1024 ** 2;
const MOST_KEPT = 32 * 1024 ** 2;

const unsound = (what: string) => new ApiFault(serverErrors.packageUnsound(what));

type Parts = {
  database: Database;
  lessons: LessonStore;
  pictures: PictureStore;
  readers: { ask: (job: ReaderJob, caller: string) => Promise<ReaderAnswer> };
  dataFolder: string;
};

function json(text: string, file: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw unsound(say`“${file}” in it is no JSON.`);
  }
}

async function manifestOf(zip: OpenZip): Promise<PackageManifest> {
  if (!zip.has('viaticum.json')) throw unsound(say('It was not saved from Viaticum: it has no viaticum.json.'));
  const said = json(await zip.text('viaticum.json', MOST_MANIFEST), 'viaticum.json');
  const { format, version } = said as Partial<PackageManifest>;
  if (format === 'viaticum-lessons' && typeof version === 'number' && version > 1)
    throw unsound(say('It was written by a newer Viaticum. Update this one, then bring it in again.'));
  if (!isManifest(said)) throw unsound(say`Its viaticum.json is not as it should be. ${sentenceFor(isManifest.errors ?? [])}`);
  return said;
}

/** Brings the lessons of a package onto somebody's shelf: all of it or nothing. Throws a sentence where it is not sound. */
export async function bringIn(parts: Parts, who: string, path: string): Promise<BroughtIn> {
  let zip: OpenZip;
  try {
    zip = await openZip(path, packageLimits);
  } catch (fault) {
    throw fault instanceof UnsoundZip ? unsound(fault.message) : fault;
  }
  try {
    return await bringFrom(zip, parts, who);
  } catch (fault) {
    throw fault instanceof UnsoundZip ? unsound(fault.message) : fault;
  } finally {
    zip.close();
  }
}

async function bringFrom(zip: OpenZip, parts: Parts, who: string): Promise<BroughtIn> {
  const { database, lessons, pictures } = parts;
  const manifest = await manifestOf(zip);
  const inside = new Map(manifest.pictures.map((picture) => [picture.sha256, picture]));
  // Everything is read and looked over before anything is written.
  const read: { file: string; lesson: ReadLesson }[] = [];
  for (const { file } of manifest.lessons) read.push({ file, lesson: await readLesson(zip, parts, who, file) });
  for (const { file, lesson } of read) {
    const needed = [...lesson.text.matchAll(/"pictureSha256":"([0-9a-f]{64})"/g)].map(([, sha]) => sha as string);
    const lacks = needed.filter((sha) => !inside.has(sha));
    const has = new Set(await pictures.owned(who, lacks));
    if (lacks.some((sha) => !has.has(sha))) throw unsound(say`A picture of “${lesson.title}” (${file}) is missing from it.`);
  }
  const kept = await keptOf(zip, manifest);
  const used = new Set(read.flatMap(({ lesson }) => filesNamed(lesson.text)));
  for (const { sha256, file, contentSha256 } of manifest.pictures) {
    if (!used.has(sha256)) continue;
    await inUploads(parts.dataFolder, async (at) => {
      if ((await zip.extract(file, at, MOST_BYTES)) !== contentSha256)
        throw unsound(say`“${file}” in it was changed or damaged.`);
      await pictures.bear(who, at, sha256, contentSha256);
    });
  }
  return database.source.transaction(async (manager) => {
    const brought = await lessons.bring(
      manager,
      who,
      read.map(({ lesson }) => lesson),
    );
    const idOf = new Map(read.map(({ file }, at) => [file, brought[at]?.id as string]));
    let courses = 0;
    const room = shelfLimits.courses - (await manager.countBy(CourseEntity, { ownerId: who }));
    for (const { title, lessons: files } of manifest.courses.slice(0, Math.max(0, room))) {
      const lessonIds = JSON.stringify(files.flatMap((file) => idOf.get(file) ?? []));
      if (await manager.existsBy(CourseEntity, { ownerId: who, title, lessonIds })) continue;
      await manager.insert(CourseEntity, { id: nanoid(12), ownerId: who, title, lessonIds, updatedAt: Date.now() });
      courses += 1;
    }
    let added = 0;
    for (const one of kept) {
      const kind = 'kind' in one ? one.kind : 'room';
      if (await manager.existsBy(KeptEntity, { ownerId: who, kind, name: one.name })) continue;
      await manager.insert(KeptEntity, { id: nanoid(12), ownerId: who, kind, name: one.name, document: JSON.stringify(one) });
      added += 1;
    }
    return {
      added: brought.flatMap(({ id, title, isNew }) => (isNew ? [{ id, title }] : [])),
      there: brought.flatMap(({ title, isNew }) => (isNew ? [] : [title])),
      ...{ courses, kept: added },
    };
  });
}

async function readLesson(zip: OpenZip, { readers }: Parts, who: string, file: string): Promise<ReadLesson> {
  const text = await zip.text(file, packageLimits.lessonBytes);
  const answer = await readers.ask({ bytes: Buffer.from(text), kind: 'borne' }, who);
  if ('fault' in answer) throw unsound(`“${file}”: ${answer.fault.sentence}`);
  return answer as ReadLesson;
}

async function keptOf(zip: OpenZip, manifest: PackageManifest): Promise<(Kept | Room)[]> {
  if (!manifest.kept) return [];
  const said = json(await zip.text(manifest.kept, MOST_KEPT), manifest.kept);
  if (!Array.isArray(said) || said.length > 400) throw unsound(say`“${manifest.kept}” in it is no list of kept things.`);
  // Of another version, what is kept may be written otherwise: lessons are what matters, the rest stays behind.
  return said.filter((one): one is Kept | Room => keptKinds.kept(one) || keptKinds.room(one));
}

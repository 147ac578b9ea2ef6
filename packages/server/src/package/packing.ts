import type { Readable } from 'node:stream';
import { type Kept, Lesson, PackageManifest, type Room } from '@viaticum/contract';
import { IsNull } from 'typeorm';
import yazl from 'yazl';
import { storedEvents } from '../classes/events.js';
import {
  ClassEntity,
  ClassStudentEntity,
  CourseEntity,
  KeptEntity,
  LessonEntity,
  LetterEntity,
  PersonEntity,
  StudioEntity,
} from '../db/entities.js';
import type { Database } from '../db/source.js';
import { filesNamed } from '../lessons/reach.js';
import type { LessonStore } from '../lessons/store.js';
import { putLog } from '../logbook/rows.js';
import type { PictureStore } from '../pictures/store.js';
import { slug } from './names.js';

const readMe = `Lessons from Viaticum
=====================

viaticum.json      what lies in this package, and where
lessons/           a lesson each, as JSON; schema/lesson.schema.json says how it is written
pictures/          the pictures that they name, each by the name under which lessons call it
kept/              rooms, steps and methods that were kept for other lessons, where there are any
classes/ people/ studio/ log/   what else is stored of who saved this: to read, not to bring in

Bring it in on the shelf of any Viaticum. Films are not in it: they are large, and lie in a backup.
`;

const pretty = (value: unknown): Buffer => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);

type Parts = { database: Database; lessons: LessonStore; pictures: PictureStore };

/** A package of one lesson that somebody may read, or of all that they own with courses and kept things; written as it is read. */
export async function packLessons(parts: Parts, who: string, only?: string): Promise<{ zip: Readable; title: string }> {
  const zip = new yazl.ZipFile();
  const title = await putLessons(zip, parts, who, only);
  zip.end();
  return { zip: zip.outputStream as unknown as Readable, title };
}

/** Puts lessons and all that belongs to them into a package; gives what it is called. */
async function putLessons(
  zip: yazl.ZipFile,
  { database, lessons, pictures }: Parts,
  who: string,
  only?: string,
): Promise<string> {
  const { manager } = database.source;
  const ids = only
    ? [only]
    : (
        await manager.find(LessonEntity, {
          select: { id: true },
          where: { ownerId: who, removedAt: IsNull() },
          order: { updatedAt: 'ASC' },
        })
      ).map(({ id }) => id);
  const manifest: PackageManifest = {
    ...{ format: 'viaticum-lessons', version: 1, madeAt: new Date().toISOString() },
    ...{ lessons: [], pictures: [], courses: [] },
  };
  const placeOf = new Map<string, string>();
  const named = new Set<string>();
  for (const id of ids) {
    const text = await lessons.text(who, id);
    const document = JSON.parse(text) as Lesson;
    const file = `lessons/${slug(document.title)}-${id.replace(/[^\w]/g, '_')}.json`;
    const own = filesNamed(text);
    for (const sha of own) named.add(sha);
    manifest.lessons.push({ file, title: document.title, pictures: own });
    placeOf.set(id, file);
    zip.addBuffer(pretty(document), file);
  }
  for (const { sha256, contentSha256, format, path } of await pictures.forPackage(who, [...named])) {
    const file = `pictures/${sha256}.${format === 'png' ? 'png' : 'jpg'}`;
    manifest.pictures.push({ sha256, file, contentSha256 });
    zip.addFile(path, file, { compress: false });
  }
  // Names of films are hashes as well; they are not in a package.
  const there = new Set(manifest.pictures.map(({ sha256 }) => sha256));
  for (const lesson of manifest.lessons) lesson.pictures = lesson.pictures.filter((sha) => there.has(sha));
  if (!only) {
    for (const course of await manager.findBy(CourseEntity, { ownerId: who }))
      manifest.courses.push({
        title: course.title,
        lessons: (JSON.parse(course.lessonIds) as string[]).flatMap((id) => placeOf.get(id) ?? []),
      });
    const kept = await manager.find(KeptEntity, { where: { ownerId: who }, order: { kind: 'ASC', name: 'ASC' } });
    if (kept.length > 0) {
      manifest.kept = 'kept/kept.json';
      zip.addBuffer(pretty(kept.map(({ document }) => JSON.parse(document) as Kept | Room)), manifest.kept);
    }
  }
  if (!only) await putRest(zip, database, who);
  zip.addBuffer(pretty(Lesson), 'schema/lesson.schema.json');
  zip.addBuffer(pretty(PackageManifest), 'schema/package.schema.json');
  zip.addBuffer(Buffer.from(readMe), 'README.txt');
  zip.addBuffer(pretty(manifest), 'viaticum.json');
  return manifest.lessons.length === 1 ? (manifest.lessons[0]?.title ?? '') : `Viaticum, ${manifest.lessons.length} lessons`;
}

/** What else is stored of an instructor: not brought in again, but theirs to have. A class each. */
async function putRest(zip: yazl.ZipFile, database: Database, who: string): Promise<void> {
  const { manager } = database.source;
  const logs = storedEvents(database);
  await putLog(zip, manager, who);
  const studio = await manager.findOneBy(StudioEntity, { instructorId: who });
  if (studio) zip.addBuffer(pretty(JSON.parse(studio.document)), 'studio/studio.json');
  const people = await manager.find(PersonEntity, { where: { ownerId: who }, order: { firstName: 'ASC' } });
  if (people.length > 0) zip.addBuffer(pretty(people.map(({ id, firstName }) => ({ id, firstName }))), 'people/people.json');
  const letters = await manager.find(LetterEntity, { where: { ownerId: who }, order: { at: 'ASC' } });
  if (letters.length > 0) zip.addBuffer(pretty(letters.map(({ ownerId: _, ...letter }) => letter)), 'people/letters.json');
  for (const { id, code, title, phase, openedAt, invite, lessonId } of await manager.findBy(ClassEntity, { ownerId: who })) {
    const events = JSON.parse(await logs.text(id)) as unknown;
    const students = await manager.findBy(ClassStudentEntity, { classId: id });
    const about = {
      ...{ code, title, lessonId, phase, openedAt: new Date(openedAt).toISOString() },
      invite: JSON.parse(invite ?? 'null') as unknown,
      students: students.map(({ classId: _, ...student }) => student),
      events,
    };
    zip.addBuffer(pretty(about), `classes/${id.replace(/[^\w]/g, '_')}.json`);
  }
}

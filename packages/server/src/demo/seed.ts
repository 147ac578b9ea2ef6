import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { JoinedFilm, Lesson } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import { nanoid } from 'nanoid';
import type { Passwords } from '../auth/password.js';
import { InstructorEntity, SessionEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import type { FilmStore } from '../films/store.js';
import { shown } from '../lessons/shown.js';
import type { LessonStore } from '../lessons/store.js';
import type { PictureStore } from '../pictures/store.js';

export const demoSignIn = { name: 'demo', password: 'north light' };
/** The last is the newest on the shelf. */
const demoLessons = ['wool', 'star', 'kettle', 'balloons'] as const;
/** The lesson that has a film beside its steps. */
const filmed = 'kettle';
const folder = new URL('../../assets/demo/', import.meta.url);

/** One instructor and four lessons, where the database holds no instructor yet. Says whether it wrote anything. */
export async function seedDemo(
  { source }: Database,
  lessons: LessonStore,
  pictures: PictureStore,
  films: FilmStore,
  passwords: Passwords,
): Promise<boolean> {
  if ((await source.manager.count(InstructorEntity)) > 0) return false;
  const id = nanoid(12);
  await source.manager.insert(InstructorEntity, {
    id,
    name: demoSignIn.name,
    role: 'demo',
    createdAt: Date.now(),
    passwordHash: await passwords.hash(demoSignIn.password),
  });
  for (const name of demoLessons) {
    const picture = await pictures.add(id, createReadStream(new URL(`${name}.jpg`, folder)));
    const lesson: Lesson = upgradeLesson(JSON.parse(await readFile(new URL(`${name}.json`, folder), 'utf8')));
    if (lesson.references[0]?.pictureSha256 !== picture.sha256)
      throw new Error('A demo lesson names another picture than the one shipped. Run npm run demo.');
    const beside = filmed === name ? await demoFilm(films, id) : null;
    if (beside) lesson.film = { films: [beside] };
    await lessons.create(id, { text: JSON.stringify(lesson), ...shown(lesson) });
  }
  return true;
}

/** The film of a demo lesson, drawn by a browser from its own stages (`npm run demo:film`), and where its steps are in it. */
async function demoFilm(films: FilmStore, ownerId: string): Promise<JoinedFilm> {
  const about = JSON.parse(await readFile(new URL(`${filmed}.film.json`, folder), 'utf8')) as Omit<
    JoinedFilm,
    'fileSha256' | 'bytes' | 'type'
  >;
  const { sha256, bytes, type } = await films.take(ownerId, fileURLToPath(new URL(`${filmed}.webm`, folder)), about.name);
  return { ...about, fileSha256: sha256, bytes, type };
}

/** Gives the demo another password and ends its sessions. */
export async function setDemoPassword({ source }: Database, passwords: Passwords, password: string): Promise<void> {
  const demo = await source.manager.findOneBy(InstructorEntity, { name: demoSignIn.name });
  if (!demo || (await passwords.fits(password, demo.passwordHash, 'set-up'))) return;
  await source.manager.update(InstructorEntity, { id: demo.id }, { passwordHash: await passwords.hash(password) });
  await source.manager.delete(SessionEntity, { instructorId: demo.id });
}

/** Whether the demo can be signed in to with the password that everybody knows. */
export async function hasKnownPassword({ source }: Database, passwords: Passwords): Promise<boolean> {
  const demo = await source.manager.findOneBy(InstructorEntity, { name: demoSignIn.name });
  return demo !== null && !demo.isOff && passwords.fits(demoSignIn.password, demo.passwordHash, 'set-up');
}

import { readFile } from 'node:fs/promises';
import type { Lesson } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/lesson';
import { nanoid } from 'nanoid';
import { hashPassword } from '../auth/password.js';
import { InstructorEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import type { LessonStore } from '../lessons/store.js';
import type { PictureStore } from '../pictures/store.js';

export const demoSignIn = { name: 'demo', password: 'north light' };
/** The first is the newest on the shelf. */
const demoLessons = ['star', 'kettle', 'balloons'] as const;
const folder = new URL('../../assets/demo/', import.meta.url);

/** One instructor and three lessons, where the database holds no instructor yet. Says whether it wrote anything. */
export async function seedDemo({ source }: Database, lessons: LessonStore, pictures: PictureStore): Promise<boolean> {
  if ((await source.manager.count(InstructorEntity)) > 0) return false;
  const id = nanoid(12);
  await source.manager.insert(InstructorEntity, {
    id,
    name: demoSignIn.name,
    passwordHash: await hashPassword(demoSignIn.password),
  });
  for (const name of demoLessons) {
    const picture = await pictures.add(id, await readFile(new URL(`${name}.jpg`, folder)));
    const lesson: Lesson = upgradeLesson(JSON.parse(await readFile(new URL(`${name}.json`, folder), 'utf8')));
    if (lesson.references[0]?.pictureSha256 !== picture.sha256)
      throw new Error('A demo lesson names another picture than the one shipped. Run npm run demo.');
    await lessons.create(id, lesson);
  }
  return true;
}

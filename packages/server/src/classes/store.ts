import { randomBytes, randomInt } from 'node:crypto';
import { CODE_ALPHABET, type EventBody, type FollowSheet, type OtherRecipes } from '@viaticum/contract';
import { followSheet } from '@viaticum/core/lesson';
import { planLesson } from '@viaticum/core/plan';
import { nanoid } from 'nanoid';
import { ClassEntity, ClassEventEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { LessonStore } from '../lessons/store.js';
import { recipesForKits } from './recipes.js';
import { type ClassRoom, classRoom } from './room.js';

const newCode = () => Array.from({ length: 6 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');

/** Classes: opening one, and the rooms of those that somebody is connected to. */
export function classStore(database: Database, lessons: LessonStore) {
  const { source, pool } = database;
  const recipes = recipesForKits();
  const rooms = new Map<string, Promise<ClassRoom>>();

  const byCode = async (code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code });
    if (!found)
      throw new ApiFault(404, 'unknown-code', 'No class has this code. Look at the board again: six letters and digits.');
    return found;
  };

  return {
    byCode,

    /** Opens a class from a lesson: pins its revision, computes the plan, draws a code, writes the first event. */
    async open(ownerId: string, lessonId: string): Promise<ClassEntity> {
      const { revisionId, number, document } = await lessons.pin(ownerId, lessonId);
      if (document.steps.length === 0)
        throw new ApiFault(422, 'no-steps', 'This lesson has no steps yet. Write at least one before you open a class.');
      const { plan } = planLesson(document);
      const now = Date.now();
      for (let attempt = 0; attempt < 5; attempt++) {
        const code = newCode();
        if (await source.manager.existsBy(ClassEntity, { code })) continue;
        const body: EventBody = { type: 'opened', v: 1, revision: number, plan, code };
        const fresh = source.manager.create(ClassEntity, {
          id: nanoid(12),
          code,
          ownerId,
          lessonId,
          revisionId,
          secret: randomBytes(24).toString('base64url'),
          lastSeq: 1,
          phase: 'open',
          openedAt: now,
        });
        await source.transaction(async (manager) => {
          await manager.insert(ClassEntity, fresh);
          await manager.insert(ClassEventEntity, {
            classId: fresh.id,
            seq: 1,
            at: now,
            actor: 'instructor',
            commandId: nanoid(12),
            body: JSON.stringify(body),
          });
        });
        return fresh;
      }
      throw new Error('no free class code in five draws');
    },

    list: (ownerId: string): Promise<ClassEntity[]> =>
      source.manager.find(ClassEntity, { where: { ownerId }, order: { openedAt: 'DESC' }, take: 50 }),

    async owned(ownerId: string, code: string): Promise<ClassEntity> {
      const found = await source.manager.findOneBy(ClassEntity, { code, ownerId });
      if (!found) throw notFound('class of yours');
      return found;
    },

    async sheet(code: string): Promise<FollowSheet> {
      return followSheet(await lessons.revision((await byCode(code)).revisionId));
    },

    /** Recipes for a student of this class who lacks some tubes. */
    async recipesWithout(code: string, tubes: readonly string[]): Promise<OtherRecipes> {
      const { revisionId } = await byCode(code);
      return recipes.without(revisionId, await lessons.revision(revisionId), tubes);
    },

    title: async (one: ClassEntity): Promise<string> => (await lessons.revision(one.revisionId)).title,

    /** The room of a class, read from the database when the first person comes. */
    room(found: { id: string; secret: string }): Promise<ClassRoom> {
      let room = rooms.get(found.id);
      if (!room) {
        room = (async () => {
          const fresh = classRoom(pool, found);
          await fresh.log.load();
          return fresh;
        })();
        room.catch(() => rooms.delete(found.id));
        rooms.set(found.id, room);
      }
      return room;
    },

    async close(): Promise<void> {
      await recipes.close();
      for (const room of rooms.values()) (await room).close();
    },
  };
}
export type ClassStore = ReturnType<typeof classStore>;

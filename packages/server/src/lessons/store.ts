import type { Lesson, LessonAnswer, LessonCard } from '@viaticum/contract';
import { lessonFaults, upgradeLesson } from '@viaticum/core/lesson';
import { nanoid } from 'nanoid';
import type { EntityManager } from 'typeorm';
import { LessonEntity, LessonRevisionEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';

const COALESCE_MS = 5 * 60_000;

/** Throws 422 with the first sentence where a document of the right shape cannot be. */
function assertSound(document: Lesson): void {
  const [fault] = lessonFaults(document);
  if (fault) throw new ApiFault(422, 'unsound', `${fault} Nothing was stored.`);
}

const answer = (lesson: LessonEntity, revision: LessonRevisionEntity): LessonAnswer => ({
  id: lesson.id,
  revision: lesson.revision,
  document: upgradeLesson(JSON.parse(revision.document)),
  savedAt: new Date(lesson.updatedAt).toISOString(),
});

/** Lessons and their revisions. Every call names the instructor; what belongs to another does not exist for them. */
export function lessonStore({ source }: Database) {
  const own = async (manager: EntityManager, ownerId: string, id: string, lock = false): Promise<LessonEntity> => {
    const lesson = await manager.findOne(LessonEntity, {
      where: { id, ownerId },
      ...(lock ? { lock: { mode: 'pessimistic_write' } } : {}),
    });
    if (!lesson) throw notFound('lesson on your shelf');
    return lesson;
  };
  const present = async (manager: EntityManager, lesson: LessonEntity): Promise<LessonRevisionEntity> => {
    const revision = await manager
      .createQueryBuilder(LessonRevisionEntity, 'r')
      .where('r.lesson_id = :id AND r.number = :number AND r.kind <> :kept', {
        id: lesson.id,
        number: lesson.revision,
        kept: 'kept',
      })
      .getOne();
    if (!revision) throw new Error(`lesson ${lesson.id} has no revision ${lesson.revision}`);
    return revision;
  };

  return {
    async list(ownerId: string): Promise<LessonCard[]> {
      const lessons = await source.manager.find(LessonEntity, { where: { ownerId }, order: { updatedAt: 'DESC' } });
      return Promise.all(
        lessons.map(async (lesson) => {
          const { document, savedAt } = answer(lesson, await present(source.manager, lesson));
          return { id: lesson.id, title: document.title, revision: lesson.revision, updatedAt: savedAt, document };
        }),
      );
    },

    async read(ownerId: string, id: string): Promise<LessonAnswer> {
      const lesson = await own(source.manager, ownerId, id);
      return answer(lesson, await present(source.manager, lesson));
    },

    async create(ownerId: string, document: Lesson): Promise<LessonAnswer> {
      assertSound(document);
      const now = Date.now();
      return source.transaction(async (manager) => {
        const lesson = manager.create(LessonEntity, { id: nanoid(12), ownerId, revision: 1, updatedAt: now });
        await manager.insert(LessonEntity, lesson);
        const revision = manager.create(LessonRevisionEntity, {
          lessonId: lesson.id,
          number: 1,
          kind: 'auto',
          authorId: ownerId,
          document: JSON.stringify(document),
          createdAt: now,
        });
        await manager.insert(LessonRevisionEntity, revision);
        return answer(lesson, revision);
      });
    },

    /**
     * Stores a document over the revision it was made from. Where somebody saved meanwhile the document is kept as a revision
     * beside, and a 409 holds both.
     */
    async save(
      ownerId: string,
      id: string,
      baseRevision: number,
      document: Lesson,
    ): Promise<{ revision: number; savedAt: string }> {
      assertSound(document);
      const now = Date.now();
      const stored = await source.transaction(async (manager) => {
        const lesson = await own(manager, ownerId, id, true);
        const last = await present(manager, lesson);
        const text = JSON.stringify(document);
        if (lesson.revision !== baseRevision) {
          const current = answer(lesson, last);
          if (last.document !== text) {
            await manager.insert(LessonRevisionEntity, {
              lessonId: id,
              number: baseRevision,
              kind: 'kept',
              authorId: ownerId,
              document: text,
              createdAt: now,
            });
          }
          return { conflict: current };
        }
        const number = lesson.revision + 1;
        if (last.kind === 'auto' && last.authorId === ownerId && now - last.createdAt < COALESCE_MS) {
          await manager.update(LessonRevisionEntity, { id: last.id }, { number, document: text });
        } else {
          await manager.insert(LessonRevisionEntity, {
            lessonId: id,
            number,
            kind: 'auto',
            authorId: ownerId,
            document: text,
            createdAt: now,
          });
        }
        await manager.update(LessonEntity, { id }, { revision: number, updatedAt: now });
        return { revision: number };
      });
      if ('conflict' in stored) {
        throw new ApiFault(
          409,
          'stale',
          'This lesson was saved elsewhere meanwhile. Both versions are kept; choose which to go on with.',
          {
            current: stored.conflict,
            keptRevision: baseRevision,
          },
        );
      }
      return { revision: stored.revision, savedAt: new Date(now).toISOString() };
    },

    /** The present revision, set so that later autosaves leave it as it is. */
    async pin(ownerId: string, id: string): Promise<{ revisionId: number; number: number; document: Lesson }> {
      return source.transaction(async (manager) => {
        const lesson = await own(manager, ownerId, id, true);
        const revision = await present(manager, lesson);
        if (revision.kind === 'auto') await manager.update(LessonRevisionEntity, { id: revision.id }, { kind: 'pinned' });
        return { revisionId: revision.id, number: revision.number, document: upgradeLesson(JSON.parse(revision.document)) };
      });
    },

    async revision(revisionId: number): Promise<Lesson> {
      const revision = await source.manager.findOneByOrFail(LessonRevisionEntity, { id: revisionId });
      return upgradeLesson(JSON.parse(revision.document));
    },

    /** How many revisions of a kind a lesson has. */
    async count(id: string, kind: LessonRevisionEntity['kind']): Promise<number> {
      return source.manager.countBy(LessonRevisionEntity, { lessonId: id, kind });
    },
  };
}
export type LessonStore = ReturnType<typeof lessonStore>;

import { type EntityManager, IsNull } from 'typeorm';
import { LessonEntity, LessonRevisionEntity } from '../db/entities.js';
import { notFound } from '../errors.js';

/** Saved again by the same hand within this time, a revision is written over. */
const COALESCE_MS = 5 * 60_000;

type NewRevision = Pick<LessonRevisionEntity, 'lessonId' | 'number' | 'kind' | 'authorId' | 'document' | 'createdAt'>;

/** A lesson of this instructor, locked for writing where asked. Throws not found on anybody else's. */
export async function own(manager: EntityManager, ownerId: string, id: string, lock = false): Promise<LessonEntity> {
  const lesson = await manager.findOne(LessonEntity, {
    where: { id, ownerId, removedAt: IsNull() },
    ...(lock ? { lock: { mode: 'pessimistic_write' } } : {}),
  });
  if (!lesson) throw notFound('lesson on your shelf');
  return lesson;
}

/** The revision that a lesson shows. */
export async function present(manager: EntityManager, lesson: LessonEntity): Promise<LessonRevisionEntity> {
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
}

export async function addRevision(manager: EntityManager, revision: NewRevision): Promise<void> {
  await manager.insert(LessonRevisionEntity, revision);
}

/** The next revision after `last`: written over it where the same author saved a moment ago and nothing holds it. */
export async function succeed(manager: EntityManager, last: LessonRevisionEntity, next: NewRevision): Promise<void> {
  const isMoment = last.kind === 'auto' && last.authorId === next.authorId && next.createdAt - last.createdAt < COALESCE_MS;
  if (!isMoment) return addRevision(manager, next);
  await manager.update(LessonRevisionEntity, { id: last.id }, { number: next.number, document: next.document });
}

import type { RevisionKind } from '@viaticum/contract';
import { thinned } from '@viaticum/core/versions';
import { type EntityManager, IsNull } from 'typeorm';
import { type LessonEntity, LessonRevisionEntity } from '../db/entities.js';

/** Saved again by the same hand within this time, a version is written over. */
const COALESCE_MS = 60_000;

type NewRevision = Pick<LessonRevisionEntity, 'lessonId' | 'number' | 'kind' | 'authorId' | 'document' | 'createdAt'>;

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

/**
 * The next revision after `last`. A moment later it stands in its place, where the same hand saved by itself and nothing holds the
 * former; other versions that saved themselves are thinned by their age.
 */
export async function succeed(manager: EntityManager, last: LessonRevisionEntity, next: NewRevision): Promise<void> {
  const isFree = last.kind === 'auto' && last.name === null && last.authorId === next.authorId;
  if (isFree && next.createdAt - last.createdAt < COALESCE_MS) {
    await manager.update(LessonRevisionEntity, { id: last.id }, { number: next.number, document: next.document });
    return;
  }
  await addRevision(manager, next);
  const rows = await manager.find(LessonRevisionEntity, {
    select: { id: true, createdAt: true },
    where: { lessonId: next.lessonId, kind: 'auto', name: IsNull() },
  });
  const gone = thinned(
    rows.map(({ id, createdAt }) => ({ id, atMs: createdAt })),
    next.createdAt,
  );
  if (gone.length > 0) await manager.delete(LessonRevisionEntity, gone);
}

/** A version that is not to be thinned any more. */
export async function hold(manager: EntityManager, { id, kind }: LessonRevisionEntity, as: RevisionKind): Promise<void> {
  if (kind === 'auto' || as === 'pinned') await manager.update(LessonRevisionEntity, { id }, { kind: as });
}

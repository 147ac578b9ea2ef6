import { isId, type LessonRole, lessonRoles, serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { type EntityManager, In, IsNull } from 'typeorm';
import {
  FilmFileEntity,
  FilmOwnerEntity,
  LessonEntity,
  LessonFileEntity,
  LessonShareEntity,
  PictureEntity,
  PictureOwnerEntity,
} from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';

/** Whether who has a role may do what another one is needed for. */
const reaches = (has: LessonRole, needs: LessonRole): boolean => lessonRoles.indexOf(has) >= lessonRoles.indexOf(needs);

/** What an instructor may do with a lesson; null: for them there is no such lesson. */
export async function roleOf(manager: EntityManager, who: string, lesson: LessonEntity): Promise<LessonRole | null> {
  if (lesson.ownerId === who) return 'owner';
  return (await manager.findOneBy(LessonShareEntity, { lessonId: lesson.id, instructorId: who }))?.role ?? null;
}

/** Throws not found where a lesson is not an instructor's to see, and 403 with a sentence where they may do less with it. */
async function roleFor(manager: EntityManager, who: string, lesson: LessonEntity | null, needs: LessonRole) {
  const role = lesson && (await roleOf(manager, who, lesson));
  if (!lesson || !role) throw notFound('lesson on your shelf');
  if (!reaches(role, needs)) throw new ApiFault(needs === 'owner' ? serverErrors.lessonOwnerOnly : serverErrors.readOnly);
  return Object.assign(lesson, { role });
}

/** A lesson that stands on a shelf, for an instructor who needs a role with it; locked for writing where asked. */
export async function reach(
  manager: EntityManager,
  who: string,
  id: string,
  needs: LessonRole,
  lock = false,
): Promise<LessonEntity & { role: LessonRole }> {
  const lesson = await manager.findOne(LessonEntity, {
    where: { id, removedAt: IsNull() },
    ...(lock ? { lock: { mode: 'pessimistic_write' } } : {}),
  });
  return roleFor(manager, who, lesson, needs);
}

/** Every route that states a role with the lesson of its address is closed to who has a lesser one, before its body is looked at. */
export function lessonRolesAsked(app: FastifyInstance, { source }: Database): void {
  app.addHook('preValidation', async (request) => {
    const { lesson: needs } = request.routeOptions.config;
    if (!needs) return;
    const { id } = request.params as { id: string };
    if (isId(id))
      await roleFor(source.manager, signedIn(request).id, await source.manager.findOneBy(LessonEntity, { id }), needs);
  });
}

/** Which of these pictures and films an instructor may see: their own, and what lessons show that they may read. */
export async function visible(manager: EntityManager, who: string, sha256s: readonly string[]): Promise<string[]> {
  if (sha256s.length === 0) return [];
  const own = { instructorId: who, sha256: In([...sha256s]) };
  const [pictures, films, shown] = await Promise.all([
    manager.findBy(PictureOwnerEntity, own),
    manager.findBy(FilmOwnerEntity, own),
    manager
      .createQueryBuilder(LessonFileEntity, 'file')
      .innerJoin(LessonEntity, 'lesson', 'lesson.id = file.lesson_id AND lesson.removed_at IS NULL')
      .leftJoin(LessonShareEntity, 'share', 'share.lesson_id = lesson.id AND share.instructor_id = :who', { who })
      .where('file.sha256 IN (:...sha256s) AND (lesson.owner_id = :who OR share.role IS NOT NULL)', { sha256s, who })
      .getMany(),
  ]);
  return [...new Set([...pictures, ...films, ...shown].map(({ sha256 }) => sha256))].sort();
}

/** Pictures and films that a document names. */
export const filesNamed = (text: string): string[] => [
  ...new Set([...text.matchAll(/"([0-9a-f]{64})"/g)].map(([, sha]) => sha as string)),
];

/**
 * Pictures and films that somebody sees in a lesson of another's become their own with a lesson of their own that shows them: a copy does
 * not lose them when it is shared no more.
 */
export async function ownFiles(manager: EntityManager, who: string, text: string): Promise<void> {
  const seen = await visible(manager, who, filesNamed(text));
  if (seen.length === 0) return;
  for (const [kept, owner] of [
    [PictureEntity, PictureOwnerEntity],
    [FilmFileEntity, FilmOwnerEntity],
  ] as const) {
    const known = await manager.find<{ sha256: string }>(kept, { select: { sha256: true }, where: { sha256: In(seen) } });
    const rows = known.map(({ sha256 }) => ({ sha256, instructorId: who }));
    if (rows.length > 0) await manager.createQueryBuilder().insert().orIgnore().into(owner).values(rows).execute();
  }
}

/** Notes which files a shared lesson shows, of those that who writes it may see: others than they are shown no more by naming it. */
export async function noteFiles(manager: EntityManager, lessonId: string, who: string, text: string): Promise<void> {
  const seen = await visible(manager, who, filesNamed(text));
  if (seen.length > 0)
    await manager
      .createQueryBuilder()
      .insert()
      .orIgnore()
      .into(LessonFileEntity)
      .values(seen.map((sha256) => ({ lessonId, sha256 })))
      .execute();
}

import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type ClassLog,
  IdParam,
  type LoggedClass,
  type LoggedHeap,
  type LoggedResult,
  NewReminders,
  NewResult,
  ResultParams,
  SaveHeaps,
  SharePhoto,
  serverErrors,
} from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import type { EntityManager } from 'typeorm';
import type { LetterStore } from '../classes/people/letters.js';
import { ClassLogEntity, LessonEntity, LessonRevisionEntity, PictureOwnerEntity } from '../db/entities.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { logIn, stored } from './stored.js';

/** Photographs of results of one class. */
const MOST_RESULTS = 300;

/** A class of the log as a whole; a class of somebody else is none. */
export async function ownLog(manager: EntityManager, ownerId: string, id: string): Promise<ClassLogEntity> {
  const found = await manager.findOneBy(ClassLogEntity, { id, ownerId });
  if (!found) throw notFound('class of yours');
  return found;
}

/** What came of a class: how canvases differ from the picture, paint that was left, days to think of. */
export function outcomes(app: FastifyInstance, { manager, letters }: { manager: EntityManager; letters: LetterStore }): void {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const who = { config: { who: 'instructor' } } as const;
  const whole = (row: ClassLogEntity): LoggedClass => ({ id: row.id, code: row.code, log: logIn(row) });
  routes.get('/api/log/:id', { schema: { params: IdParam }, ...who }, async (request) =>
    whole(await ownLog(manager, signedIn(request).id, request.params.id)),
  );
  /** Changes a class of the log where two may do so at once. */
  const changed = (ownerId: string, id: string, change: (log: ClassLog) => ClassLog): Promise<LoggedClass> =>
    manager.transaction(async (within) => {
      const row = await within.findOne(ClassLogEntity, { where: { id, ownerId }, lock: { mode: 'pessimistic_write' } });
      if (!row) throw notFound('class of yours');
      const next = stored(change(logIn(row)));
      await within.update(ClassLogEntity, { id }, next);
      return whole({ ...row, ...next });
    });
  routes.put('/api/log/:id/heaps', { schema: { params: IdParam, body: SaveHeaps }, ...who }, (request) =>
    changed(signedIn(request).id, request.params.id, (log) => ({ ...log, heaps: request.body.heaps as LoggedHeap[] })),
  );
  routes.post('/api/log/:id/results', { schema: { params: IdParam, body: NewResult }, ...who }, (request, reply) => {
    reply.status(201);
    return changed(signedIn(request).id, request.params.id, (log) => {
      const results = log.results ?? [];
      if (results.length >= MOST_RESULTS) throw new ApiFault(serverErrors.resultsFull(MOST_RESULTS));
      return { ...log, results: [...results, { id: nanoid(12), ...(request.body as NewResult) }] };
    });
  });
  const withResult = (log: ClassLog, id: string, change: (one: LoggedResult) => LoggedResult[]): ClassLog => {
    if (!log.results?.some((one) => one.id === id)) throw notFound('photograph');
    return { ...log, results: log.results.flatMap((one) => (one.id === id ? change(one) : [one])) };
  };
  routes.put(
    '/api/log/:id/results/:resultId/shared',
    { schema: { params: ResultParams, body: SharePhoto }, ...who },
    async (request) => {
      const { id: ownerId } = signedIn(request);
      const { sha256 } = request.body;
      if (!(await manager.existsBy(PictureOwnerEntity, { sha256, instructorId: ownerId }))) throw notFound('picture of yours');
      return changed(ownerId, request.params.id, (log) =>
        withResult(log, request.params.resultId, (one) => [{ ...one, shared: request.body as SharePhoto }]),
      );
    },
  );
  /** A photograph that is shared no more goes, unless a lesson shows it. */
  const letGo = async (instructorId: string, sha256: string | undefined): Promise<void> => {
    if (!sha256) return;
    const isShown = await manager
      .createQueryBuilder(LessonRevisionEntity, 'revision')
      .innerJoin(LessonEntity, 'lesson', 'lesson.id = revision.lesson_id AND lesson.revision = revision.number')
      .where('lesson.owner_id = :instructorId AND revision.document LIKE :named', { instructorId, named: `%"${sha256}"%` })
      .getExists();
    if (!isShown) await manager.delete(PictureOwnerEntity, { sha256, instructorId });
  };
  const photoOf = async (ownerId: string, id: string, resultId: string) =>
    logIn(await ownLog(manager, ownerId, id)).results?.find((one) => one.id === resultId)?.shared?.sha256;
  routes.delete('/api/log/:id/results/:resultId/shared', { schema: { params: ResultParams }, ...who }, async (request) => {
    const [{ id: ownerId }, { id, resultId }] = [signedIn(request), request.params];
    const sha256 = await photoOf(ownerId, id, resultId);
    const answer = await changed(ownerId, id, (log) => withResult(log, resultId, ({ shared: _, ...one }) => [one]));
    await letGo(ownerId, sha256);
    return answer;
  });
  routes.delete('/api/log/:id/results/:resultId', { schema: { params: ResultParams }, ...who }, async (request) => {
    const [{ id: ownerId }, { id, resultId }] = [signedIn(request), request.params];
    const sha256 = await photoOf(ownerId, id, resultId);
    const answer = await changed(ownerId, id, (log) => withResult(log, resultId, () => []));
    await letGo(ownerId, sha256);
    return answer;
  });
  routes.delete('/api/reminders/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    await letters.forget(signedIn(request).id, request.params.id);
    return reply.status(204).send();
  });
  routes.post('/api/reminders', { schema: { body: NewReminders }, ...who }, async (request, reply) => {
    reply.status(201);
    return { written: await letters.remind(signedIn(request), request.body as NewReminders) };
  });
}

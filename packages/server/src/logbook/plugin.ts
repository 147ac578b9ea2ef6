import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type ByHand,
  type ClassLog,
  IdParam,
  type Lesson,
  type LoggedClass,
  LogQuery,
  languageNow,
  NewByHand,
  SaveLogNote,
} from '@viaticum/contract';
import { logByHand, type Suggestion } from '@viaticum/core/log';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { IsNull } from 'typeorm';
import yazl from 'yazl';
import type { ClassStore } from '../classes/store.js';
import { ClassEntity, ClassLogEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { reach } from '../lessons/reach.js';
import { present } from '../lessons/revisions.js';
import { pool } from '../work/pool.js';
import type { LogAnswer, LogJob, LogRow } from './log-worker.js';
import { putLog } from './rows.js';
import { logIn, stored } from './stored.js';

/** A page of the log, and how many classes that ended are written into it with one request. */
const PAGE = 40;
const WRITTEN_AT_ONCE = 30;
/** Drying of a room is learnt from so many of its newest classes, and a lesson from as many of its own. */
const LEARNT_FROM = 1000;

const answered = (row: ClassLogEntity): LoggedClass => ({
  id: row.id,
  code: row.code,
  log: logIn({ ...row, facts: '{"touches":[],"paces":[]}' }),
});
/** Words that are looked for, each at the beginning of one; what the index takes for a sign is left out. */
const sought = (words: string): string =>
  (words.match(/[\p{L}\p{N}]+/gu) ?? [])
    .slice(0, 8)
    .map((word) => `+${word}*`)
    .join(' ');

/** The log of classes: what was taught, noted by hand, looked for, and what it suggests for a lesson. */
export async function logbook(
  app: FastifyInstance,
  { database, classes }: { database: Database; classes: ClassStore },
): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const working = pool<LogJob, LogAnswer>('logbook/log-worker.js', { queue: 40, perCaller: 8 });
  app.addHook('onClose', working.close);
  const who = { config: { who: 'instructor' } } as const;

  /** Writes classes that have ended into the log, the oldest first; gives how many. */
  const keepUp = async (ownerId: string): Promise<number> => {
    const ended = await manager
      .createQueryBuilder(ClassEntity, 'class')
      .leftJoin(ClassLogEntity, 'log', 'log.class_id = class.id')
      .where("class.owner_id = :ownerId AND class.phase = 'ended' AND class.rehearsal = 0 AND log.id IS NULL", { ownerId })
      .orderBy('class.opened_at')
      .limit(WRITTEN_AT_ONCE)
      .getMany();
    for (const one of ended) {
      const [events, lesson] = await Promise.all([classes.eventsText(one.id), classes.lessonText(one)]);
      const { log } = (await working.ask({ kind: 'log', events, lesson }, ownerId)) as { log: ClassLog | null };
      // A class that was never begun has a row all the same, so that it is not asked of again.
      const kept = log ?? {
        ...logByHand(
          { title: one.title, at: new Date(one.openedAt).toISOString(), students: 1, items: [], note: '' },
          JSON.parse(lesson) as Lesson,
        ),
        kind: 'class' as const,
      };
      await manager
        .createQueryBuilder()
        .insert()
        .into(ClassLogEntity)
        .values({ id: nanoid(12), ownerId, lessonId: one.lessonId, classId: one.id, code: one.code, ...stored(kept) })
        .orIgnore()
        .execute();
    }
    return ended.length;
  };
  const own = async (ownerId: string, id: string): Promise<ClassLogEntity> => {
    const found = await manager.findOneBy(ClassLogEntity, { id, ownerId });
    if (!found) throw notFound('class of yours');
    return found;
  };
  const allOf = async (ownerId: string, lessonId?: string): Promise<LogRow[]> => {
    const rows = await manager.find(ClassLogEntity, {
      where: { ownerId, ...(lessonId === undefined ? {} : { lessonId }) },
      order: { at: 'DESC' },
      take: LEARNT_FROM,
    });
    return rows.map(({ id, card, facts }) => ({ id, card, facts }));
  };

  routes.get('/api/log', { schema: { querystring: LogQuery }, ...who }, async (request): Promise<LoggedClass[]> => {
    const { id: ownerId } = signedIn(request);
    const { lesson, words, before } = request.query;
    await keepUp(ownerId);
    const query = manager
      .createQueryBuilder(ClassLogEntity, 'log')
      .select(['log.id', 'log.code', 'log.card', 'log.at'])
      .where('log.owner_id = :ownerId', { ownerId });
    if (lesson !== undefined) query.andWhere('log.lesson_id = :lesson', { lesson });
    const asked = words === undefined ? '' : sought(words);
    if (asked) query.andWhere('MATCH (log.words) AGAINST (:asked IN BOOLEAN MODE)', { asked });
    if (before !== undefined) {
      const last = await own(ownerId, before);
      query.andWhere('(log.at < :at OR (log.at = :at AND log.id < :before))', { at: last.at, before });
    }
    return (await query.orderBy('log.at', 'DESC').addOrderBy('log.id', 'DESC').limit(PAGE).getMany()).map(answered);
  });
  routes.get('/api/log/package', who, async (request, reply) => {
    const { id: ownerId } = signedIn(request);
    while ((await keepUp(ownerId)) === WRITTEN_AT_ONCE);
    const zip = new yazl.ZipFile();
    await putLog(zip, manager, ownerId);
    zip.end();
    return reply
      .type('application/zip')
      .header('content-disposition', 'attachment; filename="viaticum-log.zip"')
      .send(zip.outputStream);
  });
  routes.post('/api/log/by-hand', { schema: { body: NewByHand }, ...who }, async (request, reply) => {
    const { id: ownerId } = signedIn(request);
    const { lessonId, byHand } = request.body as { lessonId: string; byHand: ByHand };
    const lesson = JSON.parse((await present(manager, await reach(manager, ownerId, lessonId, 'reader'))).document) as Lesson;
    const row = manager.create(ClassLogEntity, {
      ...{ id: nanoid(12), ownerId, lessonId, classId: null, code: null },
      ...stored(logByHand(byHand, lesson)),
    });
    await manager.insert(ClassLogEntity, row);
    reply.status(201);
    return answered(row);
  });
  routes.put('/api/log/:id/note', { schema: { params: IdParam, body: SaveLogNote }, ...who }, async (request) => {
    const row = await own(signedIn(request).id, request.params.id);
    const change = stored({ ...logIn(row), note: request.body.note });
    await manager.update(ClassLogEntity, { id: row.id }, change);
    return answered({ ...row, ...change });
  });
  // A class that was taught stays; what was noted by hand may be wrong.
  routes.delete('/api/log/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    const { id, ownerId } = await own(signedIn(request).id, request.params.id);
    await manager.delete(ClassLogEntity, { id, ownerId, classId: IsNull() });
    return reply.status(204).send();
  });
  routes.get(
    '/api/lessons/:id/suggestions',
    { schema: { params: IdParam }, config: { who: 'instructor', lesson: 'reader' } },
    async (request): Promise<Suggestion[]> => {
      const { id: ownerId } = signedIn(request);
      const lesson = await reach(manager, ownerId, request.params.id, 'reader');
      await keepUp(ownerId);
      const text = (await present(manager, lesson)).document;
      const [ofLesson, all] = await Promise.all([allOf(ownerId, lesson.id), allOf(ownerId)]);
      const job: LogJob = {
        kind: 'suggest',
        lesson: text,
        own: ofLesson,
        all,
        now: Date.now(),
        language: languageNow(),
      };
      return ((await working.ask(job, ownerId)) as { suggestions: Suggestion[] }).suggestions;
    },
  );
}

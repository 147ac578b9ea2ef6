import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type ByHand,
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
import type { LetterStore } from '../classes/people/letters.js';
import type { ClassStore } from '../classes/store.js';
import { ClassLogEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { signedIn } from '../guard/access.js';
import { reach } from '../lessons/reach.js';
import { present } from '../lessons/revisions.js';
import type { LessonStore } from '../lessons/store.js';
import { pool } from '../work/pool.js';
import { paintedAlone } from './alone.js';
import { logKeeper, WRITTEN_AT_ONCE } from './keeping.js';
import type { LearntAnswer, LogAnswer, LogJob, LogRow } from './log-worker.js';
import { outcomes, ownLog } from './results.js';
import { putLog } from './rows.js';

import { logIn, stored } from './stored.js';

/** A page of the log. */
const PAGE = 40;
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
  {
    database,
    classes,
    lessons,
    letters,
  }: { database: Database; classes: ClassStore; lessons: LessonStore; letters: LetterStore },
): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const working = pool<LogJob, LogAnswer>('logbook/log-worker.js', { queue: 40, perCaller: 8 });
  app.addHook('onClose', working.close);
  const who = { config: { who: 'instructor' } } as const;

  const { keepUp, alone } = logKeeper({ manager, classes, ask: working.ask });
  paintedAlone(routes, { manager, lessons, classes, alone });
  outcomes(routes, { manager, letters });
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
      const last = await ownLog(manager, ownerId, before);
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
      ...{ id: nanoid(12), ownerId, lessonId, classId: null, code: null, source: null },
      ...stored(logByHand(byHand, lesson)),
    });
    await manager.insert(ClassLogEntity, row);
    reply.status(201);
    return answered(row);
  });
  routes.put('/api/log/:id/note', { schema: { params: IdParam, body: SaveLogNote }, ...who }, async (request) => {
    const row = await ownLog(manager, signedIn(request).id, request.params.id);
    const change = stored({ ...logIn(row), note: request.body.note });
    await manager.update(ClassLogEntity, { id: row.id }, change);
    return answered({ ...row, ...change });
  });
  // A class that was taught stays; what was noted by hand may be wrong.
  routes.delete('/api/log/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    const { id, ownerId } = await ownLog(manager, signedIn(request).id, request.params.id);
    await manager.delete(ClassLogEntity, { id, ownerId, classId: IsNull() });
    return reply.status(204).send();
  });
  const learnt = async (kind: 'suggest' | 'calibrate', ownerId: string, id: string): Promise<LogAnswer> => {
    const lesson = await reach(manager, ownerId, id, 'reader');
    await keepUp(ownerId);
    const text = (await present(manager, lesson)).document;
    const [ofLesson, all] = await Promise.all([allOf(ownerId, lesson.id), allOf(ownerId)]);
    const job: LogJob = { kind, lesson: text, own: ofLesson, all, now: Date.now(), language: languageNow() };
    return working.ask(job, ownerId);
  };
  const ofLesson = { schema: { params: IdParam }, config: { who: 'instructor', lesson: 'reader' } } as const;
  routes.get('/api/lessons/:id/suggestions', ofLesson, async (request): Promise<Suggestion[]> => {
    const { suggestions } = (await learnt('suggest', signedIn(request).id, request.params.id)) as { suggestions: Suggestion[] };
    return suggestions;
  });
  routes.get(
    '/api/lessons/:id/calibrations',
    ofLesson,
    async (request): Promise<LearntAnswer> =>
      (await learnt('calibrate', signedIn(request).id, request.params.id)) as LearntAnswer,
  );
}

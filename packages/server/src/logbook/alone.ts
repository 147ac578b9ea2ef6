import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { type ClassEvent, Id, NewAloneLog } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { type EntityManager, IsNull } from 'typeorm';
import type { ClassStore } from '../classes/store.js';
import { AloneLinkEntity, LessonEntity } from '../db/entities.js';
import { notFound } from '../errors.js';
import { reach } from '../lessons/reach.js';
import type { LessonStore } from '../lessons/store.js';
import type { LogKeeper } from './keeping.js';

const MOST_BYTES = 1024 * 1024;
type Parts = { manager: EntityManager; lessons: LessonStore; classes: ClassStore; alone: LogKeeper['alone'] };

/** Times of who painted a lesson alone from its link. */
export function paintedAlone(app: FastifyInstance, { manager, lessons, classes, alone }: Parts): void {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  // What was painted alone is told by an act of whoever painted it, and names nobody; of the lesson's own people it is practice.
  routes.post(
    '/api/alone/:token/log',
    {
      schema: { params: Type.Object({ token: Id }), body: NewAloneLog },
      bodyLimit: MOST_BYTES,
      config: { who: 'link', rateLimit: { max: 12, timeWindow: '1 minute' } },
    },
    async (request, reply) => {
      const link = await manager.findOneBy(AloneLinkEntity, { token: request.params.token });
      const lesson = link && (await manager.findOneBy(LessonEntity, { id: link.lessonId, removedAt: IsNull() }));
      if (!link || !lesson) throw notFound('lesson at this address');
      const [{ text }, { plan }] = await Promise.all([lessons.revision(link.revisionId), classes.sheetOf(link.revisionId)]);
      const isOwn =
        request.instructor !== null &&
        (await reach(manager, request.instructor.id, lesson.id, 'editor').then(
          () => true,
          () => false,
        ));
      const of = isOwn ? 'practice' : 'alone';
      await alone(
        { ownerId: lesson.ownerId, lessonId: lesson.id },
        { lesson: text, plan, events: request.body.events as ClassEvent[], of },
      );
      return reply.status(204).send();
    },
  );
}

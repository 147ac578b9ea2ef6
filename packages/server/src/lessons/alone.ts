import { randomBytes } from 'node:crypto';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { IdParam } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { signedIn } from '../auth/plugin.js';
import type { ClassStore } from '../classes/store.js';
import type { Config } from '../config.js';
import { AloneLinkEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { notFound } from '../errors.js';
import type { LessonStore } from './store.js';

type Parts = { database: Database; lessons: LessonStore; classes: ClassStore; config: Config };

/** Links by which a lesson is painted alone, at one's own pace: the lesson as it is when the link is made, until it is made anew. */
export async function alone(app: FastifyInstance, { database, lessons, classes, config }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const address = (token: string) => ({ address: `${config.publicUrl}/paint/${token}` });

  // Who may call: the instructor, for their own lessons. Made again, the link stays and shows the lesson as it is now.
  routes.post(
    '/api/lessons/:id/alone',
    { schema: { params: IdParam }, preValidation: async (request) => void signedIn(request) },
    async (request) => {
      const { revisionId } = await lessons.pin(signedIn(request).id, request.params.id);
      const before = await manager.findOneBy(AloneLinkEntity, { lessonId: request.params.id });
      const token = before?.token ?? randomBytes(12).toString('base64url');
      if (before) await manager.update(AloneLinkEntity, { token }, { revisionId });
      else await manager.insert(AloneLinkEntity, { token, lessonId: request.params.id, revisionId });
      return address(token);
    },
  );

  // Who may call: anyone who has the link; a token cannot be guessed.
  routes.get(
    '/api/alone/:token',
    {
      schema: { params: Type.Object({ token: Type.String({ minLength: 1, maxLength: 32 }) }) },
      config: { rateLimit: { max: 120, timeWindow: '1 minute' } },
    },
    async (request) => {
      const link = await manager.findOneBy(AloneLinkEntity, { token: request.params.token });
      if (!link) throw notFound('lesson at this address');
      return classes.sheetOf(link.revisionId);
    },
  );
}

import { randomBytes } from 'node:crypto';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { Id, IdParam } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import type { ClassStore } from '../classes/store.js';
import type { Config } from '../config.js';
import { AloneLinkEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { notFound } from '../errors.js';
import { sendFilmOf } from '../films/plugin.js';
import type { FilmStore } from '../films/store.js';
import { as, signedIn } from '../guard/access.js';
import { sendStage } from '../stage-pictures/store.js';
import type { LessonStore } from './store.js';

type Parts = { database: Database; lessons: LessonStore; classes: ClassStore; films: FilmStore; config: Config };

/** Links by which a lesson is painted alone, at one's own pace: the lesson as it is when the link is made, until it is made anew. */
export async function alone(app: FastifyInstance, { database, lessons, classes, films, config }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const address = (token: string) => ({ address: `${config.publicUrl}/paint/${token}` });

  // Made again, the link stays and shows the lesson as it is now.
  routes.post('/api/lessons/:id/alone', { schema: { params: IdParam }, ...as('editor') }, async (request) => {
    const { revisionId } = await lessons.pin(signedIn(request).id, request.params.id, 'editor');
    const before = await manager.findOneBy(AloneLinkEntity, { lessonId: request.params.id });
    const token = before?.token ?? randomBytes(12).toString('base64url');
    if (before) await manager.update(AloneLinkEntity, { token }, { revisionId });
    else await manager.insert(AloneLinkEntity, { token, lessonId: request.params.id, revisionId });
    return address(token);
  });

  // A token cannot be guessed.
  const linked = async (token: string): Promise<number> => {
    const link = await manager.findOneBy(AloneLinkEntity, { token });
    if (!link) throw notFound('lesson at this address');
    return link.revisionId;
  };
  routes.get(
    '/api/alone/:token',
    {
      schema: { params: Type.Object({ token: Id }) },
      config: { who: 'link', rateLimit: { max: 120, timeWindow: '1 minute' } },
    },
    async (request) => classes.sheetOf(await linked(request.params.token)),
  );
  routes.get(
    '/api/alone/:token/stages/:stepId',
    { schema: { params: Type.Object({ token: Id, stepId: Id }) }, config: { who: 'link' } },
    async (request, reply) => {
      return sendStage(request, reply, await classes.stage(await linked(request.params.token), request.params.stepId));
    },
  );
  routes.get(
    '/api/alone/:token/films/:sha256',
    {
      schema: { params: Type.Object({ token: Id, sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }) }) },
      config: { who: 'link' },
    },
    async (request, reply) => {
      const { sheet } = await classes.sheetOf(await linked(request.params.token));
      return sendFilmOf(request, reply, films, sheet, request.params.sha256);
    },
  );
}

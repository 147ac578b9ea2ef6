import { randomBytes } from 'node:crypto';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { byId, Id, IdParam, type KitAnswer, type KitLink, type KitSheet, PackOptions, Studio, Ticks } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { IsNull } from 'typeorm';
import { measuresOf } from '../auth/measures.js';
import type { Config } from '../config.js';
import { KitLinkEntity, KitTickEntity, LessonEntity, StudioEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { notFound } from '../errors.js';
import { as, signedIn } from '../guard/access.js';
import { reach } from '../lessons/reach.js';
import { present } from '../lessons/revisions.js';
import type { LessonStore } from '../lessons/store.js';
import { pool } from '../work/pool.js';
import type work from './pack-worker.js';
import type { PackJob } from './pack-worker.js';
import type { SheetJob } from './sheet-worker.js';
import { studioOf } from './studio.js';

/** Packs are few and large: one at a time, and a handful waiting. */
const packs = () => pool<PackJob, Awaited<ReturnType<typeof work>>>('kit/pack-worker.js', { queue: 10, perCaller: 2 });

const TokenParam = Type.Object({ token: Id });
const MOST_TICKS = 2000;

/** What an instructor's studio has and pays, and a lesson's lists as they are ticked on a phone by whoever has their link. */
export async function kit(
  app: FastifyInstance,
  { database, lessons, config }: { database: Database; lessons: LessonStore; config: Config },
): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const sheets = pool<SheetJob, KitSheet>('kit/sheet-worker.js', { queue: 40, perCaller: 10 });
  const packing = packs();
  app.addHook('onClose', () => Promise.all([sheets.close(), packing.close()]));
  const instructor = { config: { who: 'instructor' } } as const;

  routes.get('/api/studio', instructor, async (request) => studioOf(manager, signedIn(request).id));
  routes.put('/api/studio', { schema: { body: Studio }, ...instructor }, async (request, reply) => {
    await manager.upsert(StudioEntity, { instructorId: signedIn(request).id, document: JSON.stringify(request.body) }, [
      'instructorId',
    ]);
    return reply.status(204).send();
  });

  // Made again, the link is a new one: who had the old one is let in no more.
  routes.post('/api/lessons/:id/kit-link', { schema: { params: IdParam }, ...as('editor') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'editor');
    const token = randomBytes(12).toString('base64url');
    await manager.upsert(KitLinkEntity, { token, lessonId: lesson.id }, ['lessonId']);
    return { address: `${config.publicUrl}/lists/${token}` } satisfies KitLink;
  });
  routes.get('/api/lessons/:id/kit-link', { schema: { params: IdParam }, ...as('editor') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'editor');
    const link = await manager.findOneBy(KitLinkEntity, { lessonId: lesson.id });
    return { address: link ? `${config.publicUrl}/lists/${link.token}` : '' } satisfies KitLink;
  });

  // Its pictures are painted first, where they are not there yet.
  routes.post(
    '/api/lessons/:id/pack',
    { schema: { params: IdParam, body: PackOptions }, ...as('reader') },
    async (request, reply) => {
      const { id: ownerId } = signedIn(request);
      const { text, folder } = await lessons.painted(ownerId, request.params.id);
      const [studio, measures] = await Promise.all([studioOf(manager, ownerId), measuresOf(manager, ownerId)]);
      const job = { text, folder, studio, measures, options: request.body };
      const { bytes, pages, lacks } = await packing.ask(job, ownerId);
      return reply
        .header('x-pages', String(pages))
        .header('x-lacks', encodeURIComponent(lacks.slice(0, 20).join('')))
        .type('application/pdf')
        .send(Buffer.from(bytes));
    },
  );

  const linked = async (token: string): Promise<LessonEntity> => {
    const link = await manager.findOneBy(KitLinkEntity, { token });
    const lesson = link && (await manager.findOneBy(LessonEntity, { id: link.lessonId, removedAt: IsNull() }));
    if (!lesson) throw notFound('list at this address');
    return lesson;
  };
  const ticksOf = async (lessonId: string): Promise<Record<string, number>> =>
    byId((await manager.findBy(KitTickEntity, { lessonId })).map(({ item, at }) => [item, at] as const));

  routes.get(
    '/api/lists/:token',
    { schema: { params: TokenParam }, config: { who: 'link', rateLimit: { max: 120, timeWindow: '1 minute' } } },
    async (request) => {
      const lesson = await linked(request.params.token);
      const { document } = await present(manager, lesson);
      const text = JSON.stringify(upgradeLesson(JSON.parse(document)));
      const [studio, measures] = await Promise.all([studioOf(manager, lesson.ownerId), measuresOf(manager, lesson.ownerId)]);
      const sheet = await sheets.ask({ text, studio, measures }, lesson.ownerId);
      return { sheet, ticks: await ticksOf(lesson.id) } satisfies KitAnswer;
    },
  );
  routes.post(
    '/api/lists/:token/ticks',
    {
      schema: { params: TokenParam, body: Ticks },
      config: { who: 'link', rateLimit: { max: 240, timeWindow: '1 minute' } },
    },
    async (request) => {
      const { id: lessonId } = await linked(request.params.token);
      const count = await manager.countBy(KitTickEntity, { lessonId });
      for (const { item, on } of request.body.ticks) {
        if (!on) await manager.delete(KitTickEntity, { lessonId, item });
        else if (count < MOST_TICKS)
          await manager.upsert(KitTickEntity, { lessonId, item, at: Date.now() }, ['lessonId', 'item']);
      }
      return ticksOf(lessonId);
    },
  );
}

import { randomBytes } from 'node:crypto';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { Id, IdParam, type ShootAnswer, type ShootLink, type ShootNote, ShootNotes, type ShootSheet } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { IsNull } from 'typeorm';
import { measuresOf } from '../auth/measures.js';
import type { Config } from '../config.js';
import { LessonEntity, ShootLinkEntity, ShootNoteEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { notFound } from '../errors.js';
import { as, signedIn } from '../guard/access.js';
import { reach } from '../lessons/reach.js';
import { present } from '../lessons/revisions.js';
import { pool } from '../work/pool.js';
import type { CardsJob } from './cards-worker.js';
import type { ShootJob } from './sheet-worker.js';

const TokenParam = Type.Object({ token: Id });
const MOST_NOTES = 20_000;
const CardsOf = Type.Object({ cutId: Id }, { additionalProperties: false });

/** What is noted while a lesson is filmed: on a phone beside the easel by whoever has the link, read by the lesson's instructor. */
export async function shooting(
  app: FastifyInstance,
  { database, config }: { database: Database; config: Config },
): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const sheets = pool<ShootJob, ShootSheet>('films/sheet-worker.js', { queue: 40, perCaller: 10 });
  const cards = pool<CardsJob, Uint8Array>('films/cards-worker.js', { queue: 10, perCaller: 2 });
  app.addHook('onClose', () => Promise.all([sheets.close(), cards.close()]));
  const addressOf = (token: string | undefined): ShootLink => ({ address: token ? `${config.publicUrl}/shoot/${token}` : '' });

  // Made again, the link is a new one: who had the old one is let in no more.
  routes.post('/api/lessons/:id/shoot-link', { schema: { params: IdParam }, ...as('editor') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'editor');
    const token = randomBytes(12).toString('base64url');
    await manager.upsert(ShootLinkEntity, { token, lessonId: lesson.id }, ['lessonId']);
    return addressOf(token);
  });
  routes.get('/api/lessons/:id/shoot-link', { schema: { params: IdParam }, ...as('editor') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'editor');
    return addressOf((await manager.findOneBy(ShootLinkEntity, { lessonId: lesson.id }))?.token);
  });

  const notesOf = async (lessonId: string): Promise<ShootNote[]> =>
    (await manager.find(ShootNoteEntity, { where: { lessonId }, order: { at: 'ASC' } })).map(({ id, at, takeId, kind }) => ({
      id,
      at,
      takeId,
      kind,
    }));
  const keep = async (lessonId: string, notes: ShootNote[]): Promise<void> => {
    if ((await manager.countBy(ShootNoteEntity, { lessonId })) > MOST_NOTES) return;
    // Sent twice a note is the same note.
    await manager.upsert(
      ShootNoteEntity,
      notes.map((note) => ({ lessonId, ...note })),
      ['lessonId', 'id'],
    );
  };
  routes.get('/api/lessons/:id/shoot', { schema: { params: IdParam }, ...as('reader') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'reader');
    return notesOf(lesson.id);
  });
  routes.post('/api/lessons/:id/shoot', { schema: { params: IdParam, body: ShootNotes }, ...as('editor') }, async (request) => {
    const lesson = await reach(manager, signedIn(request).id, request.params.id, 'editor');
    await keep(lesson.id, request.body.notes);
    return notesOf(lesson.id);
  });

  routes.post(
    '/api/lessons/:id/cards',
    { schema: { params: IdParam, body: CardsOf }, ...as('reader') },
    async (request, reply) => {
      const { id: caller } = signedIn(request);
      const lesson = await reach(manager, caller, request.params.id, 'reader');
      const { document } = await present(manager, lesson);
      const text = JSON.stringify(upgradeLesson(JSON.parse(document)));
      const bytes = await cards.ask(
        { text, cutId: request.body.cutId, notes: await notesOf(lesson.id), measures: await measuresOf(manager, caller) },
        caller,
      );
      return reply.type('application/zip').send(Buffer.from(bytes));
    },
  );

  const linked = async (token: string): Promise<LessonEntity> => {
    const link = await manager.findOneBy(ShootLinkEntity, { token });
    const lesson = link && (await manager.findOneBy(LessonEntity, { id: link.lessonId, removedAt: IsNull() }));
    if (!lesson) throw notFound('shooting list at this address');
    return lesson;
  };
  const perMinute = (max: number) => ({ config: { who: 'link', rateLimit: { max, timeWindow: '1 minute' } } }) as const;
  routes.get('/api/shoot/:token', { schema: { params: TokenParam }, ...perMinute(120) }, async (request) => {
    const lesson = await linked(request.params.token);
    const { document } = await present(manager, lesson);
    const text = JSON.stringify(upgradeLesson(JSON.parse(document)));
    // The order stands while it is filmed: what is noted does not move it.
    const sheet = await sheets.ask({ text, notes: [] }, lesson.ownerId);
    return { sheet, notes: await notesOf(lesson.id) } satisfies ShootAnswer;
  });
  routes.post(
    '/api/shoot/:token/notes',
    { schema: { params: TokenParam, body: ShootNotes }, ...perMinute(240) },
    async (request) => {
      const { id } = await linked(request.params.token);
      await keep(id, request.body.notes);
      return notesOf(id);
    },
  );
}

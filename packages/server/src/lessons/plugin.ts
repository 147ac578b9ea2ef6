import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { FindQuery, IdParam, RevisionParam, SaveRevision, ShelfPlace, serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { ApiFault } from '../errors.js';
import { as, signedIn } from '../guard/access.js';
import { sendStage } from '../stage-pictures/store.js';
import { pool } from '../work/pool.js';
import type { ReaderAnswer, ReaderJob, ReadLesson, SavedLesson } from './reader-worker.js';
import type { ShownLesson } from './shown.js';
import type { LessonStore } from './store.js';

/** A lesson with sixty steps and forty areas has about 0.2 MB. */
const MOST_LESSON = 2 * 1024 * 1024;

/** Lessons of the instructor who is signed in. Bodies are parsed and checked in a thread of their own. */
export async function lessons(app: FastifyInstance, { store }: { store: LessonStore }): Promise<void> {
  const readers = pool<ReaderJob, ReaderAnswer>('lessons/reader-worker.js', { queue: 60, perCaller: 30, isWarm: true });
  store.showBy(async (text, caller) => (await readers.ask({ bytes: Buffer.from(text), kind: 'shown' }, caller)) as ShownLesson);
  app.addHook('onClose', async () => {
    await store.settle();
    await readers.close();
  });
  const read = async (bytes: unknown, kind: 'new' | 'save', caller: string): Promise<ReadLesson | SavedLesson> => {
    if (!Buffer.isBuffer(bytes)) throw new ApiFault(serverErrors.requestEmpty);
    const answer = await readers.ask({ bytes, kind }, caller);
    if ('fault' in answer) throw new ApiFault(answer.fault);
    return answer as ReadLesson | SavedLesson;
  };
  const who = { config: { who: 'instructor' } } as const;

  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  routes.get('/api/lessons', who, async (request, reply) => {
    // Who looks at the shelf will begin a lesson or open one, and save it.
    readers.warm();
    return reply.type('application/json').send(await store.list(signedIn(request).id));
  });
  routes.get('/api/shelf/found', { schema: { querystring: FindQuery }, ...who }, async (request) =>
    store.find(signedIn(request).id, request.query.words),
  );
  routes.put(
    '/api/lessons/:id/place',
    { schema: { params: IdParam, body: ShelfPlace }, ...as('reader') },
    async (request, reply) => {
      await store.place(signedIn(request).id, request.params.id, request.body);
      return reply.status(204).send();
    },
  );
  routes.get('/api/lessons/:id', { schema: { params: IdParam }, ...as('reader') }, async (request, reply) => {
    readers.warm();
    return reply.type('application/json').send(await store.read(signedIn(request).id, request.params.id));
  });
  routes.get('/api/lessons/:id/finished', { schema: { params: IdParam }, ...as('reader') }, async (request, reply) => {
    return sendStage(request, reply, await store.finished(signedIn(request).id, request.params.id));
  });

  routes.get('/api/bin', who, async (request) => store.bin(signedIn(request).id));
  routes.delete('/api/lessons/:id', { schema: { params: IdParam }, ...as('owner') }, async (request, reply) => {
    await store.setRemoved(signedIn(request).id, request.params.id, true);
    return reply.status(204).send();
  });
  routes.post('/api/lessons/:id/restore', { schema: { params: IdParam }, ...as('owner') }, async (request, reply) => {
    await store.setRemoved(signedIn(request).id, request.params.id, false);
    return reply.status(204).send();
  });

  routes.get('/api/lessons/:id/revisions', { schema: { params: IdParam }, ...as('reader') }, async (request) =>
    store.versions(signedIn(request).id, request.params.id),
  );
  const one = { params: RevisionParam };
  routes.get('/api/lessons/:id/revisions/:revisionId', { schema: one, ...as('reader') }, async (request, reply) => {
    const { id, revisionId } = request.params;
    return reply.type('application/json').send(await store.version(signedIn(request).id, id, Number(revisionId)));
  });
  routes.put(
    '/api/lessons/:id/revisions/:revisionId',
    { schema: { ...one, body: SaveRevision }, ...as('editor') },
    async (request, reply) => {
      const { id, revisionId } = request.params;
      await store.nameVersion(signedIn(request).id, id, Number(revisionId), request.body.name);
      return reply.status(204).send();
    },
  );

  await app.register(async (bodies) => {
    bodies.removeContentTypeParser('application/json');
    bodies.addContentTypeParser('application/json', { parseAs: 'buffer', bodyLimit: MOST_LESSON }, (_, body, done) =>
      done(null, body),
    );
    const inside = bodies.withTypeProvider<TypeBoxTypeProvider>();
    inside.post('/api/lessons', { bodyLimit: MOST_LESSON, ...who }, async (request, reply) => {
      const { id } = signedIn(request);
      const text = await store.create(id, (await read(request.body, 'new', id)) as ReadLesson);
      return reply.status(201).type('application/json').send(text);
    });
    inside.put('/api/lessons/:id', { bodyLimit: MOST_LESSON, schema: { params: IdParam }, ...as('editor') }, async (request) => {
      const { id } = signedIn(request);
      return store.save(id, request.params.id, await read(request.body, 'save', id));
    });
  });
}

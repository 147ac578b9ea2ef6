import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { IdParam, type Lesson, NewLesson, SaveLesson } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { signedIn } from '../auth/plugin.js';
import type { LessonStore } from './store.js';

/** Who may call: the instructor, for their own lessons. */
export async function lessons(app: FastifyInstance, { store }: { store: LessonStore }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  routes.get('/api/lessons', async (request) => store.list(signedIn(request).id));
  routes.post(
    '/api/lessons',
    { schema: { body: NewLesson }, preValidation: async (request) => void signedIn(request) },
    async (request, reply) => {
      reply.status(201);
      return store.create(signedIn(request).id, request.body.document as Lesson);
    },
  );
  routes.get('/api/lessons/:id', { schema: { params: IdParam } }, async (request) =>
    store.read(signedIn(request).id, request.params.id),
  );
  routes.put(
    '/api/lessons/:id',
    { schema: { params: IdParam, body: SaveLesson }, preValidation: async (request) => void signedIn(request) },
    async (request) =>
      store.save(signedIn(request).id, request.params.id, request.body.baseRevision, request.body.document as Lesson),
  );
}

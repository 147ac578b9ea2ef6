import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { CodeParam, IdParam, NewPerson, SaveOfStudent } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { signedIn } from '../auth/plugin.js';
import type { PeopleStore } from './people.js';
import type { ClassStore } from './store.js';

type Parts = { store: ClassStore; people: PeopleStore; joinAddress: (code: string) => string; tidy: (code: string) => string };

/** Who may call: the instructor, for their own classes and people. Phones never get any of this. */
export async function people(app: FastifyInstance, { store, people: own, joinAddress, tidy }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const guarded = { preValidation: async (request: Parameters<typeof signedIn>[0]) => void signedIn(request) };

  routes.get('/api/classes/:code/students', { schema: { params: CodeParam } }, async (request) => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    return own.ofClass(one.id);
  });
  routes.put(
    '/api/classes/:code/students/:studentId',
    {
      schema: {
        params: Type.Object({ code: Type.String({ maxLength: 40 }), studentId: Type.String({ minLength: 1, maxLength: 32 }) }),
        body: SaveOfStudent,
      },
      ...guarded,
    },
    async (request, reply) => {
      const { id } = signedIn(request);
      const one = await store.owned(id, tidy(request.params.code));
      await own.save(id, one.id, request.params.studentId, request.body);
      reply.status(204);
    },
  );
  routes.get('/api/people', async (request) => own.list(signedIn(request).id));
  routes.post('/api/people', { schema: { body: NewPerson }, ...guarded }, async (request, reply) => {
    reply.status(201);
    return own.add(signedIn(request).id, request.body.firstName);
  });
  routes.delete('/api/people/:id', { schema: { params: IdParam } }, async (request, reply) => {
    await own.remove(signedIn(request).id, request.params.id);
    reply.status(204);
  });
  routes.post('/api/classes/:code/letters', { schema: { params: CodeParam }, ...guarded }, async (request) => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    return { written: await own.write(one, joinAddress(one.code)) };
  });
  routes.get('/api/letters', async (request) => own.letters(signedIn(request).id));
}

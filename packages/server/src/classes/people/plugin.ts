import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { CodeParam, IdParam, NewPerson, SaveOfStudent, SaveRetention, StudentParam } from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { ClassEntity } from '../../db/entities.js';
import { signedIn } from '../../guard/access.js';
import type { LetterStore } from './letters.js';
import type { PeopleStore } from './people.js';
import type { PrivacyStore } from './privacy.js';

type Parts = {
  people: PeopleStore;
  letters: LetterStore;
  privacy: PrivacyStore;
  joinAddress: (one: ClassEntity) => string;
  owned: (request: FastifyRequest) => Promise<ClassEntity>;
};

/** An instructor's own classes and people. Phones never get any of this. */
export async function people(app: FastifyInstance, { people: own, letters, privacy, joinAddress, owned }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const who = { config: { who: 'instructor' } } as const;

  routes.get('/api/classes/:code/students', { schema: { params: CodeParam }, ...who }, async (request) => {
    const one = await owned(request);
    return own.ofClass(one.id);
  });
  routes.put(
    '/api/classes/:code/students/:studentId',
    {
      schema: {
        params: StudentParam,
        body: SaveOfStudent,
      },
      ...who,
    },
    async (request, reply) => {
      const { id } = signedIn(request);
      const one = await owned(request);
      await own.save(id, one.id, request.params.studentId, request.body);
      reply.status(204);
    },
  );
  routes.get('/api/people', who, async (request) => own.list(signedIn(request).id));
  routes.post('/api/people', { schema: { body: NewPerson }, ...who }, async (request, reply) => {
    reply.status(201);
    return own.add(signedIn(request).id, request.body.firstName);
  });
  routes.delete('/api/people/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    await privacy.erase(signedIn(request).id, request.params.id);
    reply.status(204);
  });
  routes.get('/api/people/:id/stored', { schema: { params: IdParam }, ...who }, async (request) =>
    privacy.stored(signedIn(request).id, request.params.id),
  );
  routes.get('/api/classes/:code/students/:studentId/stored', { schema: { params: StudentParam }, ...who }, async (request) =>
    privacy.storedOfStudent(await owned(request), request.params.studentId),
  );
  routes.delete(
    '/api/classes/:code/students/:studentId',
    { schema: { params: StudentParam }, ...who },
    async (request, reply) => {
      await privacy.eraseStudent(await owned(request), request.params.studentId);
      reply.status(204);
    },
  );
  routes.delete('/api/classes/:code/names', { schema: { params: CodeParam }, ...who }, async (request, reply) => {
    await privacy.eraseClass(await owned(request));
    reply.status(204);
  });
  routes.put('/api/account/retention', { schema: { body: SaveRetention }, ...who }, async (request, reply) => {
    await privacy.setRetention(signedIn(request).id, request.body.days);
    reply.status(204);
  });
  routes.post('/api/classes/:code/letters', { schema: { params: CodeParam }, ...who }, async (request) => {
    const one = await owned(request);
    return { written: await letters.write(one, joinAddress(one)) };
  });
  routes.get('/api/letters', who, async (request) => letters.list(signedIn(request).id));
}

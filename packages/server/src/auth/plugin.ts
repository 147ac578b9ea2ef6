import { createHash, randomBytes } from 'node:crypto';
import cookie from '@fastify/cookie';
import rateLimit from '@fastify/rate-limit';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { SignIn } from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { InstructorEntity, SessionEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault } from '../errors.js';
import { passwordFits } from './password.js';

export const COOKIE = 'viaticum_session';
const DAYS = 14;
const hashed = (token: string) => createHash('sha256').update(token).digest('hex');

declare module 'fastify' {
  interface FastifyRequest {
    instructor: { id: string; name: string } | null;
  }
}

/** The instructor who is signed in; throws 401 where nobody is. */
export function signedIn(request: FastifyRequest): { id: string; name: string } {
  if (!request.instructor) throw new ApiFault(401, 'sign-in', 'You are not signed in. Sign in, then try again; nothing is lost.');
  return request.instructor;
}

/** Sessions, the check of where requests come from, and sign-in. */
export async function auth(
  app: FastifyInstance,
  { database, origins, secure }: { database: Database; origins: ReadonlySet<string>; secure: boolean },
): Promise<void> {
  await app.register(cookie);
  await app.register(rateLimit, { global: false });
  const sessions = database.source.getRepository(SessionEntity);
  const instructors = database.source.getRepository(InstructorEntity);
  app.decorateRequest('instructor', null);

  app.addHook('onRequest', async (request) => {
    const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
    const socket = request.headers.upgrade?.toLowerCase() === 'websocket';
    if ((changes || socket) && !origins.has(request.headers.origin ?? '')) {
      throw new ApiFault(
        403,
        'origin',
        'This request comes from another address than this Viaticum’s. Open it at its own address.',
      );
    }
    const token = request.cookies[COOKIE];
    if (!token || !request.url.startsWith('/api/')) return;
    const session = await sessions.findOneBy({ tokenHash: hashed(token) });
    if (!session || session.expiresAt < Date.now()) return;
    const instructor = await instructors.findOneBy({ id: session.instructorId });
    if (instructor) request.instructor = { id: instructor.id, name: instructor.name };
  });

  const routes = app.withTypeProvider<TypeBoxTypeProvider>();

  // Who may call: anyone.
  routes.post(
    '/api/session',
    { schema: { body: SignIn }, config: { rateLimit: { max: 20, timeWindow: '1 minute' } } },
    async (request, reply) => {
      const { name, password } = request.body;
      const instructor = await instructors.findOneBy({ name });
      if (!(await passwordFits(password, instructor?.passwordHash ?? null)) || !instructor) {
        throw new ApiFault(401, 'wrong', 'This name and password do not go together. Look at both and try again.');
      }
      const token = randomBytes(32).toString('base64url');
      await sessions.insert({ tokenHash: hashed(token), instructorId: instructor.id, expiresAt: Date.now() + DAYS * 86_400_000 });
      reply.setCookie(COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', secure, maxAge: DAYS * 86_400 });
      return { name: instructor.name };
    },
  );

  // Who may call: anyone; answers null for those who are not signed in.
  routes.get('/api/session', async (request) => ({ instructor: request.instructor && { name: request.instructor.name } }));

  // Who may call: anyone.
  routes.delete('/api/session', async (request, reply) => {
    const token = request.cookies[COOKIE];
    if (token) await sessions.delete({ tokenHash: hashed(token) });
    reply.clearCookie(COOKIE, { path: '/' });
    return {};
  });
}

import { createHash, randomBytes } from 'node:crypto';
import cookie from '@fastify/cookie';
import rateLimit from '@fastify/rate-limit';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { SignIn, serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { InstructorEntity, SessionEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault } from '../errors.js';
import { wrongTries } from '../guard/wrong-tries.js';
import type { Passwords } from './password.js';

const COOKIE = 'viaticum_session';
const DAYS = 14;
const HOUR_MS = 3_600_000;
/** Wrong passwords for one name within an hour; guessing on from many addresses is no use. */
const MOST_WRONG = 60;
const hashed = (token: string) => createHash('sha256').update(token).digest('hex');

type Parts = {
  database: Database;
  passwords: Passwords;
  origins: ReadonlySet<string>;
  secure: boolean;
  /** A session was ended: whatever was opened with it closes. */
  onSignOut: (session: string) => void;
};

/** Sessions, the check of where requests come from, and sign-in. */
export async function auth(app: FastifyInstance, { database, passwords, origins, secure, onSignOut }: Parts): Promise<void> {
  await app.register(cookie);
  await app.register(rateLimit, { global: false });
  const sessions = database.source.getRepository(SessionEntity);
  const instructors = database.source.getRepository(InstructorEntity);
  const wrong = wrongTries(HOUR_MS);
  app.decorateRequest('instructor', null);
  app.decorateRequest('session', null);

  app.addHook('onRequest', async (request) => {
    const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
    const socket = request.headers.upgrade?.toLowerCase() === 'websocket';
    if ((changes || socket) && !origins.has(request.headers.origin ?? '')) {
      throw new ApiFault(serverErrors.otherOrigin);
    }
    const token = request.cookies[COOKIE];
    if (!token || !request.url.startsWith('/api/')) return;
    const session = await sessions.findOneBy({ tokenHash: hashed(token) });
    if (!session || session.expiresAt < Date.now()) return;
    const instructor = await instructors.findOneBy({ id: session.instructorId });
    if (!instructor) return;
    request.instructor = { id: instructor.id, name: instructor.name };
    request.session = session.tokenHash;
  });

  const routes = app.withTypeProvider<TypeBoxTypeProvider>();

  routes.post(
    '/api/session',
    { schema: { body: SignIn }, config: { who: 'anyone', rateLimit: { max: 20, timeWindow: '1 minute' } } },
    async (request, reply) => {
      const { name, password } = request.body;
      const account = name.normalize('NFKC').toLowerCase();
      if (wrong.begin(account) >= MOST_WRONG) throw new ApiFault(serverErrors.wrongPasswords);
      const instructor = await instructors.findOneBy({ name });
      if (!(await passwords.fits(password, instructor?.passwordHash ?? null, request.ip)) || !instructor) {
        request.log.info({ code: 'wrong' }, 'sign-in refused');
        throw new ApiFault(serverErrors.wrongPassword);
      }
      wrong.right(account);
      const token = randomBytes(32).toString('base64url');
      await sessions.insert({ tokenHash: hashed(token), instructorId: instructor.id, expiresAt: Date.now() + DAYS * 86_400_000 });
      reply.setCookie(COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', secure, maxAge: DAYS * 86_400 });
      request.log.info({ instructor: instructor.id }, 'signed in');
      return { name: instructor.name };
    },
  );

  // Answers null for those who are not signed in.
  routes.get('/api/session', { config: { who: 'anyone' } }, async (request) => ({
    instructor: request.instructor && { name: request.instructor.name },
  }));

  routes.delete('/api/session', { config: { who: 'anyone' } }, async (request, reply) => {
    const token = request.cookies[COOKIE];
    if (token) {
      await sessions.delete({ tokenHash: hashed(token) });
      onSignOut(hashed(token));
      request.log.info({ instructor: request.instructor?.id }, 'signed out');
    }
    reply.clearCookie(COOKIE, { path: '/' });
    return {};
  });
}

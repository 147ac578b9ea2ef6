import cookie from '@fastify/cookie';
import rateLimit from '@fastify/rate-limit';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { NewAccount, type SessionAnswer, SignIn, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { InstructorEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault } from '../errors.js';
import { isFromHere } from '../guard/from-here.js';
import { wrongTries } from '../guard/wrong-tries.js';
import type { Accounts } from './account-store.js';
import type { Passwords } from './password.js';
import { LONGEST_MS, type Sessions } from './sessions.js';

const COOKIE = 'viaticum_session';
const HOUR_MS = 3_600_000;
/** Wrong passwords or digits for one name within an hour; guessing on from many addresses is no use. */
const MOST_WRONG = 60;
const fewAMinute = { rateLimit: { max: 20, timeWindow: '1 minute' } } as const;

type Parts = {
  database: Database;
  passwords: Passwords;
  sessions: Sessions;
  accounts: Accounts;
  origins: ReadonlySet<string>;
  secure: boolean;
};
export type Door = {
  /** Signs an account in: the cookie of a new session goes with the answer. */
  letIn: (request: FastifyRequest, reply: FastifyReply, account: Pick<InstructorEntity, 'id'>) => Promise<void>;
  /** Takes the cookie of a session away with the answer. */
  letOut: (reply: FastifyReply) => FastifyReply;
};

/** Sessions, the check of where requests come from, sign-in, and the set-up of the owner. */
export async function auth(app: FastifyInstance, parts: Parts): Promise<Door> {
  const { database, passwords, sessions, accounts, origins, secure } = parts;
  await app.register(cookie);
  await app.register(rateLimit, { global: false });
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
    const found = await sessions.find(token);
    if (!found) return;
    request.instructor = found.instructor;
    request.session = found.session;
  });

  const letIn: Door['letIn'] = async (request, reply, { id }) => {
    const token = await sessions.begin(id, request.headers['user-agent']);
    reply.setCookie(COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', secure, maxAge: LONGEST_MS / 1000 });
    request.log.info({ instructor: id }, 'signed in');
  };
  const letOut: Door['letOut'] = (reply) => reply.clearCookie(COOKIE, { path: '/' });
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();

  routes.post('/api/session', { schema: { body: SignIn }, config: { who: 'anyone', ...fewAMinute } }, async (request, reply) => {
    const { name, password, code } = request.body;
    const account = name.normalize('NFKC').toLowerCase();
    if (wrong.begin(account) >= MOST_WRONG) throw new ApiFault(serverErrors.wrongPasswords);
    const instructor = await instructors.findOneBy({ name });
    if (!(await passwords.fits(password, instructor?.passwordHash ?? null, request.ip)) || !instructor) {
      request.log.info({ code: 'wrong' }, 'sign-in refused');
      throw new ApiFault(serverErrors.wrongPassword);
    }
    if (instructor.isOff) throw new ApiFault(serverErrors.accountOff);
    if (instructor.secondFactor && code === undefined) {
      wrong.right(account);
      throw new ApiFault(serverErrors.codeWanted);
    }
    if (code !== undefined && !(await accounts.takeSecondFactor(instructor, code))) {
      request.log.info({ code: 'second-factor' }, 'sign-in refused');
      throw new ApiFault(serverErrors.wrongSecondFactor);
    }
    wrong.right(account);
    await letIn(request, reply, instructor);
    return { name: instructor.name, role: instructor.role };
  });

  // Answers null for those who are not signed in.
  routes.get('/api/session', { config: { who: 'anyone' } }, async (request): Promise<SessionAnswer> => {
    const { instructor } = request;
    return {
      instructor: instructor && { name: instructor.name, role: instructor.role, measures: instructor.measures },
      needsOwner: isFromHere(request) && !(await accounts.hasOwner()),
    };
  });

  routes.delete('/api/session', { config: { who: 'anyone' } }, async (request, reply) => {
    const token = request.cookies[COOKIE];
    if (token && (await sessions.endByToken(token))) request.log.info({ instructor: request.instructor?.id }, 'signed out');
    letOut(reply);
    return {};
  });

  routes.post(
    '/api/owner',
    { schema: { body: NewAccount }, config: { who: 'anyone', ...fewAMinute } },
    async (request, reply) => {
      if (!isFromHere(request)) throw new ApiFault(serverErrors.ownerFromAfar);
      const owner = await accounts.makeOwner(request.body.name, request.body.password, request.ip);
      await letIn(request, reply, owner);
      return { name: owner.name, role: owner.role };
    },
  );
  return { letIn, letOut };
}

import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type AccountAnswer,
  ByCode,
  ByPassword,
  ChangePassword,
  FollowAccountLink,
  Forgotten,
  IdParam,
  Measures,
  SaveAccount,
  type SecondFactorAnswer,
  serverErrors,
  TokenParam,
} from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { wrongTries } from '../guard/wrong-tries.js';
import type { Accounts } from './account-store.js';
import type { Door } from './plugin.js';
import type { Sessions } from './sessions.js';

const HOUR_MS = 3_600_000;
const MOST_WRONG = 20;
const MOST_LETTERS = 5;
const fewAMinute = { rateLimit: { max: 20, timeWindow: '1 minute' } } as const;
const mine = { who: 'instructor' } as const;
const owners = { who: 'owner' } as const;
const byLink = { who: 'link', ...fewAMinute } as const;

/** `letGo`: takes away what an account that is gone leaves on the disk. */
type Parts = { accounts: Accounts; sessions: Sessions; door: Door; publicUrl: string; letGo: (id: string) => Promise<void> };

/** One's own account; links that were handed out; the accounts of this installation, for its owner. */
export async function account(app: FastifyInstance, { accounts, sessions, door, publicUrl, letGo }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const wrong = wrongTries(HOUR_MS);
  const letters = wrongTries(HOUR_MS);
  const addressOf = (token: string) => `${publicUrl}/welcome/${token}`;
  /** What changes how an account is entered wants its password again: a session that was left open is not enough. */
  const mustFit = async (request: FastifyRequest, password: string): Promise<string> => {
    const { id } = signedIn(request);
    if (wrong.begin(id) >= MOST_WRONG) throw new ApiFault(serverErrors.wrongPasswords);
    await accounts.mustFit(id, password, request.ip);
    wrong.right(id);
    return id;
  };

  routes.get('/api/account', { config: mine }, async (request): Promise<AccountAnswer> => {
    const { id } = signedIn(request);
    const { name, role, secondFactor, spareCodes, retentionDays } = await accounts.one(id);
    return {
      ...{ name, role, hasSecondFactor: secondFactor !== null, codesLeft: (JSON.parse(spareCodes) as string[]).length },
      retentionDays,
      sessions: await sessions.list(id, request.session),
    };
  });
  routes.put('/api/account/password', { schema: { body: ChangePassword }, config: mine }, async (request, reply) => {
    const id = await mustFit(request, request.body.password);
    await accounts.setPassword(id, request.body.next, request.ip, request.session);
    return reply.status(204).send();
  });
  routes.delete('/api/account/sessions', { config: mine }, async (request) => ({
    ended: await sessions.endAll(signedIn(request).id, request.session),
  }));
  routes.delete('/api/account/sessions/:id', { schema: { params: IdParam }, config: mine }, async (request, reply) => {
    if (!(await sessions.endOne(signedIn(request).id, request.params.id))) throw notFound('session');
    return reply.status(204).send();
  });
  routes.post('/api/account/second-factor', { schema: { body: ByPassword }, config: mine }, async (request) => {
    const id = await mustFit(request, request.body.password);
    return (await accounts.beginSecondFactor(id)) satisfies SecondFactorAnswer;
  });
  routes.put('/api/account/second-factor', { schema: { body: ByCode }, config: mine }, async (request) => {
    const { id } = signedIn(request);
    if (wrong.begin(id) >= MOST_WRONG) throw new ApiFault(serverErrors.wrongPasswords);
    const codes = await accounts.confirmSecondFactor(id, request.body.code);
    wrong.right(id);
    return { codes };
  });
  routes.post('/api/account/second-factor/off', { schema: { body: ByPassword }, config: mine }, async (request, reply) => {
    await accounts.dropSecondFactor(await mustFit(request, request.body.password));
    return reply.status(204).send();
  });

  routes.put('/api/account/measures', { schema: { body: Measures }, config: mine }, async (request, reply) => {
    await accounts.setMeasures(signedIn(request).id, request.body);
    return reply.status(204).send();
  });
  routes.post('/api/account/leave', { schema: { body: ByPassword }, config: mine }, async (request, reply) => {
    const id = await mustFit(request, request.body.password);
    await accounts.leave(id);
    await letGo(id);
    request.log.info({ instructor: id }, 'an account was deleted');
    return door.letOut(reply).status(204).send();
  });

  // Says the same whether there is such an account or not.
  routes.post('/api/forgotten', { schema: { body: Forgotten }, config: { who: 'anyone', ...fewAMinute } }, async (request) => {
    const { name } = request.body;
    if (letters.begin(name.normalize('NFKC').toLowerCase()) < MOST_LETTERS) await accounts.sendReset(name, addressOf);
    return {};
  });
  routes.get('/api/account-links/:token', { schema: { params: TokenParam }, config: byLink }, async ({ params }) =>
    accounts.link(params.token),
  );
  routes.post(
    '/api/account-links/:token',
    { schema: { params: TokenParam, body: FollowAccountLink }, config: byLink },
    async (request, reply) => {
      const { name, password } = request.body;
      const made = await accounts.follow(request.params.token, name, password, request.ip);
      if (made.isOff) throw new ApiFault(serverErrors.accountOff);
      // A new password does not go past a second factor.
      if (!made.secondFactor) await door.letIn(request, reply, made);
      return { name: made.name, role: made.role, isIn: !made.secondFactor };
    },
  );

  routes.get('/api/accounts', { config: owners }, () => accounts.all());
  routes.post('/api/accounts/invitations', { config: owners }, async () => ({ address: addressOf(await accounts.invite()) }));
  routes.delete('/api/accounts/invitations/:id', { schema: { params: IdParam }, config: owners }, async (request, reply) => {
    await accounts.takeBackInvitation(request.params.id);
    return reply.status(204).send();
  });
  routes.put('/api/accounts/:id', { schema: { params: IdParam, body: SaveAccount }, config: owners }, async (request, reply) => {
    await accounts.switchOff(request.params.id, request.body.isOff);
    return reply.status(204).send();
  });
}

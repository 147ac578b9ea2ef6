import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import websocket from '@fastify/websocket';
import {
  type ClassAnswer,
  type ClassLinks,
  type ClassRecord,
  CODE_PATTERN,
  CodeParam,
  DeviceParam,
  Id,
  type Invite,
  isId,
  NewClass,
  NewInvite,
  PageQuery,
  SaveInvite,
  serverErrors,
} from '@viaticum/contract';
import { isTimeZone } from '@viaticum/core/format';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import QRCode from 'qrcode';
import { Type } from 'typebox';
import type { Config } from '../config.js';
import type { ClassEntity } from '../db/entities.js';
import { ApiFault } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { codeGuard } from '../guard/codes.js';
import { type Bucket, bucket } from '../guard/wrong-tries.js';
import { sendStage } from '../stage-pictures/store.js';
import { camera } from './camera.js';
import type { PeopleStore } from './people.js';
import { people } from './people-plugin.js';
import type { Rehearsals } from './rehearsals.js';
import type { Role } from './seat.js';
import type { ClassStore } from './store.js';

const MOST_FRAME = 16 * 1024;
/** How often one address may connect to a class: a room of sixty that comes back all at once, again and again, never meets it. */
const CONNECTS = { most: 1000, perSecond: 50 };
const MOST_ADDRESSES = 5000;
const codePattern = new RegExp(CODE_PATTERN);

/** Codes are read off a board: case and spaces do not matter. */
const tidy = (code: string): string => code.toUpperCase().replace(/\s+/g, '');

/** An invitation whose day and time zone there are; throws 422 where not. */
function possible(invite: Invite): Invite {
  if (Number.isNaN(new Date(invite.startsAt).getTime())) throw new ApiFault(serverErrors.noSuchDay);
  if (!isTimeZone(invite.timeZone)) throw new ApiFault(serverErrors.noSuchTimeZone);
  return invite;
}

export type ClassParts = { store: ClassStore; people: PeopleStore; rehearsals: Rehearsals; config: Config };

export async function classes(app: FastifyInstance, { store, people: peopleOf, rehearsals, config }: ClassParts): Promise<void> {
  await app.register(websocket, { options: { maxPayload: MOST_FRAME, perMessageDeflate: false } });
  // A refused upgrade is answered, but nobody ends its socket, and the server could then not be closed.
  app.addHook('onResponse', async (request, reply) => {
    if (request.headers.upgrade && reply.statusCode >= 400) request.raw.socket.destroySoon();
  });
  const guard = codeGuard();
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const joinAddress = (code: string) => `${config.publicUrl}/join/${code}`;
  const codeOf = (given: string): string => {
    const code = tidy(given);
    if (!codePattern.test(code)) throw new ApiFault(serverErrors.codeMalformed);
    return code;
  };
  const find = (code: string, address: string): Promise<ClassEntity> =>
    guard.checked(address, async () => store.byCode(codeOf(code)));
  /** The class of the instructor who is signed in. */
  const owned = (request: FastifyRequest): Promise<ClassEntity> =>
    store.owned(signedIn(request).id, codeOf((request.params as { code: string }).code));
  const scheme = config.publicUrl.startsWith('https:') ? 'https' : 'http';
  const links = (one: ClassEntity): ClassLinks => ({
    assistant: `${config.publicUrl}/assist/${one.code}#${store.deviceKey(one, 'assistant')}`,
    sensor: store.deviceKey(one, 'sensor'),
    camera: store.deviceKey(one, 'camera'),
  });
  const answer = (one: ClassEntity): ClassAnswer => ({
    id: one.id,
    code: one.code,
    lessonId: one.lessonId,
    title: one.title,
    state: one.phase,
    openedAt: new Date(one.openedAt).toISOString(),
    addresses: [
      joinAddress(one.code),
      ...config.addresses
        .map((address) => `${scheme}://${address}:${config.port}/join/${one.code}`)
        .filter((url) => url !== joinAddress(one.code)),
    ],
    reachable: config.addresses.length > 0 || !/\/\/(127\.|localhost|\[::1)/.test(config.publicUrl),
    rehearsal: one.rehearsal === 1,
    invite: one.invite ? (JSON.parse(one.invite) as Invite) : null,
  });
  const own = { config: { who: 'instructor' } } as const;
  const byCode = { config: { who: 'code' } } as const;

  routes.post('/api/classes', { schema: { body: NewClass }, ...own }, async (request, reply) => {
    const { lessonId, rehearsal } = request.body;
    const one = await store.open(signedIn(request).id, lessonId, rehearsal !== undefined);
    if (rehearsal) rehearsals.begin(one, rehearsal, (role) => store.deviceKey(one, role));
    reply.status(201);
    return answer(one);
  });
  routes.post('/api/classes/planned', { schema: { body: NewInvite }, ...own }, async (request, reply) => {
    reply.status(201);
    return answer(await store.plan(signedIn(request).id, request.body.lessonId, possible(request.body.invite)));
  });
  routes.put('/api/classes/:code/invite', { schema: { params: CodeParam, body: SaveInvite }, ...own }, async (request) =>
    answer(await store.invite(signedIn(request).id, codeOf(request.params.code), possible(request.body.invite))),
  );
  routes.post('/api/classes/:code/open', { schema: { params: CodeParam }, ...own }, async (request) =>
    answer(await store.openPlanned(signedIn(request).id, codeOf(request.params.code))),
  );
  routes.get('/api/classes', { schema: { querystring: PageQuery }, ...own }, async (request) =>
    (await store.list(signedIn(request).id, request.query.before)).map(answer),
  );
  routes.get('/api/classes/:code', { schema: { params: CodeParam }, ...own }, async (request) => answer(await owned(request)));
  routes.get('/api/classes/:code/links', { schema: { params: CodeParam }, ...own }, async (request): Promise<ClassLinks> => {
    return links(await owned(request));
  });
  routes.post('/api/classes/:code/links/:role/renew', { schema: { params: DeviceParam }, ...own }, async (request) => {
    const one = await store.renewKey(await owned(request), request.params.role);
    request.log.info({ class: one.id, role: request.params.role }, 'a key was made anew');
    return links(one);
  });
  routes.get('/api/classes/:code/record', { schema: { params: CodeParam }, ...own }, async (request, reply) => {
    const one = await owned(request);
    const [events, sheet, lesson, students] = await Promise.all([
      store.eventsText(one.id),
      store.sheet(one.code),
      store.lessonText(one),
      peopleOf.ofClass(one.id),
    ]);
    // What is stored as JSON goes out as it is: a {@link ClassRecord}.
    const rest = JSON.stringify({ title: one.title, sheet, students } satisfies Omit<ClassRecord, 'events' | 'lesson'>);
    return reply.type('application/json').send(`{"events":${events},"lesson":${lesson},${rest.slice(1)}`);
  });
  routes.get('/api/classes/:code/qr.svg', { schema: { params: CodeParam }, ...own }, async (request, reply) => {
    const one = await owned(request);
    const svg = await QRCode.toString(joinAddress(one.code), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    return reply.type('image/svg+xml').send(svg);
  });

  routes.get('/api/join/:code', { schema: { params: CodeParam }, ...byCode }, async (request) => {
    const one = await find(request.params.code, request.ip);
    return { code: one.code, title: one.title, state: one.phase };
  });
  routes.get('/api/join/:code/sheet', { schema: { params: CodeParam }, ...byCode }, async (request) =>
    store.sheet((await find(request.params.code, request.ip)).code),
  );
  routes.get(
    '/api/join/:code/stages/:stepId',
    { schema: { params: Type.Object({ code: Type.String({ maxLength: 40 }), stepId: Id }) }, ...byCode },
    async (request, reply) => {
      const { revisionId } = await find(request.params.code, request.ip);
      return sendStage(request, reply, await store.stage(revisionId, request.params.stepId));
    },
  );
  routes.get(
    '/api/join/:code/recipes',
    {
      schema: {
        params: CodeParam,
        querystring: Type.Object({ without: Type.String({ maxLength: 2000 }) }, { additionalProperties: false }),
      },
      ...byCode,
    },
    async (request) => {
      const { code } = await find(request.params.code, request.ip);
      return store.recipesWithout(code, request.query.without.split(',').filter(isId).slice(0, 60), request.ip);
    },
  );

  await people(app, { people: peopleOf, joinAddress, owned });
  await camera(app, { store, find, owned });

  // A desk only for the instructor whose class it is; an assistant and a sensor say the key of their link with hello.
  const found = new WeakMap<object, { one: ClassEntity; role: Role }>();
  const connects = new Map<string, Bucket>();
  const mayConnect = (address: string, classId: string): void => {
    const key = `${address} ${classId}`;
    const own = connects.get(key) ?? bucket(CONNECTS.most, CONNECTS.perSecond);
    connects.set(key, own);
    const [oldest] = connects.keys();
    if (connects.size > MOST_ADDRESSES && oldest !== undefined) connects.delete(oldest);
    if (own.take() > 0) throw new ApiFault(serverErrors.connectsTooOften);
  };
  routes.get(
    '/api/live/:code',
    {
      websocket: true,
      config: { who: 'code' },
      schema: {
        params: CodeParam,
        querystring: Type.Object(
          { as: Type.Optional(Type.Enum(['desk', 'phone', 'assistant', 'sensor'])) },
          { additionalProperties: false },
        ),
      },
      preValidation: async (request) => {
        const { code } = request.params as { code: string };
        const { as: role = 'phone' } = request.query as { as?: Role };
        const one = role === 'desk' ? await owned(request) : await find(code, request.ip);
        mayConnect(request.ip, one.id);
        found.set(request, { one, role });
      },
    },
    (socket, request) => {
      const { one, role } = found.get(request) as { one: ClassEntity; role: Role };
      const origin = { role, address: request.ip, session: role === 'desk' ? request.session : null };
      const early: [Buffer, boolean][] = [];
      const keep = (data: Buffer, isBinary: boolean) => void (early.length < 20 && early.push([data, isBinary]));
      socket.on('message', keep);
      store.hub(one).then(
        (hub) => {
          socket.off('message', keep);
          hub.enter(socket, origin);
          for (const [data, isBinary] of early) socket.emit('message', data, isBinary);
        },
        (err) => {
          request.log.error({ class: one.id, err }, 'a class cannot be read');
          socket.close(1011, 'The class cannot be read just now. It will mend itself.');
        },
      );
    },
  );
}

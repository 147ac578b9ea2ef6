import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import websocket from '@fastify/websocket';
import {
  type ClassAnswer,
  type ClassLinks,
  type ClassRecord,
  CODE_PATTERN,
  CodeParam,
  type Invite,
  NewClass,
  NewInvite,
  SaveInvite,
} from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import QRCode from 'qrcode';
import { Type } from 'typebox';
import { signedIn } from '../auth/plugin.js';
import type { Config } from '../config.js';
import type { ClassEntity } from '../db/entities.js';
import { ApiFault } from '../errors.js';
import { camera } from './camera.js';
import { codeGuard } from './guard.js';
import type { PeopleStore } from './people.js';
import { people } from './people-plugin.js';
import type { Rehearsals } from './rehearsals.js';
import type { Role } from './room.js';
import type { ClassStore } from './store.js';
import { deviceToken, isDevice } from './tokens.js';

const MOST_FRAME = 16 * 1024;
const codePattern = new RegExp(CODE_PATTERN);

/** Codes are read off a board: case and spaces do not matter. */
const tidy = (code: string): string => code.toUpperCase().replace(/\s+/g, '');

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
  const find = (code: string, address: string): Promise<ClassEntity> =>
    guard.checked(address, tidy(code), async () => {
      const clean = tidy(code);
      if (!codePattern.test(clean))
        throw new ApiFault(404, 'unknown-code', 'A class code has six letters and digits. Look at the board again.');
      return store.byCode(clean);
    });
  const scheme = config.publicUrl.startsWith('https:') ? 'https' : 'http';
  const answer = async (one: ClassEntity): Promise<ClassAnswer> => ({
    id: one.id,
    code: one.code,
    lessonId: one.lessonId,
    title: await store.title(one),
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
  const own = { preValidation: async (request: Parameters<typeof signedIn>[0]) => void signedIn(request) };

  // Who may call: the instructor, for their own lessons and classes.
  routes.post('/api/classes', { schema: { body: NewClass }, ...own }, async (request, reply) => {
    const { lessonId, rehearsal } = request.body;
    const one = await store.open(signedIn(request).id, lessonId, rehearsal !== undefined);
    if (rehearsal) rehearsals.begin(one, rehearsal);
    reply.status(201);
    return answer(one);
  });
  routes.post('/api/classes/planned', { schema: { body: NewInvite }, ...own }, async (request, reply) => {
    reply.status(201);
    return answer(await store.plan(signedIn(request).id, request.body.lessonId, request.body.invite));
  });
  routes.put('/api/classes/:code/invite', { schema: { params: CodeParam, body: SaveInvite }, ...own }, async (request) =>
    answer(await store.invite(signedIn(request).id, tidy(request.params.code), request.body.invite)),
  );
  routes.post('/api/classes/:code/open', { schema: { params: CodeParam }, ...own }, async (request) =>
    answer(await store.openPlanned(signedIn(request).id, tidy(request.params.code))),
  );
  routes.get('/api/classes', async (request) => Promise.all((await store.list(signedIn(request).id)).map(answer)));
  routes.get('/api/classes/:code', { schema: { params: CodeParam } }, async (request) =>
    answer(await store.owned(signedIn(request).id, tidy(request.params.code))),
  );
  routes.get('/api/classes/:code/links', { schema: { params: CodeParam } }, async (request): Promise<ClassLinks> => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    const link = (role: 'assistant' | 'sensor' | 'camera') => deviceToken(one.secret, role);
    return {
      assistant: `${config.publicUrl}/assist/${one.code}#${link('assistant')}`,
      sensor: link('sensor'),
      camera: link('camera'),
    };
  });
  routes.get('/api/classes/:code/record', { schema: { params: CodeParam } }, async (request): Promise<ClassRecord> => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    const [events, sheet, lesson, students] = await Promise.all([
      store.events(one.id),
      store.sheet(one.code),
      store.lesson(one),
      peopleOf.ofClass(one.id),
    ]);
    return { title: lesson.title, events, sheet, lesson, students };
  });
  routes.get('/api/classes/:code/qr.svg', { schema: { params: CodeParam } }, async (request, reply) => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    const svg = await QRCode.toString(joinAddress(one.code), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    return reply.type('image/svg+xml').send(svg);
  });

  // Who may call: anyone who knows the code; wrong ones are counted.
  routes.get('/api/join/:code', { schema: { params: CodeParam } }, async (request) => {
    const one = await find(request.params.code, request.ip);
    return { code: one.code, title: await store.title(one), state: one.phase };
  });
  routes.get('/api/join/:code/sheet', { schema: { params: CodeParam } }, async (request) =>
    store.sheet((await find(request.params.code, request.ip)).code),
  );
  routes.get(
    '/api/join/:code/stages/:stepId',
    { schema: { params: Type.Object({ code: Type.String({ maxLength: 40 }), stepId: Type.String({ maxLength: 40 }) }) } },
    async (request, reply) => {
      const { revisionId } = await find(request.params.code, request.ip);
      const bytes = await store.stage(revisionId, request.params.stepId);
      return reply.type('image/webp').header('cache-control', 'private, max-age=3600').send(bytes);
    },
  );
  routes.get(
    '/api/join/:code/recipes',
    {
      schema: {
        params: CodeParam,
        querystring: Type.Object({ without: Type.String({ maxLength: 2000 }) }, { additionalProperties: false }),
      },
    },
    async (request) => {
      const { code } = await find(request.params.code, request.ip);
      return store.recipesWithout(code, request.query.without.split(','));
    },
  );

  await people(app, { store, people: peopleOf, joinAddress, tidy });
  await camera(app, { store, find, tidy });

  // Who may connect: anyone who knows the code; as the desk only the instructor whose class it is, as an assistant or a sensor who
  // has the link that the instructor gave.
  const found = new WeakMap<object, { one: ClassEntity; role: Role }>();
  routes.get(
    '/api/live/:code',
    {
      websocket: true,
      schema: {
        params: CodeParam,
        querystring: Type.Object({
          as: Type.Optional(Type.Enum(['desk', 'phone', 'assistant', 'sensor'])),
          key: Type.Optional(Type.String({ maxLength: 120 })),
        }),
      },
      preValidation: async (request) => {
        const { code } = request.params as { code: string };
        const { as: role = 'phone', key } = request.query as { as?: Role; key?: string };
        const one = role === 'desk' ? await store.owned(signedIn(request).id, tidy(code)) : await find(code, request.ip);
        if ((role === 'assistant' || role === 'sensor') && !isDevice(one.secret, role, key))
          throw new ApiFault(403, 'no-link', 'This link does not let you in. Ask the instructor for the present one.');
        found.set(request, { one, role });
      },
    },
    (socket, request) => {
      const { one, role } = found.get(request) as { one: ClassEntity; role: Role };
      const early: [Buffer, boolean][] = [];
      const keep = (data: Buffer, isBinary: boolean) => early.push([data, isBinary]);
      socket.on('message', keep);
      store.room(one).then(
        (room) => {
          socket.off('message', keep);
          room.enter(socket, role);
          for (const [data, isBinary] of early) socket.emit('message', data, isBinary);
        },
        () => socket.close(1011, 'The class cannot be read just now. It will mend itself.'),
      );
    },
  );
}

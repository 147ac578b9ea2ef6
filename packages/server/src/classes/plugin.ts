import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import websocket from '@fastify/websocket';
import { type ClassAnswer, CODE_PATTERN, NewClass } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import QRCode from 'qrcode';
import { Type } from 'typebox';
import { signedIn } from '../auth/plugin.js';
import type { Config } from '../config.js';
import type { ClassEntity } from '../db/entities.js';
import { ApiFault } from '../errors.js';
import { codeGuard } from './guard.js';
import type { ClassStore } from './store.js';

const MOST_FRAME = 16 * 1024;
const AnyCode = Type.Object({ code: Type.String({ maxLength: 40 }) });
const codePattern = new RegExp(CODE_PATTERN);

/** Codes are read off a board: case and spaces do not matter. */
const tidy = (code: string): string => code.toUpperCase().replace(/\s+/g, '');

export async function classes(app: FastifyInstance, { store, config }: { store: ClassStore; config: Config }): Promise<void> {
  await app.register(websocket, { options: { maxPayload: MOST_FRAME, perMessageDeflate: false } });
  // A refused upgrade is answered, but nobody ends its socket, and the server could then not be closed.
  app.addHook('onResponse', async (request, reply) => {
    if (request.headers.upgrade && reply.statusCode >= 400) request.raw.socket.destroySoon();
  });
  const guard = codeGuard();
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const joinAddress = (code: string) => `${config.publicUrl}/join/${code}`;
  const find = (code: string, address: string): Promise<ClassEntity> =>
    guard.checked(address, async () => {
      const clean = tidy(code);
      if (!codePattern.test(clean))
        throw new ApiFault(404, 'unknown-code', 'A class code has six letters and digits. Look at the board again.');
      return store.byCode(clean);
    });
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
        .map((address) => `http://${address}:${config.port}/join/${one.code}`)
        .filter((url) => url !== joinAddress(one.code)),
    ],
    reachable: config.addresses.length > 0 || !/\/\/(127\.|localhost|\[::1)/.test(config.publicUrl),
  });

  // Who may call: the instructor, for their own lessons and classes.
  routes.post(
    '/api/classes',
    { schema: { body: NewClass }, preValidation: async (request) => void signedIn(request) },
    async (request, reply) => {
      reply.status(201);
      return answer(await store.open(signedIn(request).id, request.body.lessonId));
    },
  );
  routes.get('/api/classes', async (request) => Promise.all((await store.list(signedIn(request).id)).map(answer)));
  routes.get('/api/classes/:code', { schema: { params: AnyCode } }, async (request) =>
    answer(await store.owned(signedIn(request).id, tidy(request.params.code))),
  );
  routes.get('/api/classes/:code/qr.svg', { schema: { params: AnyCode } }, async (request, reply) => {
    const one = await store.owned(signedIn(request).id, tidy(request.params.code));
    const svg = await QRCode.toString(joinAddress(one.code), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    return reply.type('image/svg+xml').send(svg);
  });

  // Who may call: anyone who knows the code; wrong ones are counted.
  routes.get('/api/join/:code', { schema: { params: AnyCode } }, async (request) => {
    const one = await find(request.params.code, request.ip);
    return { code: one.code, title: await store.title(one), state: one.phase };
  });
  routes.get('/api/join/:code/sheet', { schema: { params: AnyCode } }, async (request) =>
    store.sheet((await find(request.params.code, request.ip)).code),
  );
  routes.get(
    '/api/join/:code/recipes',
    {
      schema: {
        params: AnyCode,
        querystring: Type.Object({ without: Type.String({ maxLength: 2000 }) }, { additionalProperties: false }),
      },
    },
    async (request) => {
      const { code } = await find(request.params.code, request.ip);
      return store.recipesWithout(code, request.query.without.split(','));
    },
  );

  // Who may connect: anyone who knows the code; as the desk only the instructor whose class it is.
  const found = new WeakMap<object, { one: ClassEntity; desk: boolean }>();
  routes.get(
    '/api/live/:code',
    {
      websocket: true,
      schema: { params: AnyCode, querystring: Type.Object({ as: Type.Optional(Type.Enum(['desk', 'phone'])) }) },
      preValidation: async (request) => {
        const { code } = request.params as { code: string };
        const desk = (request.query as { as?: string }).as === 'desk';
        const one = desk ? await store.owned(signedIn(request).id, tidy(code)) : await find(code, request.ip);
        found.set(request, { one, desk });
      },
    },
    (socket, request) => {
      const { one, desk } = found.get(request) as { one: ClassEntity; desk: boolean };
      const early: [Buffer, boolean][] = [];
      const keep = (data: Buffer, isBinary: boolean) => early.push([data, isBinary]);
      socket.on('message', keep);
      store.room(one).then(
        (room) => {
          socket.off('message', keep);
          room.enter(socket, desk);
          for (const [data, isBinary] of early) socket.emit('message', data, isBinary);
        },
        () => socket.close(1011, 'The class cannot be read just now. It will mend itself.'),
      );
    },
  );
}

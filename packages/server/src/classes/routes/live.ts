import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { CodeParam, say, serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import type { ClassEntity } from '../../db/entities.js';
import { ApiFault } from '../../errors.js';
import { type Bucket, bucket } from '../../guard/wrong-tries.js';
import type { Role } from '../hub/seat.js';
import type { ClassStore } from '../store.js';
import type { ClassLookup } from './lookup.js';

/** How often one address may connect to a class: a room of sixty that comes back all at once, again and again, never meets it. */
const CONNECTS = { most: 1000, perSecond: 50 };
const MOST_ADDRESSES = 5000;
/** Throws 429 where one address connects to a class too often. */
function connectLimit(): (address: string, classId: string) => void {
  const connects = new Map<string, Bucket>();
  return (address, classId) => {
    const key = `${address} ${classId}`;
    const own = connects.get(key) ?? bucket(CONNECTS.most, CONNECTS.perSecond);
    connects.set(key, own);
    const [oldest] = connects.keys();
    if (connects.size > MOST_ADDRESSES && oldest !== undefined) connects.delete(oldest);
    if (own.take() > 0) throw new ApiFault(serverErrors.connectsTooOften);
  };
}

/** The socket of a class. A desk only for the instructor whose class it is; a co-instructor, an assistant and a sensor say the key of their link with hello. */
export function liveRoute(app: FastifyInstance, { store, find, owned }: { store: ClassStore } & ClassLookup): void {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const found = new WeakMap<object, { one: ClassEntity; role: Role }>();
  const mayConnect = connectLimit();
  routes.get(
    '/api/live/:code',
    {
      websocket: true,
      config: { who: 'code' },
      schema: {
        params: CodeParam,
        querystring: Type.Object(
          { as: Type.Optional(Type.Enum(['desk', 'phone', 'wall', 'co', 'assistant', 'sensor'])) },
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
          socket.close(1011, say('The class cannot be read just now. It will mend itself.'));
        },
      );
    },
  );
}

import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { CodeParam, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { Type } from 'typebox';
import type { ClassEntity } from '../../db/entities.js';
import { ApiFault } from '../../errors.js';
import type { ClassStore } from '../store.js';

const MOST_BYTES = 4 * 1024 * 1024;
const MOST_PIXELS = 24e6;
const SHOWN_PX = 900;
const MOST_KEPT = 50;

type Parts = {
  store: ClassStore;
  find: (code: string, address: string) => Promise<ClassEntity>;
  owned: (request: FastifyRequest) => Promise<ClassEntity>;
};
type Shot = { at: number; jpeg: Buffer; simulated: boolean };

/** The newest picture of a camera over the palette: kept in memory of this server until the next one comes, never stored. */
export async function camera(app: FastifyInstance, { store, find, owned }: Parts): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const newest = new Map<string, Shot>();
  await app.register(async (scope) => {
    scope.addContentTypeParser(
      ['image/jpeg', 'image/png', 'image/webp'],
      { parseAs: 'buffer', bodyLimit: MOST_BYTES },
      (_, body, done) => done(null, body),
    );
    const cameras = new WeakMap<FastifyRequest, ClassEntity>();
    scope.withTypeProvider<TypeBoxTypeProvider>().post(
      '/api/join/:code/camera',
      {
        config: { who: 'device' },
        bodyLimit: MOST_BYTES,
        schema: {
          params: CodeParam,
          querystring: Type.Object({ simulated: Type.Optional(Type.Enum(['1'])) }, { additionalProperties: false }),
        },
        // The key comes before the picture.
        onRequest: async (request) => {
          const one = await find((request.params as { code: string }).code, request.ip);
          const [, key] = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '') ?? [];
          if (!store.isDevice(one, 'camera', key)) throw new ApiFault(serverErrors.cameraKey);
          cameras.set(request, one);
        },
      },
      async (request, reply) => {
        const one = cameras.get(request) as ClassEntity;
        if (!Buffer.isBuffer(request.body)) throw new ApiFault(serverErrors.cameraSendsNoPicture);
        const { default: sharp } = await import('sharp');
        // Drawn anew: whatever else the file holds stays behind.
        const jpeg = await sharp(request.body, { limitInputPixels: MOST_PIXELS })
          .rotate()
          .resize({ width: SHOWN_PX, height: SHOWN_PX, fit: 'inside', withoutEnlargement: true })
          .jpeg({ quality: 82 })
          .toBuffer()
          .catch(() => {
            throw new ApiFault(serverErrors.cameraPictureUnreadable);
          });
        const shot = { at: Date.now(), jpeg, simulated: request.query.simulated === '1' };
        newest.set(one.id, shot);
        const [oldest] = newest.keys();
        if (newest.size > MOST_KEPT && oldest !== undefined) newest.delete(oldest);
        (await store.hub(one)).pictured(shot.at, shot.simulated);
        reply.status(204);
      },
    );
  });
  routes.get(
    '/api/classes/:code/camera',
    { schema: { params: CodeParam }, config: { who: 'instructor' } },
    async (request, reply) => {
      const one = await owned(request);
      const shot = newest.get(one.id);
      if (!shot) throw new ApiFault(serverErrors.noCameraPicture);
      return reply.type('image/jpeg').header('cache-control', 'no-store').send(shot.jpeg);
    },
  );
}

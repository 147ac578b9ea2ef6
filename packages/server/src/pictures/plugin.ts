import multipart from '@fastify/multipart';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { Type } from 'typebox';
import { ApiFault } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { MOST_BYTES } from './limits.js';
import type { PictureStore } from './store.js';

const Params = Type.Object({
  sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }),
  rendition: Type.Enum(['full', 'work', 'thumb']),
});

const noFile = () => new ApiFault(serverErrors.noPictureSent);

/** Pictures of the instructor who uploaded them. */
export async function pictures(app: FastifyInstance, { store }: { store: PictureStore }): Promise<void> {
  await app.register(multipart, { limits: { fileSize: MOST_BYTES, files: 1, fields: 0 } });
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  routes.post(
    '/api/pictures',
    { bodyLimit: MOST_BYTES + 4096, config: { who: 'instructor', upload: true } },
    async (request, reply) => {
      const file = await request.file().catch((fault: { code?: string }) => {
        // Without a boundary, or cut off: the form itself cannot be read.
        throw fault.code?.startsWith('FST_') ? fault : noFile();
      });
      if (!file) throw noFile();
      const picture = await store.add(signedIn(request).id, file.file);
      reply.status(201);
      return picture;
    },
  );
  routes.get(
    '/api/pictures/:sha256/:rendition',
    { schema: { params: Params }, config: { who: 'instructor' } },
    async (request, reply) => {
      const { bytes, type } = await store.read(signedIn(request).id, request.params.sha256, request.params.rendition);
      reply.header('cache-control', 'private, max-age=31536000, immutable').type(type);
      return reply.send(bytes);
    },
  );
}

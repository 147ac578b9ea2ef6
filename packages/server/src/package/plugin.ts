import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import multipart from '@fastify/multipart';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { IdParam, packageLimits, say, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyReply } from 'fastify';
import type { Database } from '../db/source.js';
import { ApiFault } from '../errors.js';
import { as, signedIn } from '../guard/access.js';
import type { ReaderAnswer, ReaderJob } from '../lessons/reader-worker.js';
import type { LessonStore } from '../lessons/store.js';
import type { PictureStore } from '../pictures/store.js';
import { pool } from '../work/pool.js';
import { inUploads } from '../work/uploads.js';
import { bringIn } from './bringing.js';
import { packLessons } from './packing.js';

type Parts = { database: Database; lessons: LessonStore; pictures: PictureStore; dataFolder: string };

/** Lessons as a file of one's own: saved with their pictures, and brought in again, here or elsewhere. */
export async function packages(app: FastifyInstance, parts: Parts): Promise<void> {
  await app.register(multipart, { limits: { fileSize: packageLimits.fileBytes, files: 1, fields: 0 } });
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  // Beside those of saving: a package of hundreds holds up nobody.
  const readers = pool<ReaderJob, ReaderAnswer>('lessons/reader-worker.js', { queue: 40, perCaller: 4 });
  app.addHook('onClose', readers.close);

  const send = async (reply: FastifyReply, who: string, only?: string) => {
    const { zip, title } = await packLessons(parts, who, only);
    const plain = title.replace(/[^\x20-\x7e]|["\\/:*?<>|]/g, '_');
    return reply
      .type('application/zip')
      .header('content-disposition', `attachment; filename="${plain}.zip"; filename*=UTF-8''${encodeURIComponent(title)}.zip`)
      .send(zip);
  };
  routes.get('/api/lessons/:id/package', { schema: { params: IdParam }, ...as('reader') }, async (request, reply) =>
    send(reply, signedIn(request).id, request.params.id),
  );
  routes.get('/api/package', { config: { who: 'instructor' } }, async (request, reply) => send(reply, signedIn(request).id));

  routes.post(
    '/api/package',
    { bodyLimit: packageLimits.fileBytes + 4096, config: { who: 'instructor', upload: true } },
    async (request, reply) => {
      const { id } = signedIn(request);
      const file = await request.file().catch((fault: { code?: string }) => {
        throw fault.code?.startsWith('FST_') ? fault : new ApiFault(serverErrors.noPackageSent);
      });
      if (!file) throw new ApiFault(serverErrors.noPackageSent);
      reply.status(201);
      return inUploads(parts.dataFolder, async (path) => {
        await pipeline(file.file, createWriteStream(path, { mode: 0o600 }));
        if (file.file.truncated) throw new ApiFault(serverErrors.packageUnsound(say('It is larger than 2 GB.')));
        return bringIn({ ...parts, readers }, id, path);
      });
    },
  );
}

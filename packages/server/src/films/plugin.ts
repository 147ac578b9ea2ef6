import { Readable } from 'node:stream';
import send from '@fastify/send';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { FILMS_PATH, FinishUpload, type FollowSheet, filmLimits, Id, IdParam, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Type } from 'typebox';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';
import type { FilmStore } from './store.js';

const TUS = '1.0.0';
const HashParam = Type.Object({ sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }) });
const A_YEAR = 'private, max-age=31536000, immutable';

const header = (request: FastifyRequest, name: string): string | null => {
  const value = request.headers[name];
  return typeof value === 'string' ? value : null;
};
/** `Upload-Metadata`: names with values in base64, commas between. */
function metadataOf(request: FastifyRequest): Map<string, string> {
  const pairs = (header(request, 'upload-metadata') ?? '').split(',').map((pair) => pair.trim().split(' '));
  return new Map(pairs.map(([name = '', value = '']) => [name, Buffer.from(value, 'base64').toString('utf8')]));
}
const wholeNumber = (text: string | null): number => (text !== null && /^\d{1,15}$/.test(text) ? Number(text) : Number.NaN);
/** `Upload-Checksum: sha256 …`, in base64; null where none is sent. Others than SHA-256 are refused. */
function checksumOf(request: FastifyRequest): string | null {
  const said = header(request, 'upload-checksum');
  if (said === null) return null;
  const [algorithm, value = ''] = said.split(' ');
  if (algorithm !== 'sha256') throw new ApiFault(serverErrors.filmChecksum);
  return value;
}

/** A film, or the stretch of it that is asked for. The stream ends with the connection. */
async function sendFilm(request: FastifyRequest, reply: FastifyReply, films: FilmStore, sha256: string, ownerId?: string) {
  const { type } = await films.read(sha256, ownerId);
  // An entity tag that holds for good, as the name of the film is its hash.
  const etag = `"${sha256}"`;
  reply.header('cache-control', A_YEAR).header('etag', etag).header('accept-ranges', 'bytes').type(type);
  if (request.headers['if-none-match'] === etag) return reply.status(304).send();
  const isStale = request.headers['if-range'] !== undefined && request.headers['if-range'] !== etag;
  if (isStale) delete request.raw.headers.range;
  delete request.raw.headers['if-range'];
  const { statusCode, headers, stream } = await send(request.raw, films.place(sha256), {
    root: films.folder,
    acceptRanges: true,
    cacheControl: false,
    etag: false,
    lastModified: false,
    contentType: false,
    dotfiles: 'deny',
  });
  if (statusCode === 404) throw notFound('film');
  const sent = new Map(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), String(value)]));
  const range = sent.get('content-range');
  if (range) reply.header('content-range', range);
  if (statusCode === 416) return reply.status(416).removeHeader('content-type').send();
  return reply
    .status(statusCode)
    .header('content-length', sent.get('content-length') ?? '0')
    .send(stream);
}

/** A film that stands beside the steps of a lesson, for who may read its sheet. */
export async function sendFilmOf(
  request: FastifyRequest,
  reply: FastifyReply,
  films: FilmStore,
  sheet: FollowSheet,
  sha256: string,
) {
  if (!sheet.films?.some((film) => film.fileSha256 === sha256)) throw notFound('film');
  return sendFilm(request, reply, films, sha256);
}

/** Films of an instructor: uploaded in pieces that survive a cut line (tus 1.0.0: core, creation, checksum, termination), and served by ranges. */
export async function films(app: FastifyInstance, { store }: { store: FilmStore }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const who = { config: { who: 'instructor' } } as const;

  routes.get(FILMS_PATH, who, async (request) => store.list(signedIn(request).id));
  routes.get(`${FILMS_PATH}/:sha256`, { schema: { params: HashParam }, ...who }, async (request, reply) => {
    return sendFilm(request, reply, store, request.params.sha256, signedIn(request).id);
  });
  routes.delete(`${FILMS_PATH}/:sha256`, { schema: { params: HashParam }, ...who }, async (request, reply) => {
    await store.remove(signedIn(request).id, request.params.sha256);
    return reply.status(204).send();
  });

  await app.register(async (uploads) => {
    uploads.addHook('onRequest', async (_, reply) => {
      reply.header('tus-resumable', TUS);
    });
    // The bytes of a piece go through as they come.
    uploads.addContentTypeParser('application/offset+octet-stream', (_, payload, done) => done(null, payload));
    const inside = uploads.withTypeProvider<TypeBoxTypeProvider>();
    inside.options(FILMS_PATH, { config: { who: 'anyone' } }, async (_, reply) =>
      reply
        .header('tus-version', TUS)
        .header('tus-extension', 'creation,checksum,termination')
        .header('tus-checksum-algorithm', 'sha256')
        .header('tus-max-size', String(filmLimits.fileBytes))
        .status(204)
        .send(),
    );
    inside.post(FILMS_PATH, who, async (request, reply) => {
      const bytes = wholeNumber(header(request, 'upload-length'));
      const id = await store.begin(signedIn(request).id, bytes, metadataOf(request).get('name') ?? '');
      return reply.status(201).header('location', `${FILMS_PATH}/up/${id}`).send();
    });
    // HEAD, by which a client asks where it stands, is answered by this as well.
    inside.get(`${FILMS_PATH}/up/:id`, { schema: { params: IdParam }, ...who }, async (request, reply) => {
      const { received, bytes } = await store.upload(signedIn(request).id, request.params.id);
      return reply.header('upload-offset', String(received)).header('upload-length', String(bytes)).status(200).send();
    });
    inside.patch(
      `${FILMS_PATH}/up/:id`,
      { schema: { params: IdParam }, bodyLimit: filmLimits.fileBytes, config: { who: 'instructor', upload: true } },
      async (request, reply) => {
        const { id } = signedIn(request);
        const offset = wholeNumber(header(request, 'upload-offset'));
        const piece = request.body instanceof Readable ? request.body : Readable.from([]);
        const received = await store.append(id, request.params.id, offset, piece, checksumOf(request));
        return reply.header('upload-offset', String(received)).status(204).send();
      },
    );
    inside.delete(`${FILMS_PATH}/up/:id`, { schema: { params: IdParam }, ...who }, async (request, reply) => {
      await store.cancel(signedIn(request).id, request.params.id);
      return reply.status(204).send();
    });
    inside.post(
      `${FILMS_PATH}/up/:id/finish`,
      { schema: { params: Type.Object({ id: Id }), body: FinishUpload }, ...who },
      async (request, reply) => {
        reply.status(201);
        return store.finish(signedIn(request).id, request.params.id, request.body.sha256);
      },
    );
  });
}

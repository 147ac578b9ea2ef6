import { AsyncLocalStorage } from 'node:async_hooks';
import { createRequire } from 'node:module';
import { type Catalogue, firstSpoken, type Language, learn, speakBy } from '@viaticum/contract';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';

const load = createRequire(import.meta.url);
for (const part of ['contract', 'core', 'print', 'server', 'web'])
  learn('de', load(`@viaticum/contract/german/${part}.json`) as Catalogue);

const readers = new AsyncLocalStorage<Language>();

/** Work whose sentences are for a reader of this language, also after it has waited. */
export const readBy = <T>(language: Language | undefined, work: () => T): T => readers.run(language ?? 'en', work);

/** Every answer is said in the language that its request accepts. */
export function speaksAsAsked(app: FastifyInstance): void {
  speakBy(() => readers.getStore());
  /** A list such as "de-AT,de;q=0.9,en". */
  const asAsked = (request: FastifyRequest, _reply: FastifyReply, done: () => void): void =>
    readers.run(firstSpoken((request.headers['accept-language'] ?? '').split(',')), done);
  app.addHook('onRequest', asAsked);
  // What reads a body may have lost whose request it is.
  app.addHook('preHandler', asAsked);
}

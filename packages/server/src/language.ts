import { AsyncLocalStorage } from 'node:async_hooks';
import { createRequire } from 'node:module';
import { type Catalogue, type Language, languages, learn, speakBy } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';

const load = createRequire(import.meta.url);
for (const part of ['contract', 'core', 'print', 'server', 'web'])
  learn('de', load(`@viaticum/contract/german/${part}.json`) as Catalogue);

const readers = new AsyncLocalStorage<Language>();

/** The first language of a list such as "de-AT,de;q=0.9,en" that is spoken here. */
const languageAsked = (accepted: string | undefined): Language | undefined =>
  (accepted ?? '')
    .split(',')
    .map((entry) => entry.trim().slice(0, 2).toLowerCase())
    .find((tag): tag is Language => languages.some((language) => language === tag));

/** Work whose sentences are for a reader of this language, also after it has waited. */
export const readBy = <T>(language: Language | undefined, work: () => T): T => readers.run(language ?? 'en', work);

/** Every answer is said in the language that its request accepts. */
export function speaksAsAsked(app: FastifyInstance): void {
  speakBy(() => readers.getStore());
  app.addHook('onRequest', (request, _reply, done) =>
    readers.run(languageAsked(request.headers['accept-language']) ?? 'en', done),
  );
  // What reads a body may have lost whose request it is.
  app.addHook('preHandler', (request, _reply, done) =>
    readers.run(languageAsked(request.headers['accept-language']) ?? 'en', done),
  );
}

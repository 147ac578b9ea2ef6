import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import fastify, { type FastifyInstance } from 'fastify';
import { auth } from './auth/plugin.js';
import { classes } from './classes/plugin.js';
import { classStore } from './classes/store.js';
import type { Config } from './config.js';
import { type Database, openDatabase } from './db/source.js';
import { seedDemo } from './demo/seed.js';
import { answerError } from './errors.js';
import { kept } from './kept/plugin.js';
import { lessons } from './lessons/plugin.js';
import { lessonStore } from './lessons/store.js';
import { pictures } from './pictures/plugin.js';
import { pictureStore } from './pictures/store.js';
import { rooms } from './rooms/plugin.js';
import { web } from './web/plugin.js';

export type Running = { app: FastifyInstance; database: Database; seeded: boolean };

/** The server, ready to listen. Throws one sentence where the database does not answer. */
export async function buildApp(config: Config): Promise<Running> {
  const database = await openDatabase(config.databaseUrl);
  const app = fastify({
    logger: config.quiet ? { level: 'error' } : { level: 'warn' },
    bodyLimit: 8 * 1024 * 1024,
    ajv: { customOptions: { removeAdditional: false, coerceTypes: false, allErrors: true, strictTypes: false } },
  }).withTypeProvider<TypeBoxTypeProvider>();
  app.setErrorHandler(answerError);
  const lessonsOf = lessonStore(database);
  const picturesOf = pictureStore(database, config.dataFolder);
  const classesOf = classStore(database, lessonsOf);
  const seeded = await seedDemo(database, lessonsOf, picturesOf);

  // Hooks and error answers hold for everything registered after them, so sessions come first and on the root.
  await auth(app, { database, origins: config.origins, secure: config.publicUrl.startsWith('https:') });
  await classes(app, { store: classesOf, config });
  await app.register(lessons, { store: lessonsOf });
  await app.register(rooms, { database });
  await app.register(kept, { database });
  await app.register(pictures, { store: picturesOf });
  await web(app, { folder: config.webFolder });
  // Who may call: anyone.
  app.get('/health', async () => {
    await database.pool.query('SELECT 1');
    return { ok: true };
  });
  app.addHook('preClose', async () => {
    await classesOf.close();
  });
  app.addHook('onClose', async () => {
    await picturesOf.close();
    await database.close();
  });
  return { app, database, seeded };
}

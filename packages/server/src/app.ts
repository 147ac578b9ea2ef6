import { readFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import fastify, { type FastifyInstance } from 'fastify';
import { auth } from './auth/plugin.js';
import { aloneBus } from './bus/bus.js';
import { redisBus } from './bus/redis.js';
import { peopleStore } from './classes/people.js';
import { classes } from './classes/plugin.js';
import { rehearsals } from './classes/rehearsals.js';
import { stagePictures } from './classes/stages.js';
import { classStore } from './classes/store.js';
import type { Config } from './config.js';
import { type Database, openDatabase } from './db/source.js';
import { seedDemo } from './demo/seed.js';
import { answerError } from './errors.js';
import { kept } from './kept/plugin.js';
import { alone } from './lessons/alone.js';
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
  const https = config.tls ? { https: { cert: await readFile(config.tls.cert), key: await readFile(config.tls.key) } } : {};
  const app = fastify({
    ...https,
    logger: config.quiet ? { level: 'error' } : { level: 'warn' },
    bodyLimit: 8 * 1024 * 1024,
    ajv: { customOptions: { removeAdditional: false, coerceTypes: false, allErrors: true, strictTypes: false } },
  }).withTypeProvider<TypeBoxTypeProvider>() as unknown as FastifyInstance;
  app.setErrorHandler(answerError);
  const lessonsOf = lessonStore(database);
  const picturesOf = pictureStore(database, config.dataFolder);
  const bus = config.redisUrl ? await redisBus(config.redisUrl, (fault) => app.log.warn(fault)) : aloneBus();
  const classesOf = classStore(database, lessonsOf, bus, stagePictures(picturesOf, config.dataFolder));
  const peopleOf = peopleStore(database, classesOf);
  const rehearsalsOf = rehearsals(() => {
    const { port } = app.server.address() as AddressInfo;
    const host = ['0.0.0.0', '::'].includes(config.host) ? '127.0.0.1' : config.host;
    return { url: `${config.tls ? 'wss' : 'ws'}://${host}:${port}`, origin: config.publicUrl };
  });
  const seeded = await seedDemo(database, lessonsOf, picturesOf);

  // Hooks and error answers hold for everything registered after them, so sessions come first and on the root.
  await auth(app, { database, origins: config.origins, secure: config.publicUrl.startsWith('https:') });
  await classes(app, { store: classesOf, people: peopleOf, rehearsals: rehearsalsOf, config });
  await app.register(lessons, { store: lessonsOf });
  await app.register(alone, { database, lessons: lessonsOf, classes: classesOf, config });
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
    rehearsalsOf.close();
    await classesOf.close();
    await bus.close();
  });
  app.addHook('onClose', async () => {
    await picturesOf.close();
    await database.close();
  });
  return { app, database, seeded };
}

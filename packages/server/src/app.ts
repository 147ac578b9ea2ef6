import { mkdir, readFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import fastify, { type FastifyBaseLogger, type FastifyInstance, LogController } from 'fastify';
import { nanoid } from 'nanoid';
import { account } from './auth/account.js';
import { accountStore } from './auth/account-store.js';
import { passwords } from './auth/password.js';
import { auth } from './auth/plugin.js';
import { sessionStore } from './auth/sessions.js';
import { backups, nights } from './backup/plugin.js';
import { aloneBus, type Bus } from './bus/bus.js';
import { letterStore } from './classes/people/letters.js';
import { peopleStore } from './classes/people/people.js';
import { privacyStore } from './classes/people/privacy.js';
import { rehearsals } from './classes/rehearsals.js';
import { classes } from './classes/routes/plugin.js';
import { type ClassStore, classStore } from './classes/store.js';
import type { Config } from './config.js';
import { type Database, openDatabase } from './db/source.js';
import { hasKnownPassword, seedDemo, setDemoPassword } from './demo/seed.js';
import { answerError } from './errors.js';
import { films } from './films/plugin.js';
import { shooting } from './films/shoot.js';
import { filmStore } from './films/store.js';
import { access, routeTable } from './guard/access.js';
import { modestJson } from './guard/body.js';
import { disk } from './guard/disk.js';
import { housekeeping } from './housekeeping.js';
import { kept } from './kept/plugin.js';
import { courses } from './kit/courses.js';
import { kit } from './kit/plugin.js';
import { speaksAsAsked } from './language.js';
import { alone } from './lessons/alone.js';
import { lessons } from './lessons/plugin.js';
import { lessonRolesAsked } from './lessons/reach.js';
import { sharing, sharingStore } from './lessons/sharing.js';
import { lessonStore } from './lessons/store.js';
import { openLog } from './log.js';
import { logbook } from './logbook/plugin.js';
import { measured, operation } from './operation/plugin.js';
import { packages } from './package/plugin.js';
import { pictures } from './pictures/plugin.js';
import { pictureStore } from './pictures/store.js';
import { stagePictures } from './stage-pictures/store.js';
import { web } from './web/plugin.js';

const MOST_BODY = 64 * 1024;
const HEADERS_MS = 15_000;
/** A picture of 25 MB over a slow network. */
const REQUEST_MS = 180_000;

export type Running = {
  app: FastifyInstance;
  database: Database;
  classes: ClassStore;
  seeded: boolean;
  /** Whether the demo can be signed in to with the password that everybody knows. */
  hasKnownPassword: () => Promise<boolean>;
  logPlace: string;
};

/** The server, ready to listen. Throws one sentence where the database does not answer. */
export async function buildApp(config: Config): Promise<Running> {
  await mkdir(config.dataFolder, { recursive: true, mode: 0o700 });
  const logging = await openLog(config.dataFolder, config.quiet);
  const database = await openDatabase(config.databaseUrl);
  const tls = config.tls ? { cert: await readFile(config.tls.cert), key: await readFile(config.tls.key) } : null;
  const limits = { connectionsCheckingInterval: 5000, headersTimeout: HEADERS_MS };
  const app = fastify({
    ...(tls ? { https: { ...tls, ...limits } } : { http: limits }),
    loggerInstance: logging.log as FastifyBaseLogger,
    logController: new LogController({ disableRequestLogging: true }),
    genReqId: () => nanoid(10),
    bodyLimit: MOST_BODY,
    requestTimeout: REQUEST_MS,
    // What is refused before it comes to a route: an address that cannot be read, or parts of it that are too long.
    frameworkErrors: (error, request, reply) => answerError(error, request, reply),
    trustProxy: config.trustProxy,
    ajv: { customOptions: { removeAdditional: false, coerceTypes: false, strictTypes: false } },
  }).withTypeProvider<TypeBoxTypeProvider>() as unknown as FastifyInstance;
  app.setErrorHandler(answerError);
  speaksAsAsked(app);
  app.addHook('onRequest', async (request, reply) => {
    reply.header('x-request-id', request.id);
    if (request.url.startsWith('/api/')) reply.header('cache-control', 'no-store');
  });
  const register = measured(app);
  modestJson(app);
  routeTable(app);

  const space = disk({ folder: config.dataFolder, withReserve: !config.quiet, log: app.log });
  const keys = passwords();
  const picturesOf = pictureStore(database, config.dataFolder);
  const stagesOf = stagePictures(picturesOf, config.dataFolder);
  const filmsOf = filmStore(database, config.dataFolder, space);
  const lessonsOf = lessonStore(database, stagesOf);
  const sharingOf = sharingStore(database);
  const bus = config.redisUrl ? await redis(config.redisUrl, (err) => app.log.warn({ err }, 'Redis')) : aloneBus();
  const classesOf = classStore({ database, lessons: lessonsOf, bus, stages: stagesOf, disk: space, log: app.log });
  const peopleOf = peopleStore(database, classesOf);
  const privacyOf = privacyStore(database, classesOf);
  const rehearsalsOf = rehearsals(() => {
    const { port } = app.server.address() as AddressInfo;
    const host = ['0.0.0.0', '::'].includes(config.host) ? '127.0.0.1' : config.host;
    return { url: `${config.tls ? 'wss' : 'ws'}://${host}:${port}`, origin: config.publicUrl };
  });
  app.addHook('onClose', async () => {
    await Promise.all([picturesOf.close(), keys.close()]);
    await database.close();
    await logging.close();
  });

  const sessionsOf = sessionStore(database, (session) => void classesOf.signedOut(session));
  const accountsOf = accountStore({ database, passwords: keys, sessions: sessionsOf });
  const seeded = await seedDemo(database, lessonsOf, picturesOf, filmsOf, keys);
  if (config.demoPassword) await setDemoPassword(database, keys, config.demoPassword);
  if (config.owner && !(await accountsOf.hasOwner()))
    await accountsOf.makeOwner(config.owner.name, config.owner.password, 'set-up');
  await lessonsOf.makeCards();

  // Hooks and error answers hold for everything registered after them, so sessions come first and on the root.
  const door = await auth(app, {
    ...{ database, passwords: keys, sessions: sessionsOf, accounts: accountsOf },
    origins: config.origins,
    secure: config.publicUrl.startsWith('https:'),
  });
  access(app, config.bodyMs, space);
  const letters = letterStore(database, classesOf);
  await classes(app, {
    store: classesOf,
    people: peopleOf,
    letters,
    privacy: privacyOf,
    rehearsals: rehearsalsOf,
    films: filmsOf,
    config,
  });
  const letGo = async () => {
    await filmsOf.letGoOfLost();
    await picturesOf.tidy(Date.now(), 60_000);
  };
  await app.register(account, { accounts: accountsOf, sessions: sessionsOf, door, publicUrl: config.publicUrl, letGo });
  lessonRolesAsked(app, database);
  await app.register(lessons, { store: lessonsOf });
  await app.register(sharing, { store: sharingOf, config });
  await app.register(alone, { database, lessons: lessonsOf, classes: classesOf, films: filmsOf, config });
  await app.register(kept, { database });
  await app.register(kit, { database, lessons: lessonsOf, config });
  await app.register(courses, { database });
  await app.register(logbook, { database, classes: classesOf, lessons: lessonsOf, letters });
  await app.register(films, { store: filmsOf });
  await app.register(shooting, { database, config });
  await app.register(backups, { database, url: config.databaseUrl, dataFolder: config.dataFolder });
  await app.register(packages, { database, lessons: lessonsOf, pictures: picturesOf, dataFolder: config.dataFolder });
  await app.register(pictures, { store: picturesOf });
  const authority = join(config.dataFolder, 'certificate', 'authority.pem');
  await web(app, { folder: config.webFolder, isTls: config.publicUrl.startsWith('https:'), authority });
  await operation(app, { register, database, classes: classesOf, isFull: space.isFull });
  const stopNights = config.quiet
    ? () => undefined
    : nights({ url: config.databaseUrl, dataFolder: config.dataFolder, log: app.log });
  const stopTidying = housekeeping({
    ...{
      sessions: sessionsOf,
      accounts: accountsOf,
      lessons: lessonsOf,
      sharing: sharingOf,
      stages: stagesOf,
      films: filmsOf,
      pictures: picturesOf,
      privacy: privacyOf,
    },
    ...{ dataFolder: config.dataFolder, log: app.log },
  });
  app.addHook('preClose', async () => {
    stopTidying();
    stopNights();
    space.close();
    rehearsalsOf.close();
    await classesOf.close();
    await bus.close();
  });
  return {
    app,
    database,
    classes: classesOf,
    seeded,
    hasKnownPassword: () => hasKnownPassword(database, keys),
    logPlace: logging.place,
  };
}

/** Read only where it is wanted: it is a large part of what there is to load. */
async function redis(url: string, onFault: (fault: Error) => void): Promise<Bus> {
  const { redisBus } = await import('./bus/redis.js');
  return redisBus(url, onFault);
}

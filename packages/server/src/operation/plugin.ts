import type { FastifyInstance, FastifyRequest } from 'fastify';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { ClassStore } from '../classes/store.js';
import type { Database } from '../db/source.js';
import { isFromHere } from '../guard/from-here.js';

/** Bounds in seconds: what a person does not notice, what they do, what they call slow. */
const BUCKETS = [0.005, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 15];

type Parts = { database: Database; classes: ClassStore; isFull: () => boolean };

/** How long requests take, by route; from here on, for all that is registered afterwards. */
export function measured(app: FastifyInstance): Registry {
  const register = new Registry();
  const seconds = new Histogram({
    name: 'viaticum_request_seconds',
    help: 'Time from a request to the end of its answer, by route.',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS,
    registers: [register],
  });
  app.addHook('onResponse', async (request, reply) => {
    // The pattern of the route, never the address: that would hold codes and names.
    const route = request.routeOptions.url ?? 'unknown';
    const status = `${Math.floor(reply.statusCode / 100)}xx`;
    seconds.observe({ method: request.method, route, status }, reply.elapsedTime / 1000);
  });
  return register;
}

/**
 * For whoever runs this: whether the process lives (`/health`), whether it can serve (`/ready`), and figures in the open text format of
 * Prometheus (`/metrics`). The first two tell anyone yes or no; figures go to this machine only.
 */
export async function operation(app: FastifyInstance, { register, ...parts }: Parts & { register: Registry }): Promise<void> {
  const { database, classes } = parts;
  /** A data folder that is away can take as little as a full one. */
  const isFull = () => {
    try {
      return parts.isFull();
    } catch {
      return true;
    }
  };
  let isStopping = false;
  app.addHook('preClose', async () => {
    isStopping = true;
  });
  const answers = () =>
    database.pool.query('SELECT 1').then(
      () => true,
      () => false,
    );
  new Gauge({
    name: 'viaticum_classes_followed',
    help: 'Classes that are in memory because somebody follows them.',
    registers: [register],
    collect() {
      this.set(classes.hubsOpen);
    },
  });
  new Gauge({
    name: 'viaticum_disk_full',
    help: '1 while the disk with the data is too full to store anything more.',
    registers: [register],
    collect() {
      this.set(isFull() ? 1 : 0);
    },
  });
  // Figures of the process itself are watched from the first time that somebody asks.
  let isWatched = false;

  app.get('/health', async () => {
    await database.pool.query('SELECT 1');
    return { ok: true };
  });
  app.get('/ready', async (_, reply) => {
    const found = { database: await answers(), disk: !isFull(), running: !isStopping };
    return reply.status(Object.values(found).every(Boolean) ? 200 : 503).send(found);
  });
  app.get('/metrics', async (request: FastifyRequest, reply) => {
    if (!isFromHere(request)) return reply.status(404).type('text/plain').send('Figures are told on this machine only.');
    if (!isWatched) collectDefaultMetrics({ register });
    isWatched = true;
    return reply.type(register.contentType).send(await register.metrics());
  });
}

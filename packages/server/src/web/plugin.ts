import { existsSync } from 'node:fs';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';

/** The built web application: a page for instructors, a small one for students, and a strict content policy. */
export async function web(app: FastifyInstance, { folder }: { folder: string }): Promise<void> {
  await app.register(helmet, {
    hsts: false,
    crossOriginOpenerPolicy: false,
    originAgentCluster: false,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'self'"],
        'script-src': ["'self'", "'wasm-unsafe-eval'"],
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'worker-src': ["'self'", 'blob:'],
        'connect-src': ["'self'", 'ws:', 'wss:'],
        'font-src': ["'self'", 'data:'],
        'object-src': ["'none'"],
        'base-uri': ["'none'"],
        'form-action': ["'self'"],
        'frame-ancestors': ["'none'"],
      },
    },
  });
  if (!existsSync(folder)) {
    app.log.warn('the web application is not built');
    return;
  }
  await app.register(fastifyStatic, {
    root: folder,
    wildcard: false,
    index: false,
    setHeaders: (reply, path) => {
      reply.setHeader('cache-control', path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  app.get('/join', (_, reply) => reply.sendFile('follow.html'));
  app.get('/join/*', (_, reply) => reply.sendFile('follow.html'));
  app.get('/paint/*', (_, reply) => reply.sendFile('follow.html'));
  app.setNotFoundHandler((request, reply) => {
    const isPage = request.method === 'GET' && !/^\/(api|assets)\//.test(request.url);
    if (isPage) return reply.sendFile('index.html');
    return reply.status(404).send({ code: 'not-found', message: 'There is nothing at this address. Go back to the shelf.' });
  });
}

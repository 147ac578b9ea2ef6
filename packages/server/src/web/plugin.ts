import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance, FastifyReply } from 'fastify';

/** What the pages hold in place of the nonce that each answer gets. */
const NONCE = '__NONCE__';
const YEAR_SECONDS = 31_536_000;
/** Everything a browser could be asked for, but for what the application uses: waking, fullscreen, copying. */
const PERMISSIONS = [
  'accelerometer',
  'autoplay',
  'bluetooth',
  'camera',
  'display-capture',
  'geolocation',
  'gyroscope',
  'hid',
  'magnetometer',
  'microphone',
  'midi',
  'payment',
  'serial',
  'usb',
]
  .map((name) => `${name}=()`)
  .concat('clipboard-write=(self)', 'fullscreen=(self)', 'screen-wake-lock=(self)')
  .join(', ');

const policyOf = (nonce: string): string =>
  [
    "default-src 'self'",
    "script-src 'self' 'wasm-unsafe-eval'",
    // Styles that the component library makes while it runs carry the nonce.
    `style-src 'self' 'nonce-${nonce}'`,
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "font-src 'self' data:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join(';');

/** The built web application: a page for instructors, a small one for students, and a strict content policy. */
export async function web(
  app: FastifyInstance,
  { folder, isTls, authority }: { folder: string; isTls: boolean; authority?: string },
): Promise<void> {
  await app.register(helmet, {
    hsts: isTls ? { maxAge: YEAR_SECONDS, includeSubDomains: false } : false,
    crossOriginOpenerPolicy: isTls,
    originAgentCluster: false,
    contentSecurityPolicy: false,
    frameguard: { action: 'deny' },
  });
  app.addHook('onRequest', async (_, reply) => {
    reply.header('permissions-policy', PERMISSIONS);
    reply.header('content-security-policy', policyOf('none'));
  });
  // For phones that are to trust this machine: its authority, which is no secret.
  if (authority && existsSync(authority))
    app.get('/certificate', async (_, reply) =>
      reply
        .type('application/x-x509-ca-cert')
        .header('content-disposition', 'attachment; filename="viaticum.crt"')
        .send(await readFile(authority)),
    );
  const isBuilt = existsSync(folder);
  const pages = new Map<string, string>();
  const page = (reply: FastifyReply, name: string) => {
    const nonce = randomBytes(16).toString('base64url');
    return reply
      .header('content-security-policy', policyOf(nonce))
      .header('cache-control', 'no-cache')
      .type('text/html; charset=utf-8')
      .send((pages.get(name) as string).replaceAll(NONCE, nonce));
  };
  app.setNotFoundHandler((request, reply) => {
    const isPage = ['GET', 'HEAD'].includes(request.method) && !/^\/(api|assets)\//.test(request.url);
    if (isPage && isBuilt) return page(reply, 'index.html');
    return reply
      .status(404)
      .send({ code: 'not-found', message: 'There is nothing at this address. Go back to the shelf.', requestId: request.id });
  });
  if (!isBuilt) {
    app.log.warn('the web application is not built');
    return;
  }
  for (const name of ['index.html', 'follow.html']) pages.set(name, await readFile(join(folder, name), 'utf8'));
  await app.register(fastifyStatic, {
    root: folder,
    wildcard: false,
    index: false,
    globIgnore: ['*.html'],
    setHeaders: (reply, path) => {
      reply.setHeader('cache-control', path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  // By its own name it is what a phone keeps for when there is no network.
  for (const path of ['/follow.html', '/join']) app.get(path, (_, reply) => page(reply, 'follow.html'));
  app.get('/join/*', (_, reply) => page(reply, 'follow.html'));
  app.get('/paint/*', (_, reply) => page(reply, 'follow.html'));
  app.get('/shoot/*', (_, reply) => page(reply, 'follow.html'));
}

import { type AccountRole, type LessonRole, type Measures, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { ApiFault } from '../errors.js';
import type { Disk } from './disk.js';

/**
 * Who may call a route: anyone; who knows a class's code; who has the link to a lesson painted alone; a device with the key that the
 * instructor gave it; the instructor who is signed in, for what is theirs; who runs this installation.
 */
type Who = 'anyone' | 'code' | 'link' | 'device' | 'instructor' | 'owner';
/** `lesson`: what the instructor must be to the lesson that the address names. */
export type Route = { method: string; url: string; who: Who; lesson?: LessonRole };

declare module 'fastify' {
  interface FastifyRequest {
    instructor: { id: string; name: string; role: AccountRole; measures: Measures | null } | null;
    /** The session's key in the database, where somebody is signed in. */
    session: string | null;
  }
  interface FastifyContextConfig {
    who?: Who;
    lesson?: LessonRole;
    /** Takes a file, which may be long in coming. */
    upload?: boolean;
  }
  interface FastifyInstance {
    /** Every route under /api, for tests that walk over all of them. */
    routeTable: Route[];
  }
}

/** The instructor who is signed in; throws 401 where nobody is. */
export function signedIn(request: FastifyRequest): NonNullable<FastifyRequest['instructor']> {
  if (!request.instructor) throw new ApiFault(serverErrors.notSignedIn);
  return request.instructor;
}

/** A route of an instructor who has a role with the lesson that its address names. */
export const as = (lesson: LessonRole) => ({ config: { who: 'instructor', lesson } }) as const;

/** How long the body of a request may be in coming, but for files. */
export const BODY_MS = 20_000;

/** Every route under /api that is registered from here on says who may call it, or the server does not start. */
export function routeTable(app: FastifyInstance): void {
  app.decorate('routeTable', []);
  app.addHook('onRoute', (route) => {
    if (!route.url.startsWith('/api/') || route.method === 'HEAD') return;
    const { who, lesson } = route.config ?? {};
    if (!who || (route.url.startsWith('/api/lessons/:id') && !lesson))
      throw new Error(`${route.method} ${route.url} does not say who may call it.`);
    for (const method of [route.method].flat())
      if (method !== 'HEAD') app.routeTable.push({ method, url: route.url, who, ...(lesson ? { lesson } : {}) });
  });
}

/**
 * Whoever is not signed in where they must be is told so before their body is read. A body that does not come ends its connection.
 * After the hook that finds out who they are.
 */
export function access(app: FastifyInstance, bodyMs: number, disk: Disk): void {
  const waits = new WeakMap<FastifyRequest, NodeJS.Timeout>();
  app.addHook('onRequest', async (request) => {
    const { who, upload } = request.routeOptions.config;
    if (who === 'instructor' || who === 'owner') signedIn(request);
    if (who === 'owner' && signedIn(request).role !== 'owner') throw new ApiFault(serverErrors.ownerOnly);
    if (who !== 'anyone' && ['POST', 'PUT'].includes(request.method)) disk.assertRoom();
    const hasBody = request.headers['transfer-encoding'] !== undefined || Number(request.headers['content-length'] ?? 0) > 0;
    if (hasBody && !upload) waits.set(request, setTimeout(() => request.raw.socket.destroy(), bodyMs).unref());
  });
  const came = async (request: FastifyRequest) => clearTimeout(waits.get(request));
  app.addHook('preValidation', came);
  app.addHook('onResponse', came);
}

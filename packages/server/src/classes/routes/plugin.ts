import websocket from '@fastify/websocket';
import type { FastifyInstance } from 'fastify';
import { people } from '../people/plugin.js';
import { camera } from './camera.js';
import { type ClassParts, instructorRoutes } from './instructor.js';
import { joinRoutes } from './join.js';
import { liveRoute } from './live.js';
import { classLookup, joinAddress } from './lookup.js';

const MOST_FRAME = 16 * 1024;

/** Everything about classes: their instructor's routes, those of who has a code, the people, the camera, and the socket. */
export async function classes(app: FastifyInstance, parts: ClassParts): Promise<void> {
  await app.register(websocket, { options: { maxPayload: MOST_FRAME, perMessageDeflate: false } });
  // A refused upgrade is answered, but nobody ends its socket, and the server could then not be closed.
  app.addHook('onResponse', async (request, reply) => {
    if (request.headers.upgrade && reply.statusCode >= 400) request.raw.socket.destroySoon();
  });
  const { store, config } = parts;
  const { find, owned } = classLookup(store);
  instructorRoutes(app, { ...parts, owned });
  joinRoutes(app, { store, find, films: parts.films, config });
  await people(app, {
    people: parts.people,
    letters: parts.letters,
    privacy: parts.privacy,
    joinAddress: (one) => joinAddress(config, one),
    owned,
  });
  await camera(app, { store, find, owned });
  liveRoute(app, { store, find, owned });
}

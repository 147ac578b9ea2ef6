import { serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { ApiFault } from '../errors.js';

/** The deepest nesting of any body; a lesson needs nine. */
export const MOST_DEPTH = 32;
/** The most members of one object; the widest of ours has about thirty. */
export const MOST_MEMBERS = 1000;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT, COLON] = [34, 92, 91, 93, 123, 125, 58];

/**
 * Looks over the bytes of a JSON text before it is parsed: throws 400 where it is nested too deeply or an object has too many members,
 * either of which costs much more to parse than to send. One pass, no memory.
 */
export function assertModest(bytes: Uint8Array): void {
  const members = new Uint32Array(MOST_DEPTH + 1);
  let depth = 0;
  for (let i = 0; i < bytes.length; i++) {
    switch (bytes[i]) {
      case QUOTE:
        for (i += 1; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i += 1;
        break;
      case OPEN_LIST:
      case OPEN_OBJECT:
        depth += 1;
        if (depth > MOST_DEPTH) throw new ApiFault(serverErrors.nestedTooDeeply);
        members[depth] = 0;
        break;
      case CLOSE_LIST:
      case CLOSE_OBJECT:
        if (depth > 0) depth -= 1;
        break;
      case COLON: {
        const count = (members[depth] ?? 0) + 1;
        if (count > MOST_MEMBERS) throw new ApiFault(serverErrors.tooManyFields);
        members[depth] = count;
        break;
      }
    }
  }
}

/** JSON bodies are looked over before they are parsed. */
export function modestJson(app: FastifyInstance): void {
  const parse = app.getDefaultJsonParser('error', 'error');
  app.removeContentTypeParser('application/json');
  app.addContentTypeParser('application/json', { parseAs: 'buffer' }, (request, body, done) => {
    try {
      assertModest(body as Buffer);
    } catch (fault) {
      done(fault as Error);
      return;
    }
    parse(request, (body as Buffer).toString('utf8'), done);
  });
}

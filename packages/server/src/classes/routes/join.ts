import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { CodeParam, Id, type Invite, isId, type JoinAnswer, serverErrors } from '@viaticum/contract';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { Type } from 'typebox';
import type { Config } from '../../config.js';
import type { ClassEntity } from '../../db/entities.js';
import { ApiFault } from '../../errors.js';
import { sendFilmOf } from '../../films/plugin.js';
import type { FilmStore } from '../../films/store.js';
import { sendStage } from '../../stage-pictures/store.js';
import type { ClassStore } from '../store.js';
import { type ClassLookup, joinAddress } from './lookup.js';

type Parts = { store: ClassStore; films: FilmStore; config: Config } & Pick<ClassLookup, 'find'>;

/** What whoever has the code of a class may read: its name, its address, its sheet, its stages, recipes without what they lack. */
export function joinRoutes(app: FastifyInstance, { store, find, films, config }: Parts): void {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const byCode = { config: { who: 'code' } } as const;

  /** A class whose code opens something: one that is not over, or the caller's own. */
  const opening = async (request: FastifyRequest): Promise<ClassEntity> => {
    const one = await find((request.params as { code: string }).code, request.ip);
    if (one.phase === 'ended' && one.ownerId !== request.instructor?.id) throw new ApiFault(serverErrors.classOver);
    return one;
  };
  /** The first names of those who are in a class. */
  const namesHere = async (one: ClassEntity | null): Promise<ReadonlySet<string>> => {
    const students = one ? (await store.hub(one)).log.state.students : {};
    return new Set(Object.values(students).map(({ firstName }) => firstName));
  };

  routes.get('/api/join/:code', { schema: { params: CodeParam }, ...byCode }, async (request) => {
    const one = await find(request.params.code, request.ip);
    if (one.phase === 'ended')
      return {
        ...{ code: one.code, title: '', state: 'ended', address: '', expected: 0, offered: [] },
        ...{ startsAt: null, timeZone: null, place: null },
      } satisfies JoinAnswer;
    const invite = one.invite ? (JSON.parse(one.invite) as Invite) : null;
    const roster = invite?.roster ?? [];
    // How many are expected; who, only once the room is open, so that they find their name.
    const isOpen = one.phase !== 'planned';
    const isHere = await namesHere(isOpen && roster.length > 0 ? one : null);
    return {
      code: one.code,
      title: one.title,
      state: one.phase,
      address: joinAddress(config, one),
      expected: roster.length,
      offered: isOpen ? roster.map(({ firstName }) => firstName).filter((name) => !isHere.has(name)) : [],
      startsAt: invite?.startsAt ?? null,
      timeZone: invite?.timeZone ?? null,
      place: invite?.place ?? null,
    } satisfies JoinAnswer;
  });
  routes.get('/api/join/:code/sheet', { schema: { params: CodeParam }, ...byCode }, async (request) => {
    const { code, ownerId } = await opening(request);
    const [sheet, measures] = await Promise.all([store.sheet(code), store.measures(ownerId)]);
    return { ...sheet, measures };
  });
  routes.get(
    '/api/join/:code/stages/:stepId',
    { schema: { params: Type.Object({ code: Type.String({ maxLength: 40 }), stepId: Id }) }, ...byCode },
    async (request, reply) => {
      const { revisionId } = await opening(request);
      return sendStage(request, reply, await store.stage(revisionId, request.params.stepId));
    },
  );
  routes.get(
    '/api/join/:code/films/:sha256',
    {
      schema: {
        params: Type.Object({ code: Type.String({ maxLength: 40 }), sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }) }),
      },
      ...byCode,
    },
    async (request, reply) => {
      const { code } = await opening(request);
      return sendFilmOf(request, reply, films, await store.sheet(code), request.params.sha256);
    },
  );
  routes.get(
    '/api/join/:code/recipes',
    {
      schema: {
        params: CodeParam,
        querystring: Type.Object({ without: Type.String({ maxLength: 2000 }) }, { additionalProperties: false }),
      },
      ...byCode,
    },
    async (request) => {
      const { code } = await opening(request);
      return store.recipesWithout(code, request.query.without.split(',').filter(isId).slice(0, 60), request.ip);
    },
  );
}

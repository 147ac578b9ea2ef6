import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { type Coded, IdParam, type Kept, type Room, SaveKept, SaveRoom, serverErrors } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { In } from 'typeorm';
import { KeptEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';

/** One list of kept things: where it is, what lies in it, how much of it, and its words. */
type Shelf = {
  path: string;
  /** Under this name one of them travels. */
  field: 'room' | 'kept';
  kinds: readonly string[];
  body: typeof SaveRoom | typeof SaveKept;
  most: number;
  mostBytes: number;
  full: Coded;
  nameless: Coded;
  what: string;
};
const shelves: readonly Shelf[] = [
  {
    path: '/api/rooms',
    field: 'room',
    kinds: ['room'],
    body: SaveRoom,
    most: 100,
    mostBytes: 64 * 1024,
    full: serverErrors.roomsFull,
    nameless: serverErrors.roomNameless,
    what: 'room',
  },
  {
    path: '/api/kept',
    field: 'kept',
    kinds: ['steps', 'method'],
    body: SaveKept,
    most: 300,
    // Sixty steps with all their words.
    mostBytes: 512 * 1024,
    full: serverErrors.keptFull,
    nameless: serverErrors.keptNameless,
    what: 'kept thing',
  },
];

/** What an instructor keeps for other lessons: rooms, steps, methods. Kept again under its name it replaces the former of its kind. */
export async function kept(app: FastifyInstance, { database }: { database: Database }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const who = { config: { who: 'instructor' } } as const;
  for (const { path, field, kinds, body, most, mostBytes, full, nameless, what } of shelves) {
    routes.get(path, who, async (request) => {
      const where = { ownerId: signedIn(request).id, kind: In([...kinds]) };
      const rows = await manager.find(KeptEntity, { where, order: { kind: 'ASC', name: 'ASC' } });
      return rows.map((row) => ({ id: row.id, [field]: JSON.parse(row.document) as Kept | Room }));
    });
    routes.put(path, { bodyLimit: mostBytes, schema: { body }, ...who }, async (request) => {
      const ownerId = signedIn(request).id;
      const sent = (request.body as Record<Shelf['field'], Kept | Room>)[field];
      const one = { ...sent, name: sent.name.trim() };
      const kind = 'kind' in one ? one.kind : 'room';
      if (one.name === '') throw new ApiFault(nameless);
      const isNew = !(await manager.existsBy(KeptEntity, { ownerId, kind, name: one.name }));
      if (isNew && (await manager.countBy(KeptEntity, { ownerId, kind: In([...kinds]) })) >= most) throw new ApiFault(full);
      // One statement, so that two at once leave one.
      await database.pool.query(
        'INSERT INTO kept (id, owner_id, kind, name, document) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name), document = VALUES(document)',
        [nanoid(12), ownerId, kind, one.name, JSON.stringify(one)],
      );
      const { id } = await manager.findOneOrFail(KeptEntity, { where: { ownerId, kind, name: one.name } });
      return { id, [field]: one };
    });
    routes.delete(`${path}/:id`, { schema: { params: IdParam }, ...who }, async (request, reply) => {
      const own = { id: request.params.id, ownerId: signedIn(request).id, kind: In([...kinds]) };
      const { affected } = await manager.delete(KeptEntity, own);
      if (!affected) throw notFound(what);
      reply.status(204);
    });
  }
}

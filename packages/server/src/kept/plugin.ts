import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { IdParam, type Kept, type KeptAnswer, SaveKept } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { KeptEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';

const MOST_KEPT = 300;
/** Sixty steps with all their words. */
const MOST_BYTES = 512 * 1024;

/** What an instructor keeps. Kept again under its name it replaces the former of its kind. */
export async function kept(app: FastifyInstance, { database }: { database: Database }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const who = { config: { who: 'instructor' } } as const;
  routes.get('/api/kept', who, async (request): Promise<KeptAnswer[]> => {
    const rows = await manager.find(KeptEntity, {
      where: { ownerId: signedIn(request).id },
      order: { kind: 'ASC', name: 'ASC' },
    });
    return rows.map((row) => ({ id: row.id, kept: JSON.parse(row.document) as Kept }));
  });
  routes.put('/api/kept', { bodyLimit: MOST_BYTES, schema: { body: SaveKept }, ...who }, async (request): Promise<KeptAnswer> => {
    const ownerId = signedIn(request).id;
    const one: Kept = { ...request.body.kept, name: request.body.kept.name.trim() };
    if (one.name === '') throw new ApiFault(400, 'invalid', 'What you keep needs a name. Enter one and keep it again.');
    if ((await manager.countBy(KeptEntity, { ownerId })) >= MOST_KEPT)
      throw new ApiFault(409, 'too-many', 'Three hundred things are kept. Take one away first.');
    // One statement, so that two at once leave one.
    await database.pool.query(
      'INSERT INTO kept (id, owner_id, kind, name, document) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name), document = VALUES(document)',
      [nanoid(12), ownerId, one.kind, one.name, JSON.stringify(one)],
    );
    const { id } = await manager.findOneOrFail(KeptEntity, { where: { ownerId, kind: one.kind, name: one.name } });
    return { id, kept: one };
  });
  routes.delete('/api/kept/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    const { affected } = await manager.delete(KeptEntity, { id: request.params.id, ownerId: signedIn(request).id });
    if (!affected) throw notFound('kept thing');
    reply.status(204);
  });
}

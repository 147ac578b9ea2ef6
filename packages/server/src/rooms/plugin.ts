import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { IdParam, type Room, type SavedRoom, SaveRoom } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { RoomEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';

const MOST_ROOMS = 100;

/** An instructor's own rooms. A room saved again under its name replaces the former. */
export async function rooms(app: FastifyInstance, { database }: { database: Database }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const who = { config: { who: 'instructor' } } as const;
  routes.get('/api/rooms', who, async (request): Promise<SavedRoom[]> => {
    const rows = await manager.find(RoomEntity, { where: { ownerId: signedIn(request).id }, order: { name: 'ASC' } });
    return rows.map((row) => ({ id: row.id, room: JSON.parse(row.document) as Room }));
  });
  routes.put('/api/rooms', { schema: { body: SaveRoom }, ...who }, async (request): Promise<SavedRoom> => {
    const ownerId = signedIn(request).id;
    const room = { ...request.body.room, name: request.body.room.name.trim() };
    if (room.name === '') throw new ApiFault(400, 'invalid', 'A room needs a name. Enter one and save it again.');
    if ((await manager.countBy(RoomEntity, { ownerId })) >= MOST_ROOMS)
      throw new ApiFault(409, 'too-many', 'A hundred rooms are saved. Take one away first.');
    const document = JSON.stringify(room);
    // One statement, so that two saves at once leave one room.
    await database.pool.query(
      'INSERT INTO room (id, owner_id, name, document) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name), document = VALUES(document)',
      [nanoid(12), ownerId, room.name, document],
    );
    const { id } = await manager.findOneOrFail(RoomEntity, { where: { ownerId, name: room.name } });
    return { id, room };
  });
  routes.delete('/api/rooms/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    const { affected } = await manager.delete(RoomEntity, { id: request.params.id, ownerId: signedIn(request).id });
    if (!affected) throw notFound('room');
    reply.status(204);
  });
}

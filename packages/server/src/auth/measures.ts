import type { Measures } from '@viaticum/contract';
import { usualMeasures } from '@viaticum/core/units';
import type { EntityManager } from 'typeorm';
import { InstructorEntity } from '../db/entities.js';

/** How an instructor measures; as is usual where they never said. */
export async function measuresOf(manager: EntityManager, id: string): Promise<Measures> {
  const found = await manager.findOne(InstructorEntity, { select: { id: true, measures: true }, where: { id } });
  return found?.measures ? (JSON.parse(found.measures) as Measures) : usualMeasures;
}

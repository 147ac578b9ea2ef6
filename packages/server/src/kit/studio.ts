import { newStudio, type Studio } from '@viaticum/contract';
import type { EntityManager } from 'typeorm';
import { StudioEntity } from '../db/entities.js';

/** What an instructor's studio has and pays, as they said it or as it is usual. */
export async function studioOf(manager: EntityManager, instructorId: string): Promise<Studio> {
  const found = await manager.findOneBy(StudioEntity, { instructorId });
  return found ? { ...newStudio, ...(JSON.parse(found.document) as Studio) } : newStudio;
}

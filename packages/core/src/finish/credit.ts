import type { Reference } from '@viaticum/contract';
import { say } from '@viaticum/contract';

/** How a reference is credited on what is shown of a picture painted after it; null where nothing is known, which is a reason to ask. */
export function creditOf({ permission: { kind, by, year } }: Pick<Reference, 'permission'>): string | null {
  const whose = [by?.trim(), year === undefined ? '' : String(year)].filter(Boolean).join(', ');
  if (kind === 'own') return whose ? say`After a photograph of one’s own (${whose})` : say('After a photograph of one’s own');
  if (kind === 'permission') return whose ? say`After a photograph by ${whose}, with permission` : null;
  if (kind === 'commissioned') return whose ? say`Commissioned by ${whose}` : say('Commissioned');
  if (kind === 'public-domain')
    return whose ? say`After ${whose}, in the public domain` : say('After a picture in the public domain');
  return null;
}

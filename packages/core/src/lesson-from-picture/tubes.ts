import type { School, Tube } from '@viaticum/contract';
import { tableTubeId } from '../mix/index.js';

/** Tubes a class usually has, by the school's palette and its black (common practice, no published source). */
const sets: Record<School['palette'], string[]> = {
  smallest: ['PW6', 'PB29', 'PB15:3', 'PR122', 'PR254', 'PY74', 'PY42', 'PBr7-BU'],
  'primaries-and-white': ['PW6', 'PB29', 'PR122', 'PR254', 'PY74', 'PB15:3'],
  rich: ['PW6', 'PB29', 'PB15:3', 'PG7', 'PR122', 'PR254', 'PY74', 'PY42', 'PR101', 'PBr7-BU', 'PBr7-BS', 'PV23'],
};

export function usualTubes({ palette, black }: Pick<School, 'palette' | 'black'>): Tube[] {
  const pigments = black === 'mixed-darks' ? sets[palette] : [...sets[palette], 'PBk7'];
  return pigments.map((pigment): Tube => ({ id: tableTubeId(pigment), pigment, grade: 'artist' }));
}

import type { StepKind, Technique } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

/** Terms of the trade, as every screen says them. */
export const techniqueWords = worded({
  wash: 'technique|wash',
  glaze: 'glaze',
  'dry-brush': 'dry-brush',
  scumble: 'scumble',
  'block-in': 'block-in',
  blend: 'blend',
  loaded: 'loaded',
  gesso: 'gesso',
  impasto: 'impasto',
  'under-film': 'under-film',
  spatter: 'spatter',
} satisfies Record<Technique, string>);

export const kindWords = worded({
  paint: 'paint',
  draw: 'draw',
  prepare: 'prepare',
  transfer: 'trace',
  dry: 'dry',
  look: 'look',
  practise: 'practise',
  break: 'break',
} satisfies Record<StepKind, string>);

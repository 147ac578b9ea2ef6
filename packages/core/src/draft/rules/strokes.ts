import type { Step, StrokeKind, Technique } from '@viaticum/contract';

/** The movement that usually goes with a technique (common practice, no published source). */
export const usualStroke: Record<Technique, StrokeKind> = {
  wash: 'drag',
  glaze: 'drag',
  'dry-brush': 'drag',
  scumble: 'circle',
  'block-in': 'cut-in',
  blend: 'feather',
  loaded: 'pull',
  gesso: 'criss-cross',
  impasto: 'stamp',
  'under-film': 'drag',
  spatter: 'flick',
};

/** The stroke of a step: its own, or the one that usually goes with its technique. */
export const strokeOf = (step: Pick<Step, 'stroke' | 'technique'>): StrokeKind | undefined =>
  step.stroke ?? (step.technique ? usualStroke[step.technique] : undefined);

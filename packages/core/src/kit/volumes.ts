import type { Lesson, Level, Plan, Step, Studio } from '@viaticum/contract';
import { partsOf } from '@viaticum/kernels/mixing';
import { brushOf } from '../brush/index.js';
import { evaporation } from '../coat/index.js';
import { learntFactor } from '../derived/index.js';
import { type Laying, layingsOf } from '../heap/index.js';

/** What is lost of the paint, and how much more is mixed than is needed. Judged, to be learnt by weighing. */
export const losses = {
  /** ml that a brush of 1 mm² (width × width) keeps. */
  brushMlPerMm2: 0.0008,
  /** Brushfuls that are rinsed out for a step and a mix. */
  brushfuls: { beginner: 2, improver: 1.5, experienced: 1 } satisfies Record<Level, number>,
  /** Kept back for corrections of areas (common practice, no published source). */
  keepShare: 0.15,
  keepLeastMl: 0.5,
  paletteShare: 0.1,
  paletteLeastMl: 0.15,
  /** A heap stands so high, mm, and no more than half of it skins. */
  heapMm: 4,
  skinMost: 0.5,
  /** A mix that is put right grows. */
  growth: { beginner: 1.35, improver: 1.2, experienced: 1.1 } satisfies Record<Level, number>,
  leastHeapMl: 1,
} as const;
/** How often the usual loss is lost. */
export type LossTimes = Studio['losses'];
const usualLosses: LossTimes = { brush: 1, kept: 1, palette: 1, growth: 1 };
/** Grams of water in a litre of paint. */
const WATER_G_PER_L = 616;
/** A step without a brush is reckoned with a middling one, mm. */
const USUAL_BRUSH_MM = 12;

/** What one painter needs of a mix, ml: where it goes. `total`: a heap of one's own; `portion`: one's share of a batch. */
export type MixVolume = {
  mixId: string;
  canvas: number;
  brush: number;
  kept: number;
  palette: number;
  skin: number;
  /** What is mixed more than needed, beside all that. */
  growth: number;
  total: number;
  portion: number;
  /** The largest share of a batch that somebody needs, where canvases are of several sizes. */
  largest: number;
  steps: readonly Step[];
  /** Hours from when it is first to when it is last used. */
  openHours: number;
};

/** How much of a brushful a technique carries. */
export const brushfulOf = ({ technique }: Pick<Step, 'technique'>): number => {
  if (technique === 'wash') return 0.6;
  return technique === 'dry-brush' || technique === 'scumble' ? 0.5 : 1;
};
/** What an implement of so many mm keeps, ml; for width see the table of brushes. */
export const brushKeepsMl = (widthMm: number): number => losses.brushMlPerMm2 * widthMm * widthMm;

const openHours = (plan: Plan, steps: readonly Step[]): number => {
  const ids = new Set(steps.map(({ id }) => id));
  const items = plan.items.filter(({ stepId }) => stepId !== undefined && ids.has(stepId));
  if (items.length === 0) return 0;
  return (Math.max(...items.map(({ endMin }) => endMin)) - Math.min(...items.map(({ startMin }) => startMin))) / 60;
};

/** The part of an open heap that skins in an hour of this air: evaporation over the water of a heap so high. */
function skinAnHour({ room, heapsOn }: Lesson): number {
  if (heapsOn === 'wet-palette' || heapsOn === 'bag') return 0;
  const gPerM2H = evaporation(room).kgPerM2S * 3.6e6;
  return gPerM2H / (WATER_G_PER_L * losses.heapMm);
}

/**
 * What one painter of a level needs of every mix that is laid, ml (see {@link MixVolume}), in the order of the lesson's mixes; `times`: how
 * often each loss is lost. Formulas
 * and constants of the kit's design: canvas + brush + kept back + palette + skin, and growth of what is mixed at a palette.
 */
export function mixVolumes(lesson: Lesson, plan: Plan, level: Level = lesson.level, times: LossTimes = usualLosses): MixVolume[] {
  const byMix = new Map<string, Laying[]>();
  for (const one of layingsOf(lesson)) if (one.step) byMix.set(one.mixId, [...(byMix.get(one.mixId) ?? []), one]);
  const skins = skinAnHour(lesson);
  return lesson.mixes.flatMap(({ id }): MixVolume[] => {
    const own = byMix.get(id);
    if (!own) return [];
    const steps = [...new Set(own.map((one) => one.step as Step))];
    const used = learntFactor(lesson, 'paint');
    const canvas = used * own.reduce((sum, one) => sum + one.ml, 0);
    const brush = steps.reduce((sum, step) => {
      const widthMm = brushOf(step.brushId)?.widthMm ?? USUAL_BRUSH_MM;
      return sum + used * times.brush * losses.brushfuls[level] * brushKeepsMl(widthMm) * brushfulOf(step);
    }, 0);
    const isCorrected = own.some(
      ({ what, step, technique }) => what === 'area' && step?.kind === 'paint' && technique !== 'glaze',
    );
    const kept = isCorrected ? times.kept * Math.max(used * losses.keepLeastMl, losses.keepShare * canvas) : 0;
    const net = canvas + brush + kept;
    const palette = times.palette * Math.max(losses.paletteLeastMl, losses.paletteShare * net);
    const hours = openHours(plan, steps);
    const skin = net * Math.min(losses.skinMost, skins * hours);
    const mixed = Math.max(losses.leastHeapMl, net + palette + skin);
    const total = mixed * (1 + times.growth * (losses.growth[level] - 1));
    return [
      {
        mixId: id,
        canvas,
        brush,
        kept,
        palette,
        skin,
        growth: total - (net + palette + skin),
        total,
        portion: net + (palette + skin) / 2,
        largest: net + (palette + skin) / 2,
        steps,
        openHours: hours,
      },
    ];
  });
}

/** Volume shares of a mix's tubes, the mixes within it taken apart; empty where it has no recipe. */
export function tubeShares(
  lesson: Lesson,
  mixId: string,
  weight = 1,
  into = new Map<string, number>(),
  depth = 0,
): Map<string, number> {
  const mix = lesson.mixes.find((one) => one.id === mixId);
  if (!mix || depth > MOST_DEEP) return into;
  const parts = [
    ...mix.recipe.map(({ tubeId, parts }) => ({ tubeId, mixId: null, weight: partsOf(parts) })),
    ...(mix.mixedFrom ?? []).map((part) => ({ tubeId: null, mixId: part.mixId, weight: partsOf(part.parts) })),
  ];
  const whole = parts.reduce((sum, part) => sum + part.weight, 0);
  for (const part of parts) {
    const share = (weight * part.weight) / whole;
    if (part.tubeId !== null) into.set(part.tubeId, (into.get(part.tubeId) ?? 0) + share);
    else tubeShares(lesson, part.mixId as string, share, into, depth + 1);
  }
  return into;
}
const MOST_DEEP = 10;

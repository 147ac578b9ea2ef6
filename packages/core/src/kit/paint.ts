import type { Lesson, Plan, Sharing, Studio, Tube } from '@viaticum/contract';
import { isWhite, shortTubeName } from '../mix/index.js';
import { costOf } from './money.js';
import { type Packed, packTubes, TUBE_YIELD, type TubeSize, worthMore } from './packing.js';
import { type Group, groupOf, groupParts, meanVolumes } from './parts.js';
import { type Premix, premixes } from './premix.js';
import { type MixVolume, mixVolumes, tubeShares } from './volumes.js';

/** A mix in the kit: what one painter and the whole group need of it, ml. */
export type KitMix = { volume: MixVolume; teachingMl: number; groupMl: number; premix: Premix };

/** A tube in the kit. Amounts in ml; `sureMl` is enough nine times in ten. */
export type KitTube = {
  tube: Tube;
  key: string;
  name: string;
  headMl: number;
  groupMl: number;
  sureMl: number;
  stockMl: number;
  needMl: number;
  sharing: Sharing;
  places: number;
  sizes: readonly TubeSize[];
  isPriced: boolean;
  buy: Packed;
  /** Others of the ways in which it may go round, with what they cost. */
  others: { sharing: Sharing; buy: Packed }[];
  more: ReturnType<typeof worthMore>;
  /** What the group uses up, in the smallest coin; null without a price. */
  usedMinor: number | null;
};

export type KitPaint = {
  mixes: KitMix[];
  tubes: KitTube[];
  headMl: number;
  groupMl: number;
  /** Of it on the canvases, for one painter. */
  canvasMl: number;
  cashMinor: number | null;
  usedMinor: number | null;
  /** Tubes without a price. */
  unpriced: string[];
};

/** A tube by what it is, whatever lesson it stands in. */
export const paintKey = (tube: Tube): string => (tube.own ? `own ${tube.own.name}` : `${tube.pigment} ${tube.grade}`);

/** Sizes that are usual where none was entered, ml (common practice, no published source). */
const USUAL_ML = [37, 75, 150, 250, 500];
/** The sizes of a tube with their prices; without prices as they usually stand to each other. */
export function sizesOf(tube: Tube, studio: Pick<Studio, 'prices'>): { sizes: TubeSize[]; isPriced: boolean } {
  const key = paintKey(tube);
  const own = studio.prices.filter(({ paint }) => paint === key).map(({ sizeMl, priceMinor }) => ({ ml: sizeMl, priceMinor }));
  if (own.length > 0) return { sizes: own, isPriced: true };
  if (tube.sizeMl !== undefined && tube.priceMinor !== undefined)
    return { sizes: [{ ml: tube.sizeMl, priceMinor: tube.priceMinor }], isPriced: true };
  const sizes = tube.sizeMl !== undefined ? [tube.sizeMl] : USUAL_ML;
  // As shops have it, a larger tube costs less by the ml: so a few large ones are advised.
  return { sizes: sizes.map((ml) => ({ ml, priceMinor: Math.round(100 * ml ** CHEAPER_LARGE) })), isPriced: false };
}

const CHEAPER_LARGE = 0.8;

/** How much painters differ, and how far the reckoning may be off: as shares (judged). */
const PAINTERS_CV = 0.35;
const MODEL_CV = 0.15;
const NINE_IN_TEN = 1.28;
/** How much more than the mean is enough nine times in ten, where so many share a tube. */
export const reserveShare = (sharedBy: number, learnt = 0): number =>
  NINE_IN_TEN * Math.sqrt(PAINTERS_CV ** 2 / Math.max(1, sharedBy) + (MODEL_CV / Math.sqrt(1 + learnt)) ** 2);

/** Of which more is needed a head, and of white, a table has its own; others are handed round, ml. */
const ROUND_UNDER_ML = 5;
const LEAST_SQUEEZE_ML = 0.3;

function placesFor(sharing: Sharing, { heads, tableOf }: Group): number {
  if (sharing === 'each') return heads;
  return sharing === 'a-table' ? Math.ceil(heads / tableOf) : 1;
}
const ways = ['handed-round', 'a-table', 'each'] as const;

/** Paint for a group, also where parts of it paint variants (then what is needed by each is the mean): of every mix and every tube, what to buy of it and what it costs. */
export function kitPaint(lesson: Lesson, plan: Plan, studio: Studio): KitPaint {
  const group = groupOf(lesson);
  const teaching = new Map(mixVolumes(lesson, plan, 'experienced', studio.losses).map((one) => [one.mixId, one]));
  const volumes = meanVolumes(
    groupParts(lesson).map((part) => ({
      heads: part.heads,
      volumes: mixVolumes(part.lesson, part.plan?.plan ?? plan, part.lesson.level, studio.losses),
    })),
  );
  const own = new Map(volumes.map((volume) => [volume.mixId, { volume, teachingMl: teaching.get(volume.mixId)?.total ?? 0 }]));
  const mixes = premixes(lesson, own, group, studio.containers).map((premix): KitMix => {
    const { volume, teachingMl } = own.get(premix.mix.id) as { volume: MixVolume; teachingMl: number };
    return { volume, teachingMl, premix, groupMl: premix.batch?.ml ?? group.heads * volume.total + group.teaching * teachingMl };
  });
  const needs = new Map(lesson.tubes.map(({ id }) => [id, { head: 0, palette: 0, batch: 0 }]));
  for (const { volume, premix, groupMl } of mixes)
    for (const [tubeId, share] of tubeShares(lesson, volume.mixId)) {
      const need = needs.get(tubeId);
      if (!need) continue;
      need.head += (premix.batch ? volume.portion : volume.total) * share;
      need[premix.batch ? 'batch' : 'palette'] += groupMl * share;
    }
  const tubes = lesson.tubes.flatMap((tube): KitTube[] => {
    const need = needs.get(tube.id);
    return need && need.palette + need.batch > 0 ? [kitTube(lesson, tube, need, group, studio)] : [];
  });
  const priced = tubes.every(({ isPriced }) => isPriced);
  return {
    mixes,
    tubes,
    headMl: tubes.reduce((sum, one) => sum + one.headMl, 0),
    groupMl: tubes.reduce((sum, one) => sum + one.groupMl, 0),
    canvasMl: volumes.reduce((sum, one) => sum + one.canvas, 0),
    cashMinor: priced ? tubes.reduce((sum, one) => sum + one.buy.costMinor, 0) : null,
    usedMinor: priced ? tubes.reduce((sum, one) => sum + (one.usedMinor ?? 0), 0) : null,
    unpriced: tubes.filter(({ isPriced }) => !isPriced).map(({ name }) => name),
  };
}

function kitTube(
  lesson: Lesson,
  tube: Tube,
  need: { head: number; palette: number; batch: number },
  group: Group,
  studio: Studio,
): KitTube {
  // Nobody squeezes less than a bead where it is squeezed at all.
  const palette = need.palette > 0 ? Math.max(need.palette, group.heads * LEAST_SQUEEZE_ML) : 0;
  const groupMl = palette + need.batch;
  const said = lesson.kit?.sharing?.find(({ tubeId }) => tubeId === tube.id)?.how;
  // A tube that goes into batches alone lies with who mixes them.
  const usual: Sharing = palette > 0 && (isWhite(tube) || need.head > ROUND_UNDER_ML) ? 'a-table' : 'handed-round';
  const sharing = said ?? usual;
  const places = placesFor(sharing, group);
  const sharedBy = group.heads / places;
  const stockMl = studio.stock.filter(({ paint }) => paint === paintKey(tube)).reduce((sum, one) => sum + one.ml, 0);
  const sureMl = groupMl * (1 + reserveShare(sharedBy));
  const { sizes, isPriced } = sizesOf(tube, studio);
  const isSure = lesson.kit?.buys === 'sure';
  const needFor = (at: number) => Math.max(0, groupMl * (isSure ? 1 + reserveShare(group.heads / at) : 1) - stockMl);
  const buyFor = (how: Sharing): Packed => {
    const at = placesFor(how, group);
    const packed = packTubes(needFor(at), sizes, at);
    // What is left is what a usual class leaves, the reserve with it.
    return { ...packed, leftMl: packed.leftMl + needFor(at) - Math.max(0, groupMl - stockMl) };
  };
  const buy = buyFor(sharing);
  const cheapest = sizes.reduce((best, one) => (one.priceMinor / one.ml < best.priceMinor / best.ml ? one : best));
  return {
    tube,
    key: paintKey(tube),
    name: shortTubeName(tube),
    headMl: need.head,
    groupMl,
    sureMl,
    stockMl,
    needMl: needFor(places),
    sharing,
    places,
    sizes,
    isPriced,
    buy,
    others: ways.filter((how) => how !== sharing).map((how) => ({ sharing: how, buy: buyFor(how) })),
    more: isPriced ? worthMore(buy, sizes, places) : null,
    usedMinor: isPriced ? costOf(Math.round(groupMl * 100), cheapest) : null,
  };
}

/** Of how many classes in ten so much paint would not be enough, to the next one; for a tube that so many share. */
export function runsOutOfTen(haveMl: number, groupMl: number, sharedBy: number): number {
  const spread = reserveShare(sharedBy) / NINE_IN_TEN;
  const z = (haveMl * TUBE_YIELD - groupMl) / (groupMl * spread);
  // Abramowitz and Stegun 26.2.17.
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const tail =
    (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return Math.round(10 * (z > 0 ? tail : 1 - tail));
}

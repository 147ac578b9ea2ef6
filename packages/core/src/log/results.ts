import type { Lesson, LoggedResult, NewResult } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { drawsLines } from '../derived/index.js';
import type { DrawingCheck } from '../transfer/index.js';
import { counted, the } from '../units/index.js';
import { median } from './spread.js';
import type { Logged, Suggestion } from './suggestion.js';

/** Of fewer photographs nothing is told: it would be of single people. */
const LEAST_PHOTOS = 5;
const LEAST_SHARE = 0.7;
const LEAST_CHANCE = 0.05;
const LEAST = { dL: 4, share: 0.03 } as const;
/** Lightness of one step of a scale of ten values. */
const VALUE_STEP = 10;

/** How a group’s canvases differ from the picture in one respect: the median, how many of so many lie on its side, and whether that is chance. */
export type GroupOff = {
  id: string;
  name: string;
  of: 'value' | Way;
  median: number;
  count: number;
  photos: number;
  isClear: boolean;
};
const ways = ['wide', 'high', 'offX', 'offY'] as const;
type Way = (typeof ways)[number];

const thousandth = (value: number): number => Math.round(value * 1000) / 1000;
/** Of a canvas so much of the picture’s lines is seen; less is another picture, or its corners are wrong (measured on painted stages). */
const LEAST_SEEN = 0.5;

/** Whether a compared photograph shows this picture at all. */
export const showsPicture = ({ things, notFound, seenShare }: Pick<DrawingCheck, 'things' | 'notFound' | 'seenShare'>): boolean =>
  seenShare >= LEAST_SEEN && things.length >= notFound.length;

/** What a compared photograph of a finished canvas differs in, as it is kept: numbers alone, and of things that lie within it. */
export const resultOf = ({ areas, things }: Pick<DrawingCheck, 'areas' | 'things'>, widthMm: number): NewResult => ({
  areas: areas.map(({ areaId, name, dL, da, db }) => {
    const [l = 0, a = 0, b = 0] = [dL, da, db].map((value) => Math.round(value * 10) / 10);
    return { areaId, name, dL: l, da: a, db: b };
  }),
  things: things
    .filter(({ atEdge }) => !atEdge)
    .map(({ id, name, widthShare, heightShare, offMm: [x, y] }) => ({
      ...{ id, name, wide: thousandth(widthShare), high: thousandth(heightShare) },
      ...{ offX: thousandth(x / widthMm), offY: thousandth(y / widthMm) },
    })),
});

/** Chance that at least `count` of `of` lie on one side where either is as likely. Source: the sign test (Conover, Practical Nonparametric Statistics, 3.4). */
export function signChance(count: number, of: number): number {
  let [term, sum] = [0.5 ** of, 0];
  for (let k = 0; k <= of; k++) {
    if (k >= count) sum += term;
    term *= (of - k) / (k + 1);
  }
  return sum;
}

function offOf(id: string, name: string, of: GroupOff['of'], values: readonly number[]): GroupOff | null {
  if (values.length < LEAST_PHOTOS) return null;
  const middle = median(values);
  const count = values.filter((value) => Math.sign(value) === Math.sign(middle) && value !== 0).length;
  const isClear =
    count / values.length >= LEAST_SHARE &&
    signChance(count, values.length) < LEAST_CHANCE &&
    Math.abs(middle) >= (of === 'value' ? LEAST.dL : LEAST.share);
  return { id, name, of, median: middle, count, photos: values.length, isClear };
}

/** What a group as a whole painted otherwise than the picture: medians over all its photographs, what is farthest off first; none from fewer than five. */
export function groupResults(results: readonly LoggedResult[]): GroupOff[] {
  const values = new Map<string, { id: string; name: string; of: GroupOff['of']; all: number[] }>();
  const add = (id: string, name: string, of: GroupOff['of'], value: number) => {
    const key = `${of} ${id}`;
    const one = values.get(key) ?? { id, name, of, all: [] };
    one.all.push(value);
    values.set(key, one);
  };
  for (const { areas, things } of results) {
    for (const { areaId, name, dL } of areas) add(areaId, name, 'value', dL);
    for (const { id, name, wide, high, offX, offY } of things) {
      add(id, name, 'wide', wide - 1);
      add(id, name, 'high', high - 1);
      add(id, name, 'offX', offX);
      add(id, name, 'offY', offY);
    }
  }
  const weight = ({ of, median: value }: GroupOff) => Math.abs(value) / (of === 'value' ? LEAST.dL : LEAST.share);
  return [...values.values()]
    .flatMap(({ id, name, of, all }) => offOf(id, name, of, all) ?? [])
    .sort((a, b) => weight(b) - weight(a));
}

/** How a group is off, as a sentence: "9 of 12 painted the ridge too dark, by half a step of value". */
export function offInWords({ name, of, median: value, count, photos }: GroupOff): string {
  if (of === 'value') {
    const steps = Math.max(0.5, Math.round((Math.abs(value) / VALUE_STEP) * 2) / 2);
    const said = steps === 0.5 ? say('half a step of value') : counted(steps, 'step of value', 'steps of value');
    return value < 0
      ? say`${count} of ${photos} have ${the(name)} too dark, by about ${said}.`
      : say`${count} of ${photos} have ${the(name)} too light, by about ${said}.`;
  }
  const percent = Math.round(Math.abs(value) * 100);
  if (of === 'wide')
    return value > 0
      ? say`${count} of ${photos} have ${the(name)} too wide, by about ${percent} %.`
      : say`${count} of ${photos} have ${the(name)} too narrow, by about ${percent} %.`;
  if (of === 'high')
    return value > 0
      ? say`${count} of ${photos} have ${the(name)} too tall, by about ${percent} %.`
      : say`${count} of ${photos} have ${the(name)} too short, by about ${percent} %.`;
  if (of === 'offX')
    return value > 0
      ? say`${count} of ${photos} have ${the(name)} too far to the right, by about ${percent} % of the canvas.`
      : say`${count} of ${photos} have ${the(name)} too far to the left, by about ${percent} % of the canvas.`;
  return value > 0
    ? say`${count} of ${photos} have ${the(name)} too far down, by about ${percent} % of the canvas.`
    : say`${count} of ${photos} have ${the(name)} too far up, by about ${percent} % of the canvas.`;
}

/** What is asked at the step where it goes wrong. */
function askedThen({ name, of, median: value }: GroupOff): string {
  if (of === 'value')
    return value < 0
      ? say`Squint, and hold something white beside ${the(name)}: it is lighter than one thinks.`
      : say`Squint, and hold something black beside ${the(name)}: it is darker than one thinks.`;
  if (of === 'wide' || of === 'high')
    return say`Measure ${the(name)} with the brush handle: how often does its width go into its height?`;
  return say`Look from ${the(name)} to the edges of the canvas: is it as far from them as in the picture?`;
}

/** What a group’s canvases suggest: a checkpoint at the step where what most of them have otherwise is painted or drawn. */
export function resultSuggestions(lesson: Lesson, own: readonly Logged[]): Suggestion[] {
  const results = own.flatMap(({ log }) => log.results ?? []);
  return groupResults(results).flatMap((off): Suggestion[] => {
    if (!off.isClear) return [];
    const areaIds = lesson.areas.filter((area) => area.id === off.id || area.thingId === off.id).map(({ id }) => id);
    const painting = lesson.steps.filter((step) => step.kind === 'paint' && step.areaIds.some((id) => areaIds.includes(id)));
    const step = off.of === 'value' ? painting.at(-1) : (lesson.steps.find(drawsLines) ?? painting[0]);
    const asked = askedThen(off);
    if (!step || step.checkpoint.includes(asked)) return [];
    return [
      {
        key: `result ${off.of} ${off.id}`,
        words: offInWords(off),
        evidence: say`The middle one of ${off.photos} photographs of finished canvases. At “${step.title}” it would be asked: ${asked}`,
        weight: off.photos,
        minutes: 0,
        edit: {
          command: 'editStep',
          args: { id: step.id, step: { checkpoint: [step.checkpoint, asked].filter(Boolean).join(' ').slice(0, 20_000) } },
        },
      },
    ];
  });
}

import { type CourseKit, type CourseLine, type Lesson, type Studio, say, shelves, type Tube } from '@viaticum/contract';
import { planOf } from '../plan/index.js';
import { countedThing, tubesInWords } from './bring.js';
import { packTubes } from './packing.js';
import { type KitTube, kitPaint, reserveShare, sizesOf } from './paint.js';
import { groupOf } from './parts.js';
import { kitBrushes, kitThings } from './things.js';

/** What is used up by a lesson, so that each brings its own; everything else serves the next lesson as well. */
const usedUp = (key: string): boolean =>
  /^(support|prints|towels|margin-tape|drawing-tape|transfer-paper|water|glazing-medium|gel|retarder)\b/.test(key);

type Needed = { line: Omit<CourseLine, 'amount' | 'of'>; count: number; of: number[] };

/**
 * What a course needs, a line each in the order of a shop's shelves: paint of all its lessons together, bought in as few tubes as it
 * takes and less what the studio has; brushes and tools as many as the lesson that needs most of them; canvases, prints and whatever
 * else is used up for every lesson.
 */
export function courseKit(lessons: readonly Lesson[], studio: Studio): CourseKit {
  const needed = new Map<string, Needed>();
  const tubes = new Map<string, { tube: Tube; name: string; ml: number; stockMl: number; places: number; of: number[] }>();
  const need = (key: string, line: Omit<CourseLine, 'amount' | 'of' | 'key'>, count: number, lesson: number, sums: boolean) => {
    const there = needed.get(key);
    if (!there) needed.set(key, { line: { key, ...line }, count, of: [lesson] });
    else {
      there.count = sums ? there.count + count : Math.max(there.count, count);
      if (there.of.at(-1) !== lesson) there.of.push(lesson);
    }
  };
  lessons.forEach((lesson, at) => {
    const planned = planOf(lesson);
    for (const one of kitPaint(lesson, planned.plan, studio).tubes) {
      const ml = needOf(lesson, one);
      const there = tubes.get(one.key);
      if (there) {
        there.ml += ml;
        there.places = Math.max(there.places, one.places);
        there.of.push(at);
      } else tubes.set(one.key, { tube: one.tube, name: one.name, ml, stockMl: one.stockMl, places: one.places, of: [at] });
    }
    for (const { brush, name, metric, count } of kitBrushes(lesson, planned).brushes)
      need(
        say`brush ${brush.id}`,
        { shelf: 'brushes', name: lesson.units === 'cm' ? metric : name, costMinor: null },
        count,
        at,
        false,
      );
    for (const { key, name, shelf, count, extraId } of kitThings(lesson, planned, studio.sinks)) {
      // What a lesson adds by hand is the same thing under the same name; canvases are told apart by their size.
      const same = extraId || key.startsWith('support') ? `${key.split(' ')[0]} ${name}` : key;
      need(same, { shelf, name, costMinor: null }, count, at, usedUp(key));
    }
  });
  const paint = [...tubes].map(([key, { tube, name, ml, stockMl, places, of }]): CourseLine => {
    const { sizes, isPriced } = sizesOf(tube, studio);
    const buy = packTubes(Math.max(0, ml - stockMl), sizes, places);
    return {
      ...{ key: `paint ${key}`, shelf: 'paint', name, amount: tubesInWords(buy.sizes), of },
      costMinor: isPriced ? buy.costMinor : null,
    };
  });
  const things = [...needed.values()].map(({ line, count, of }): CourseLine => ({ ...line, amount: `${count}`, of }));
  const lines = [...paint, ...things].sort((one, other) => shelves.indexOf(one.shelf) - shelves.indexOf(other.shelf));
  return {
    heads: Math.max(0, ...lessons.map((lesson) => groupOf(lesson).heads)),
    currency: studio.currency,
    lines,
    costMinor: lines.reduce((sum, { costMinor }) => sum + (costMinor ?? 0), 0),
    unpriced: paint.filter(({ costMinor }) => costMinor === null).length,
  };
}

/** What a group uses of a tube, ml, with the reserve where the lesson buys to be sure. */
const needOf = (lesson: Lesson, { groupMl, places }: KitTube): number =>
  groupMl * (lesson.kit?.buys === 'sure' ? 1 + reserveShare(groupOf(lesson).heads / places) : 1);

/** A line of a course as it is said: "13 × 2 in flat", "150 + 2 × 75 ml of titanium white". */
export const courseLineInWords = ({ shelf, name, amount }: CourseLine): string =>
  shelf === 'paint' ? `${name}, ${amount}` : countedThing({ shelf, name }, amount);

import { type Bringer, type Lesson, newStudio, numberSaid, type Shelf, say, shelves } from '@viaticum/contract';
import { bringInWords } from '../derived/index.js';
import { type LessonPlan, planOf } from '../plan/index.js';
import { tubeSize, volumeInWords, volumeUnit } from '../units/index.js';
import { cautionsFor } from './cautions.js';
import { type KitPaint, kitPaint } from './paint.js';
import { bringerOf, type KitBrush, kitBrushes, kitThings } from './things.js';

/** A line of a list: what, how many, who brings it, and what it costs where that is known. */
export type KitLine = {
  key: string;
  /** What it is in every lesson: by this a student has it. */
  own: string;
  shelf: Shelf;
  name: string;
  /** "2 × 75 ml", "13", "6 sheets". */
  amount: string;
  /** For one painter; null for what is the group's. */
  each: string | null;
  by: Bringer;
  costMinor: number | null;
  note?: string;
};

/** "150 + 2 × 75 ml". */
export function tubesInWords(sizes: readonly number[]): string {
  const counts = new Map<number, number>();
  for (const ml of sizes) counts.set(ml, (counts.get(ml) ?? 0) + 1);
  const parts = [...counts].map(([ml, count]) =>
    count > 1 ? `${count} × ${numberSaid(tubeSize(ml))}` : numberSaid(tubeSize(ml)),
  );
  return parts.length > 0 ? `${parts.join(' + ')} ${volumeUnit()}` : say('in the cupboard');
}
const FOR_TWO = () => say('one for two');
/** "13 × 2 in flat", "26 water pots of 0.3 l", "apron": so many of a thing. */
export function countedThing({ shelf, name }: Pick<KitLine, 'shelf' | 'name'>, amount: string): string {
  if (amount === '1') return name;
  if (amount === FOR_TWO()) return `${name}, ${FOR_TWO()}`;
  return shelf === 'brushes' && /^\d+$/.test(amount) ? `${amount} × ${name}` : `${amount} ${name}`;
}
/** A volume of paint as its reader measures. */
export const mlInWords = volumeInWords;

/** All that a lesson needs, a line each, in the order of a shop's shelves. */
export function kitLines(lesson: Lesson, plan: LessonPlan, paint: KitPaint, sinks = 1): KitLine[] {
  const tubes = paint.tubes.map(
    (one): KitLine => ({
      key: `tube ${one.tube.id}`,
      own: say`paint ${one.key}`,
      shelf: 'paint',
      name: one.name,
      amount: tubesInWords(one.buy.sizes),
      each: mlInWords(one.headMl),
      by: bringerOf(lesson, say`tube ${one.tube.id}`),
      costMinor: one.isPriced ? one.buy.costMinor : null,
      ...(one.tube.grade === 'student' && { note: say('student grade') }),
    }),
  );
  const brushes = kitBrushes(lesson, plan).brushes.map(
    (one): KitLine => ({
      key: `brush ${one.brush.id}`,
      own: say`brush ${one.brush.id}`,
      shelf: 'brushes',
      name: lesson.units === 'cm' ? one.metric : one.name,
      amount: `${one.count}`,
      each: one.isShared ? FOR_TWO() : `${one.perHead}`,
      by: bringerOf(lesson, say`brush ${one.brush.id}`),
      costMinor: null,
      ...notedBrush(one),
    }),
  );
  const things = kitThings(lesson, plan, sinks).map(
    (one): KitLine => ({
      key: one.key,
      own: one.key,
      shelf: one.shelf,
      name: one.name,
      amount: `${one.count}`,
      each: one.perHead === null ? null : `${one.perHead}`,
      by: bringerOf(lesson, one.key),
      costMinor: null,
      ...(one.note && { note: one.note }),
    }),
  );
  const rank = new Map(shelves.map((shelf, i) => [shelf, i]));
  return [...tubes, ...brushes, ...things].sort((one, other) => (rank.get(one.shelf) ?? 0) - (rank.get(other.shelf) ?? 0));
}

const notedBrush = ({ substitutes, onlyFor }: KitBrush): { note?: string } => {
  const notes = [
    onlyFor.length > 0 && say`for ${onlyFor.join(', ')}`,
    substitutes.length > 0 && say`or ${substitutes.join(', ')}`,
  ].filter(Boolean);
  return notes.length > 0 ? { note: notes.join('; ') } : {};
};

/** What the studio buys or lays out: what students are not to bring, and what is nobody's own. */
export const studioLines = (lines: readonly KitLine[]): KitLine[] =>
  lines.filter(({ by, each }) => by !== 'student' || each === null);

/** What one student brings: what is theirs to bring and not at hand with them. */
export const studentLines = (lines: readonly KitLine[], has: ReadonlySet<string> = new Set()): KitLine[] =>
  lines.filter(({ by, each, own }) => by === 'student' && each !== null && !has.has(own));

/** A letter to one student: only what they lack, in the order of a shop's shelves, and what not to buy. Plain text. */
export function letterFor(
  lesson: Lesson,
  lines: readonly KitLine[],
  { firstName, has = new Set() }: { firstName: string; has?: ReadonlySet<string> },
): string {
  const own = studentLines(lines, has);
  const there = lines.filter(({ by, shelf }) => by === 'studio' && (shelf === 'paint' || shelf === 'brushes'));
  const list = own.map((line) => `– ${countedThing(line, line.each ?? '')}${line.note ? ` (${line.note})` : ''}`);
  return [
    say`Dear ${firstName},`,
    '',
    own.length > 0
      ? say`For “${lesson.title}” please bring:`
      : say`For “${lesson.title}” you need to bring nothing: all is there.`,
    ...list,
    '',
    ...(there.length > 0 ? [say`You need not buy: ${there.map(({ name }) => name).join(', ')}. It is there for all.`, ''] : []),
    say('Old clothes are a good idea: acrylic paint does not wash out once it is dry.'),
    ...cautionsFor(lesson).flatMap(({ on, words }) => (on.includes('letter') ? [words] : [])),
  ].join('\n');
}

/** What a student brings who has some things already, a line each, as an invitation says it; where the lesson does not say who brings what, its tubes and brushes. */
export function bringFor(lesson: Lesson, has: ReadonlySet<string> = new Set()): string {
  if (lesson.kit?.by === undefined && lesson.kit?.who === undefined) return bringInWords(lesson);
  const planned = planOf(lesson);
  const own = studentLines(kitLines(lesson, planned, kitPaint(lesson, planned.plan, newStudio)), has);
  if (own.length === 0) return say('Bring: old clothes. Everything else is there.');
  return `Bring:\n${own.map((line) => `– ${countedThing(line, line.each ?? '')}`).join('\n')}`;
}

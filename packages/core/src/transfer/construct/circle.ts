import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { circleDivision, minus, type Point, plus, times } from '../../geometry/index.js';
import { listInWords } from '../../units/index.js';
import { ellipseCurve, line, measured, said, saidAlong, type Working } from './tools.js';

type Circle = { at: Point; radiusMm: number; parts: number; startDeg: number };
const TURN = 360;
/** A strip that comes out by less than this meets its beginning for every hand, mm. */
const MEETS_MM = 1;
const radians = (deg: number): number => (deg * Math.PI) / 180;
const chord = (radiusMm: number, deg: number): number => 2 * radiusMm * Math.sin(radians(Math.abs(deg)) / 2);

/** The points that divide a circle, from `startDeg` on clockwise as the canvas is seen (0 to the right). */
export function dividedCircle({ at, radiusMm, parts, startDeg }: Circle): Point[] {
  const start = radians(startDeg);
  return circleDivision(radiusMm, parts).points.map(
    ([x, y]): Point => plus(at, [x * Math.cos(start) - y * Math.sin(start), x * Math.sin(start) + y * Math.cos(start)]),
  );
}

/** The ends of a level and an upright line through the middle, by the angle at which they lie. */
const ends = [
  { deg: 0, name: () => say('the right end'), before: () => say('upwards'), after: () => say('downwards') },
  { deg: 90, name: () => say('the bottom end'), before: () => say('to the right'), after: () => say('to the left') },
  { deg: 180, name: () => say('the left end'), before: () => say('downwards'), after: () => say('upwards') },
  { deg: 270, name: () => say('the top end'), before: () => say('to the left'), after: () => say('to the right') },
] as const;

/**
 * Where the points of a divided circle are found from the four ends of a cross through its middle: chords of at most 45°, so that what a ruler
 * rounds is nowhere more than a mark of it and never adds up. In mm as measured, below 0 against the clock.
 */
export function fromCross(
  lesson: Pick<Lesson, 'units'>,
  { radiusMm, parts, startDeg }: Circle,
): { end: number; chordsMm: number[] }[] {
  const drawn = measured(lesson, radiusMm);
  const found = ends.map((_, end) => ({ end, chordsMm: [] as number[] }));
  for (let i = 0; i < parts; i++) {
    const deg = (((startDeg + (i * TURN) / parts) % TURN) + TURN) % TURN;
    const end = Math.round(deg / 90) % 4;
    const off = ((deg - end * 90 + 540) % TURN) - 180;
    found[end]?.chordsMm.push(Math.sign(off) * measured(lesson, chord(drawn, off)));
  }
  return found.map(({ end, chordsMm }) => ({ end, chordsMm: chordsMm.sort((a, b) => a - b) }));
}

/** How a circle is drawn and divided by hand, with this canvas's numbers. */
export function dividingWords(lesson: Lesson, circle: Circle): string[] {
  const { at, radiusMm, parts } = circle;
  const how = [
    say`Mark the middle ${said(lesson, at[0])} from the left and ${said(lesson, at[1])} from the top. Draw the circle with a string ${said(lesson, radiusMm)} long, a pencil at its end.`,
  ];
  const drawn = measured(lesson, radiusMm);
  const step = measured(lesson, chord(radiusMm, TURN / parts));
  if (parts === 6) {
    how.push(say`Step the same string round the circle: it divides it in exactly 6.`);
    return how;
  }
  how.push(say('Draw a level and an upright line through the middle: a cross with four ends on the circle.'));
  const told = fromCross(lesson, circle).flatMap(({ end, chordsMm }) => {
    const { name, before, after } = ends[end] as (typeof ends)[number];
    const [against, along] = [chordsMm.filter((mm) => mm < 0).map((mm) => -mm), chordsMm.filter((mm) => mm > 0)];
    const ways = [
      ...(chordsMm.includes(0) ? [say('at the end itself')] : []),
      ...(against.length > 0 ? [say`${saidAlong(lesson, against.reverse())} ${before()}`] : []),
      ...(along.length > 0 ? [say`${saidAlong(lesson, along)} ${after()}`] : []),
    ];
    return ways.length > 0 ? [say`from ${name()}: ${listInWords(ways)}`] : [];
  });
  how.push(say`Mark on the circle, measured straight with the ruler, ${told.join('; ')}.`);
  how.push(stripWords(lesson, drawn, parts, step));
  return how;
}

/** What stepping a strip round comes to, when it is as long as a ruler has it. */
function stripWords(lesson: Lesson, radiusMm: number, parts: number, stepMm: number): string {
  const stepDeg = (2 * Math.asin(Math.min(1, stepMm / (2 * radiusMm))) * 180) / Math.PI;
  const offMm = radians(parts * stepDeg - TURN) * radiusMm;
  const strip = say`Or set a strip of paper to ${said(lesson, stepMm)} and step it round ${parts} times`;
  if (Math.abs(offMm) < MEETS_MM) return say`${strip}: it meets its beginning.`;
  const off = said(lesson, Math.abs(offMm));
  return offMm > 0
    ? say`${strip}: together that is ${off} too long, so take a hair less each time.`
    : say`${strip}: together that is ${off} too short, so take a hair more each time.`;
}

export const radial: Working<'radial'> = (lesson, { at, radiusMm, parts, startDeg, rings }, out) => {
  const placed = dividedCircle({ at, radiusMm, parts, startDeg });
  for (const share of [1, ...rings]) out.lines.push(ellipseCurve(at, radiusMm * share, radiusMm * share));
  for (const [i, p] of placed.entries()) {
    out.lines.push(line(at, p));
    out.labels.push({ at: plus(at, times(minus(p, at), 1.06)), text: String(i + 1) });
  }
  const { chordMm } = circleDivision(radiusMm, parts);
  out.how.push(
    ...dividingWords(lesson, { at, radiusMm, parts, startDeg }),
    say`The unit repeated between two spokes is ${said(lesson, chordMm)} wide at the rim: a lid ${said(lesson, chordMm)} across, set on every mark, touches its neighbours.`,
  );
  if (rings.length > 0)
    out.how.push(
      say`Rings at ${listInWords(rings.map((share) => said(lesson, radiusMm * share)))} from the middle, with the same string shortened.`,
    );
};

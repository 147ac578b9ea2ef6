import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { common, offset, outlineArea, united } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { between, distance, type Point } from '../../geometry/index.js';
import { called } from '../../units/index.js';
import { envelope } from './envelope.js';
import { gapBetween } from './gaps.js';
import { degrees, line, said, type Working, wayOf } from './tools.js';

export const envelopeOf: Working<'envelope'> = (lesson, { areaIds, shadowIds, sides, thinMm }, out) => {
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.outline]));
  const group = (ids: readonly string[]) => ids.flatMap((id) => (parts.get(id)?.length ? [parts.get(id) as never] : []));
  const whole = group(areaIds).length > 0 ? envelope(group(areaIds), sides, thinMm) : null;
  const main = whole && { ...whole, points: onCanvas(lesson, whole.points) };
  if (!main) throw new RangeError(say('Nothing of these areas is seen. Choose others.'));
  const closed = (points: Point[]) => line(...points, points[0] as Point);
  out.lines.push(closed(main.points));
  const shadow = group(shadowIds).length > 0 ? envelope(group(shadowIds), sides, thinMm) : null;
  if (shadow) out.second.push(closed(shadow.points));
  main.points.forEach((p, i) => {
    const next = main.points[(i + 1) % main.points.length] as Point;
    out.labels.push({ at: between(p, next, 0.5), text: said(lesson, distance(p, next)) });
  });
  out.how.push(
    say`Mark the corners, each by the ruler from the edges of the canvas: ${main.points
      .map(([x, y], i) => say`${i + 1}: ${said(lesson, x)} from the left, ${said(lesson, y)} from the top`)
      .join('; ')}. Join them.`,
    say`By eye, from corner to corner: ${main.points
      .map((p, i) => {
        const next = main.points[(i + 1) % main.points.length] as Point;
        return `${said(lesson, distance(p, next))} ${wayOf(p, next)}`;
      })
      .join('; ')}.`,
    ...main.wedges.map(
      (one) =>
        say`The gap ${wherein(lesson, one.deepest)} opens by ${degrees(one.angleDeg)}; its sides are ${said(lesson, one.sidesMm[0])} and ${said(lesson, one.sidesMm[1])}. Draw the gap, not the thing.`,
    ),
  );
  out.how.push(...gapWords(lesson, main.parts, areaIds), ...checkWords(main.points));
  if (shadow) out.how.push(say('The cast shadows are a second group, drawn dashed.'));
};
function wherein({ support }: Lesson, [x, y]: Point): string {
  const across =
    x < support.widthMm / 3 ? say('on the left') : x > (support.widthMm * 2) / 3 ? say('on the right') : say('in the middle');
  const down = y < support.heightMm / 3 ? say('high up') : y > (support.heightMm * 2) / 3 ? say('low down') : say('half-way up');
  return `${across}, ${down}`;
}

/** What of a ring lies on the canvas: a corner beyond it cannot be marked. */
function onCanvas({ support: { widthMm: w, heightMm: h } }: Lesson, points: Point[]): Point[] {
  if (points.every(([x, y]) => x >= 0 && y >= 0 && x <= w && y <= h)) return points;
  const [polygon] = common(
    [[points]],
    [
      [
        [
          [0, 0],
          [w, 0],
          [w, h],
          [0, h],
        ],
      ],
    ],
  );
  return (polygon?.[0] as Point[] | undefined) ?? points;
}

type Named = { name: string; points: Point[] };
const spanOf = (points: readonly Point[], axis: 0 | 1): number =>
  Math.max(...points.map((p) => p[axis])) - Math.min(...points.map((p) => p[axis]));
const middleOf = (points: readonly Point[]): Point => [
  (Math.max(...points.map(([x]) => x)) + Math.min(...points.map(([x]) => x))) / 2,
  (Math.max(...points.map(([, y]) => y)) + Math.min(...points.map(([, y]) => y))) / 2,
];

/** What is nearer to each other than this is one thing to the eye: a mug and its handle, mm. */
const NEAR_MM = 5;
/** Smaller than this share of the largest it is a crumb. */
const LEAST_PART = 0.12;

/** What lies apart, from left to right, each under the name of the area that most of it is. */
function named(lesson: Lesson, parts: readonly Point[][], areaIds: readonly string[]): Named[] {
  const seen = visibleOf(lesson).filter(({ id }) => areaIds.includes(id));
  // Grown until what is near runs together, and back.
  const grown = offset(
    offset(
      united(
        parts.map((ring) => [ring]),
        [],
      ),
      NEAR_MM / 2,
    ),
    -NEAR_MM / 2,
  );
  const rims = grown.map(([rim]) => rim as Point[]);
  const largest = Math.max(...rims.map((rim) => outlineArea([[rim]])));
  return rims
    .filter((rim) => outlineArea([[rim]]) >= LEAST_PART * largest)
    .map((points) => {
      const shared = seen
        .map(({ id, outline }) => ({ id, area: outlineArea(common(outline, [[points]])) }))
        .sort((a, b) => b.area - a.area)[0];
      return { name: lesson.areas.find(({ id }) => id === shared?.id)?.name ?? '', points };
    })
    .sort((a, b) => middleOf(a.points)[0] - middleOf(b.points)[0]);
}

/** A narrower gap is drawn as a line. */
const LEAST_GAP_MM = 3;

/** Ratios that are told, with a tolerance of a twentieth. */
const ratios = [
  { of: 1, words: (gap: string, thing: string, way: string) => say`${gap} as wide as ${thing} is ${way}` },
  { of: 0.5, words: (gap: string, thing: string, way: string) => say`${gap} half as wide as ${thing} is ${way}` },
  { of: 2, words: (gap: string, thing: string, way: string) => say`${gap} twice as wide as ${thing} is ${way}` },
] as const;
const ALIKE = 0.05;

/** The gaps between things that lie apart, from left to right, and how far they hold the things by themselves. */
function gapWords(lesson: Lesson, parts: readonly Point[][], areaIds: readonly string[]): string[] {
  const things = named(lesson, parts, areaIds);
  return things.slice(1).flatMap((other, i): string[] => {
    const one = things[i] as Named;
    const gap = gapBetween(one.points, other.points);
    if (!gap || gap.narrowestMm < LEAST_GAP_MM) return [];
    const sides = !gap.sides
      ? say('a tip faces it')
      : gap.meets
        ? say`its sides open by ${degrees(gap.angleDeg)} and would meet ${meetingWords(lesson, gap.meets)}`
        : say('its sides run side by side');
    const narrow = gap.narrowestMm;
    const like = [one, other].flatMap((thing) =>
      ([0, 1] as const).flatMap((axis) =>
        ratios.flatMap(({ of, words }) =>
          Math.abs(narrow / (of * spanOf(thing.points, axis)) - 1) < ALIKE
            ? [words(say('At its narrow end it is'), called(thing.name), axis === 0 ? say('wide') : say('high'))]
            : [],
        ),
      ),
    );
    return [
      one.name === other.name
        ? say`The gap between two of ${called(one.name)} is ${said(lesson, narrow)} at its narrowest; ${sides}. Draw the gap, not the things.`
        : say`The gap between ${called(one.name)} and ${called(other.name)} is ${said(lesson, narrow)} at its narrowest; ${sides}. Draw the gap, not the things.`,
      ...like.slice(0, 1).map((words) => `${words}.`),
    ];
  });
}
const meetingWords = (lesson: Lesson, [x, y]: Point): string =>
  y > lesson.support.heightMm || y < 0 || x < 0 || x > lesson.support.widthMm
    ? say('off the canvas')
    : say`${said(lesson, x)} from the left and ${said(lesson, y)} from the top`;

/** Corners that stand plumb or level to each other within this share of the whole. */
const PLUMB = 0.015;
const MOST_CHECKS = 5;

/** How an envelope is checked with a pencil held upright, level, and at arm’s length. */
function checkWords(points: readonly Point[]): string[] {
  const [wide, high] = [spanOf(points, 0), spanOf(points, 1)];
  const near = PLUMB * Math.max(wide, high);
  const found: string[] = [];
  for (const [i, p] of points.entries())
    for (const [k, q] of points.entries()) {
      if (Math.abs(p[0] - q[0]) < near && p[1] < q[1]) found.push(say`corner ${i + 1} stands plumb over corner ${k + 1}`);
      if (Math.abs(p[1] - q[1]) < near && p[0] < q[0]) found.push(say`corner ${i + 1} lies level with corner ${k + 1}`);
    }
  // Where nothing is plumb by itself, a corner falls somewhere on the side beneath or above it.
  const n = points.length;
  for (const [i, p] of points.entries())
    for (let k = 0; k < n; k++) {
      const [a, b] = [points[k], points[(k + 1) % n]] as [Point, Point];
      if (k === i || (k + 1) % n === i || Math.abs(b[0] - a[0]) < near) continue;
      const t = (p[0] - a[0]) / (b[0] - a[0]);
      const share = [1 / 3, 1 / 2, 2 / 3].findIndex((at) => Math.abs(t - at) < 0.03);
      if (share >= 0)
        found.push(
          say`plumb from corner ${i + 1} lies ${[say('a third'), say('the middle'), say('two thirds')][share] as string} of the side from ${k + 1} to ${((k + 1) % n) + 1}`,
        );
    }
  const checks = found.slice(0, MOST_CHECKS);
  const [long, short] = wide >= high ? [wide, high] : [high, wide];
  const times = Math.round((long / short) * 4) / 4;
  return [
    ...(checks.length > 0 ? [say`Check with the pencil held upright and level: ${checks.join('; ')}.`] : []),
    wide >= high
      ? say`At arm’s length, one eye shut: the height of the group on the pencil goes ${times} times into its width.`
      : say`At arm’s length, one eye shut: the width of the group on the pencil goes ${times} times into its height.`,
    say('Where does each corner fall on the lines of the other sides, drawn on?'),
  ];
}

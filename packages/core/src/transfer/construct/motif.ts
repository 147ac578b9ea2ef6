import type { Lesson, Mark, MotifRing } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { distance, fromSegment, type Point } from '../../geometry/index.js';
import { counted } from '../../units/index.js';
import { type Curve, flattened, straightCurve } from '../bezier.js';
import { dividingWords } from './circle.js';
import { ellipseCurve, line, type Of, said, saidAlong, type Working } from './tools.js';

type Motif = Pick<Of<'motif'>, 'at' | 'parts' | 'startDeg' | 'rings'>;
const TURN = 360;
/** Ticks across a spoke at every distance, so that they can be transferred. */
const TICK_MM = 4;
const FINE_MM = 0.25;
/** Nearer than this neighbours touch, for the eye and for wet paint. */
const TOUCH_MM = 1;
const SPIRAL_TURNS = 1.75;
const SPIRAL_POINTS = 48;
const DOTS = 5;

/** A unit by itself: along its spoke from 0 to 1, across it from −1 to 1. Cubic curves. */
function unitCurves({ unit, dots = DOTS, own }: MotifRing, lengthMm: number, widthMm: number): Curve[] {
  const mirrored = (half: Point[]): Point[] => [...half.slice(0, -1)].reverse().map(([x, y]): Point => [x, -y]);
  const closed = (half: Point[]): Curve => [...half, ...mirrored(half)];
  switch (unit) {
    case 'leaf':
      // A cubic with both handles at 4/3 of its height is as high as that in its middle.
      return [
        closed([
          [0, 0],
          [0.3, 4 / 3],
          [0.7, 4 / 3],
          [1, 0],
        ]),
      ];
    case 'drop':
      return [
        closed([
          [0, 0],
          [0.3, 0.25],
          [0.52, 1],
          [0.75, 1],
          [0.9, 1],
          [1, 0.55],
          [1, 0],
        ]),
      ];
    case 'v':
      return [
        straightCurve([
          [1, -1],
          [0, 0],
          [1, 1],
        ]),
      ];
    case 'arc':
      return [
        [
          [0, -1],
          [4 / 3, -0.62],
          [4 / 3, 0.62],
          [0, 1],
        ],
      ];
    case 'spiral':
      return [
        straightCurve(
          Array.from({ length: SPIRAL_POINTS + 1 }, (_, i): Point => {
            const [share, t] = [i / SPIRAL_POINTS, (2 * Math.PI * SPIRAL_TURNS * i) / SPIRAL_POINTS];
            return [0.5 - 0.5 * share * Math.cos(t), share * Math.sin(t)];
          }),
        ),
      ];
    case 'dots': {
      // Round on the canvas: along the spoke a dot takes its width's share of the length.
      const radius = Math.min(0.5, widthMm / 2 / lengthMm);
      return Array.from({ length: dots }, (_, i) => {
        const x = dots === 1 ? 0.5 : radius + (i * (1 - 2 * radius)) / (dots - 1);
        return ellipseCurve([x, 0], radius, 1);
      });
    }
    case 'own':
      return own ? [straightCurve(own.map(([x, y]): Point => [x, y]))] : [];
  }
}

/** How far round (degrees) the unit `k` of a ring stands from the first spoke's direction. */
const turnOf = ({ parts, startDeg }: Motif, ring: MotifRing, k: number): number =>
  startDeg + ((k + (ring.between ? 0.5 : 0)) * TURN) / parts;

/** The unit `k` of a ring on the canvas, mm. */
function placed(motif: Motif, ring: MotifRing, k: number): Curve[] {
  const t = (turnOf(motif, ring, k) * Math.PI) / 180;
  const length = ring.toMm - ring.fromMm;
  const flip = ring.mirrored && k % 2 === 1 ? -1 : 1;
  return unitCurves(ring, length, ring.widthMm).map((curve) =>
    curve.map(([x, y]): Point => {
      const along = ring.fromMm + (ring.turned ? 1 - x : x) * length;
      const across = (flip * y * ring.widthMm) / 2;
      return [motif.at[0] + along * Math.cos(t) - across * Math.sin(t), motif.at[1] + along * Math.sin(t) + across * Math.cos(t)];
    }),
  );
}

/** How near two units come to each other, mm; 0 where they cross or one lies in the other. */
function nearest(one: readonly Curve[], other: readonly Curve[]): number {
  const [a, b] = [one, other].map((curves) => curves.map((curve) => flattened(curve, FINE_MM))) as [Point[][], Point[][]];
  let least = Number.POSITIVE_INFINITY;
  for (const p of a)
    for (const q of b) {
      if (isClosed(p) && isInside(q[0] as Point, p)) return 0;
      if (isClosed(q) && isInside(p[0] as Point, q)) return 0;
      for (let i = 1; i < p.length; i++)
        for (let k = 1; k < q.length; k++) {
          const [s, e, u, v] = [p[i - 1], p[i], q[k - 1], q[k]] as [Point, Point, Point, Point];
          if (crosses(s, e, u, v)) return 0;
          least = Math.min(least, fromSegment(s, u, v), fromSegment(e, u, v), fromSegment(u, s, e), fromSegment(v, s, e));
        }
    }
  return least;
}
const isClosed = (ring: readonly Point[]): boolean => distance(ring[0] as Point, ring.at(-1) as Point) < 1e-6;
const side = (a: Point, b: Point, p: Point): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
const crosses = (a: Point, b: Point, c: Point, d: Point): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
function isInside([x, y]: Point, ring: readonly Point[]): boolean {
  let inside = false;
  for (let i = 0, k = ring.length - 1; i < ring.length; k = i++) {
    const [[x1, y1], [x2, y2]] = [ring[i], ring[k]] as [Point, Point];
    if (y1 > y !== y2 > y && x < ((x2 - x1) * (y - y1)) / (y2 - y1) + x1) inside = !inside;
  }
  return inside;
}

/** How near neighbours come within each ring, and each ring to the next, mm; 0 where they overlap. */
export function motifOverlaps(motif: Motif): { ring: number; withRing: number; gapMm: number }[] {
  const { rings, parts } = motif;
  const first = rings.map((ring) => placed(motif, ring, 0));
  const own = rings.map((ring, i) => ({ ring: i, withRing: i, gapMm: nearest(first[i] as Curve[], placed(motif, ring, 1)) }));
  const across = rings.slice(1).map((ring, i) => ({
    ring: i,
    withRing: i + 1,
    gapMm: Math.min(...[-1, 0, 1].map((k) => nearest(first[i] as Curve[], placed(motif, ring, (k + parts) % parts)))),
  }));
  return [...own, ...across];
}

const unitWords: Record<MotifRing['unit'], string> = worded({
  leaf: 'leaf',
  drop: 'drop',
  v: 'V',
  dots: 'row of dots',
  arc: 'arc',
  spiral: 'spiral',
  own: 'line of your own',
});

/** A unit drawn once and repeated round a centre on rings: its spokes and circles, ticks at every distance, and how it is laid out by hand. */
export const motif: Working<'motif'> = (lesson, one, out) => {
  const { at, parts, rings } = one;
  for (const [i, ring] of rings.entries())
    if (!(ring.toMm > ring.fromMm))
      throw new RangeError(say`Ring ${i + 1} ends nearer to the middle than it begins. Exchange its distances.`);
  const most = Math.max(...rings.map(({ toMm }) => toMm));
  const distances = [...new Set(rings.flatMap(({ fromMm, toMm }) => [fromMm, toMm]))]
    .filter((mm) => mm > 0)
    .sort((a, b) => a - b);
  for (let k = 0; k < parts; k++) {
    const spoke = (ring: Pick<MotifRing, 'between'> | null) => (turnOf(one, (ring ?? {}) as MotifRing, k) * Math.PI) / 180;
    const t = spoke(null);
    out.second.push(line(at, [at[0] + most * Math.cos(t), at[1] + most * Math.sin(t)]));
    out.labels.push({ at: [at[0] + (most + 6) * Math.cos(t), at[1] + (most + 6) * Math.sin(t)], text: String(k + 1) });
    for (const ring of rings)
      for (const mm of [ring.fromMm, ring.toMm]) {
        if (mm <= 0) continue;
        const u = spoke(ring);
        const [x, y] = [at[0] + mm * Math.cos(u), at[1] + mm * Math.sin(u)];
        const [dx, dy] = [(-Math.sin(u) * TICK_MM) / 2, (Math.cos(u) * TICK_MM) / 2];
        out.second.push(line([x - dx, y - dy], [x + dx, y + dy]));
      }
    for (const ring of rings) out.lines.push(...placed(one, ring, k));
  }
  for (const mm of distances) out.second.push(ellipseCurve(at, mm, mm));
  out.how.push(...dividingWords(lesson, { at, radiusMm: most, parts, startDeg: one.startDeg }));
  out.how.push(
    say`On every spoke lay the ruler's zero at the middle and mark ${saidAlong(lesson, distances)}; draw circles through the marks.`,
  );
  const { widthMm, heightMm } = lesson.support;
  const room = Math.min(at[0], at[1], widthMm - at[0], heightMm - at[1]);
  const beyond = rings.findIndex(({ toMm }) => toMm > room);
  if (beyond >= 0)
    out.how.push(
      say`Ring ${beyond + 1} runs beyond the edge of the canvas, which is ${said(lesson, Math.max(0, room))} from the middle.`,
    );
  const overlaps = motifOverlaps(one);
  for (const [i, ring] of rings.entries()) out.how.push(ringWords(lesson, one, ring, i), ...neighbourWords(lesson, overlaps, i));
  const all = rings.reduce((sum, ring) => sum + parts * (ring.unit === 'dots' ? (ring.dots ?? DOTS) : 1), 0);
  out.how.push(say`Draw each unit once on card, cut it out, and draw round it on every spoke: ${counted(all, 'unit')} in all.`);
};

function ringWords(lesson: Lesson, { parts }: Motif, ring: MotifRing, i: number): string {
  const where = ring.between ? say('between the spokes') : say('on the spokes');
  const ways = [...(ring.turned ? [say('pointing inwards')] : []), ...(ring.mirrored ? [say('every other one mirrored')] : [])];
  return [
    say`Ring ${i + 1}: ${parts} times a ${unitWords[ring.unit]}, ${said(lesson, ring.widthMm)} wide, from ${said(lesson, ring.fromMm)} to ${said(lesson, ring.toMm)}, ${where}`,
    ...ways,
  ]
    .join(', ')
    .concat('.');
}

function neighbourWords(
  lesson: Lesson,
  overlaps: readonly { ring: number; withRing: number; gapMm: number }[],
  i: number,
): string[] {
  return overlaps
    .filter(({ ring, withRing }) => ring === i && (withRing !== i || ring === i))
    .flatMap(({ withRing, gapMm }) => {
      const others = withRing === i ? say('its neighbours') : say`ring ${withRing + 1}`;
      if (gapMm === 0) return [say`They overlap ${others}: make them narrower, fewer, or move the ring.`];
      if (gapMm < TOUCH_MM) return [say`They touch ${others}.`];
      return withRing === i ? [say`They lie ${said(lesson, gapMm)} apart at their nearest.`] : [];
    });
}

/** A sector of a motif: its units on the first spoke and what stands between it and the next, within a box that begins at 0, mm. */
export function sectorOf(motif: Motif): { widthMm: number; heightMm: number; lines: Curve[]; second: Curve[] } {
  // Upright, its middle line downwards, so that it fits on a narrow sheet.
  const upright: Motif = {
    ...motif,
    at: [0, 0],
    startDeg: 90 - (motif.rings.some(({ between }) => between) ? TURN / motif.parts / 4 : 0),
  };
  const lines = motif.rings.flatMap((ring) => placed(upright, ring, 0));
  const most = Math.max(...motif.rings.map(({ toMm }) => toMm));
  const half = TURN / motif.parts;
  const rays = [0, half].map((deg) => {
    const t = ((upright.startDeg + deg) * Math.PI) / 180;
    return line([0, 0], [most * Math.cos(t), most * Math.sin(t)]);
  });
  const ticks = motif.rings.flatMap((ring) =>
    [ring.fromMm, ring.toMm].flatMap((mm) => {
      if (mm <= 0) return [];
      const t = (turnOf(upright, ring, 0) * Math.PI) / 180;
      const [dx, dy] = [(-Math.sin(t) * TICK_MM) / 2, (Math.cos(t) * TICK_MM) / 2];
      const [x, y] = [mm * Math.cos(t), mm * Math.sin(t)];
      return [line([x - dx, y - dy], [x + dx, y + dy])];
    }),
  );
  const all = [...lines, ...rays, ...ticks].flatMap((curve) => flattened(curve, FINE_MM));
  const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
  const moved = (curves: readonly Curve[]) => curves.map((curve) => curve.map(([x, y]): Point => [x - x0, y - y0]));
  return {
    widthMm: Math.max(...xs) - x0,
    heightMm: Math.max(...ys) - y0,
    lines: moved(lines),
    second: moved([...rays, ...ticks]),
  };
}

export type MotifMark = Pick<Mark, 'name' | 'kind' | 'count' | 'lengthMm' | 'widthMm' | 'taper' | 'round'>;
/** A motif as marks that are painted and counted: one kind a ring, set evenly round the middle; of a row of dots one for each distance. */
export function motifMarks(motif: Motif): MotifMark[] {
  const { at, parts } = motif;
  return motif.rings.flatMap((ring, i): MotifMark[] => {
    const turnDeg = ((turnOf(motif, ring, 0) + 540) % TURN) - 180;
    const round = (radiusMm: number) => ({ at: [...at] as Point, radiusMm: Math.max(1, radiusMm), turnDeg });
    const name = say`Ring ${i + 1}, ${unitWords[ring.unit]}`;
    const length = ring.toMm - ring.fromMm;
    if (ring.unit !== 'dots')
      return [
        {
          ...{
            name,
            kind: 'unit',
            count: parts,
            lengthMm: Math.max(0.2, length),
            widthMm: Math.min(100, ring.widthMm),
            taper: 0,
          },
          round: round((ring.fromMm + ring.toMm) / 2),
        },
      ];
    const dots = ring.dots ?? DOTS;
    return Array.from({ length: dots }, (_, k): MotifMark => {
      const share = dots === 1 ? 0.5 : (ring.widthMm / 2 + (k * (length - ring.widthMm)) / (dots - 1)) / length;
      return {
        ...{ name: dots === 1 ? name : say`${name}, dot ${k + 1}`, kind: 'dots', count: parts },
        ...{ lengthMm: ring.widthMm, widthMm: Math.min(100, ring.widthMm), taper: 0, round: round(ring.fromMm + share * length) },
      };
    });
  });
}

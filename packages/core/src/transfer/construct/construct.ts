import type { Construction, Lesson } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { outlineBox } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { alongPath, between, crossing, distance, evenlySpaced, minus, type Point, shadowTip } from '../../geometry/index.js';
import type { Curve } from '../bezier.js';
import { radial } from './circle.js';
import { ellipse } from './ellipse.js';
import { eyeOf } from './eye.js';
import { featureAxes } from './features.js';
import { grid } from './grid.js';
import { motif } from './motif.js';
import { envelopeOf } from './outer.js';
import { type SimpleShape, simpleShape } from './shapes.js';
import { type Constructed, ellipseCurve, line, said, type Working, wayOf } from './tools.js';

const shapeWords: Record<SimpleShape['kind'], string> = worded({
  circle: 'circle',
  ellipse: 'ellipse',
  square: 'square',
  rectangle: 'rectangle',
  triangle: 'triangle',
  wedge: 'wedge',
});

/** Works out a construction on a lesson's canvas. Never throws: what cannot be done is said in `fault`. */
export function construct(lesson: Lesson, one: Construction): Constructed {
  const out: Constructed = { lines: [], second: [], labels: [], how: [], fault: null };
  try {
    const work = workings[one.kind] as (lesson: Lesson, one: Construction, out: Constructed) => void;
    work(lesson, one, out);
    return out;
  } catch (error) {
    if (error instanceof RangeError) return { lines: [], second: [], labels: [], how: [], fault: error.message };
    throw error;
  }
}

const diagonals: Working<'diagonals'> = (lesson, _, out) => {
  const { widthMm: w, heightMm: h } = lesson.support;
  out.lines.push(line([0, 0], [w, h]), line([w, 0], [0, h]), line([w / 2, 0], [w / 2, h]), line([0, h / 2], [w, h / 2]));
  out.how.push(
    say`Join opposite corners; each is ${said(lesson, Math.hypot(w, h))} long. If both are equally long, the canvas is square in its corners.`,
    say`They cross in the middle: ${said(lesson, w / 2)} from the side, ${said(lesson, h / 2)} from the top. Draw the upright and the level line through it.`,
  );
};

const thirds: Working<'thirds'> = (lesson, _, out) => {
  const { widthMm: w, heightMm: h } = lesson.support;
  for (const t of [1 / 3, 2 / 3]) out.lines.push(line([w * t, 0], [w * t, h]), line([0, h * t], [w, h * t]));
  out.how.push(
    say`Mark ${said(lesson, w / 3)} and ${said(lesson, (2 * w) / 3)} along the top and bottom, ${said(lesson, h / 3)} and ${said(lesson, (2 * h) / 3)} along both sides; join them.`,
    say('Without a ruler: fold a strip of paper as long as the side in three, and mark its folds.'),
  );
};

const spacing: Working<'spacing'> = (_, { first, second, vanishing, count, heightMm, path }, out) => {
  const ratio = distance(second, vanishing) / distance(first, vanishing);
  const found = path
    ? alongPath([first, ...path.slice(1)], ratio, vanishing, count)
    : evenlySpaced(first, second, vanishing, count);
  for (const [i, { at, size }] of found.entries()) {
    out.lines.push(line(at, [at[0], at[1] - heightMm * size]));
    out.labels.push({ at: [at[0], at[1] + 3], text: String(i + 1) });
  }
  out.lines.push(
    line(...(path ? [first, ...path.slice(1)] : [first, vanishing])),
    line([first[0], first[1] - heightMm], vanishing),
  );
  const last = found.at(-1);
  out.how.push(
    say(
      'Draw the first and the second. From the head of the first draw a line through the middle of the second: where it meets the foot line, the third stands. Go on in the same way.',
    ),
    say`The second is ${Math.round(ratio * 100)} % as tall as the first, the ${ordinal(found.length)} ${Math.round((last?.size ?? 0) * 100)} %.`,
  );
  if (path) out.how.push(say('Over rising ground the feet follow the path; the sizes go by depth, not by how high they stand.'));
  if (found.length < count) out.how.push(say`Only ${found.length} of ${count} find room before the path ends.`);
};
const ordinal = (n: number): string =>
  `${n}${n % 10 === 1 && n !== 11 ? 'st' : n % 10 === 2 && n !== 12 ? 'nd' : n % 10 === 3 && n !== 13 ? 'rd' : 'th'}`;

const vanishing: Working<'vanishing'> = (lesson, { points, lines }, out) => {
  const { widthMm, heightMm } = lesson.support;
  const horizon = points.reduce((sum, [, y]) => sum + y, 0) / points.length;
  out.lines.push(line([0, points[0]?.[1] ?? horizon], [widthMm, points.at(-1)?.[1] ?? horizon]));
  for (const [n, from] of points.entries()) {
    out.labels.push({ at: from, text: points.length > 1 ? say`vanishing point ${n + 1}` : say('vanishing point') });
    for (const to of rim(widthMm, heightMm, lines)) {
      const inside = clippedTo(from, to, widthMm, heightMm);
      if (inside) out.lines.push(line(...inside));
    }
  }
  out.how.push(
    ...points.map((p) =>
      p[0] >= 0 && p[0] <= widthMm && p[1] >= 0 && p[1] <= heightMm
        ? say`A pin ${said(lesson, p[0])} from the left and ${said(lesson, p[1])} from the top; a string from it shows every edge that runs away from you.`
        : say`This point lies off the canvas, ${said(lesson, Math.abs(p[0] < 0 ? p[0] : p[0] - widthMm))} beyond its ${p[0] < 0 ? say('left') : say('right')} edge and ${said(lesson, p[1])} below the top: tape a strip to the table, a pin in it, and a string.`,
    ),
    say('Level edges above your eye fall towards the point, those below it rise.'),
  );
};
/** Places evenly round the rim. */
const rim = (w: number, h: number, count: number): Point[] =>
  Array.from({ length: count }, (_, i): Point => {
    const at = ((i + 0.5) / count) * 2 * (w + h);
    if (at < w) return [at, 0];
    if (at < w + h) return [w, at - w];
    return at < 2 * w + h ? [2 * w + h - at, h] : [0, 2 * (w + h) - at];
  });
/** What of a line between two points lies on the canvas; null where nothing does. */
function clippedTo(a: Point, b: Point, w: number, h: number): [Point, Point] | null {
  let [from, to] = [0, 1];
  const d = minus(b, a);
  for (const [p, q] of [
    [-d[0], a[0]],
    [d[0], w - a[0]],
    [-d[1], a[1]],
    [d[1], h - a[1]],
  ] as [number, number][]) {
    if (p === 0) {
      if (q < 0) return null;
      continue;
    }
    const t = q / p;
    if (p < 0) from = Math.max(from, t);
    else to = Math.min(to, t);
  }
  return from < to ? [between(a, b, from), between(a, b, to)] : null;
}

const shadow: Working<'shadow'> = (lesson, { foot, head, under }, out) => {
  const { light } = lesson;
  if (!light) throw new RangeError(say('No light is set yet. Set where it comes from at the picture, under Light.'));
  // Of a thing that leans, the ray over its head is met from the place under that head; the shadow still begins at its foot.
  const tip = shadowTip(eyeOf(lesson), under ?? foot, head, light);
  out.lines.push(line(foot, head), line(head, tip));
  if (under) out.lines.push(line(under, head), line(under, tip));
  out.second.push(line(foot, tip));
  out.how.push(
    say`The shadow runs from the foot ${wayOf(foot, tip)} and is ${said(lesson, distance(foot, tip))} long on the canvas.`,
    ...(under
      ? [say('It leans: drop a line from its head to the ground, draw the shadow of that line, and join the foot to its tip.')]
      : []),
    say(
      'Draw the ground line of the shadow first, then the ray of light over the head: where they cross the shadow ends. All shadows on this ground end in the same way.',
    ),
  );
};

const shapes: Working<'shapes'> = (lesson, { areaIds }, out) => {
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
  const found = areaIds
    .flatMap((id) => {
      const part = parts.get(id);
      const shape = part && simpleShape(part.outline);
      return shape ? [{ id, area: part.areaCm2, shape }] : [];
    })
    .sort((a, b) => b.area - a.area);
  if (found.length === 0) throw new RangeError(say('Nothing of these areas is seen. Choose others.'));
  found.forEach(({ id, shape }, i) => {
    const box = outlineBox([[shape.points]]) as { x: number; y: number; width: number; height: number };
    const name = lesson.areas.find((area) => area.id === id)?.name ?? '';
    out.lines.push(
      shape.kind === 'circle' || shape.kind === 'ellipse'
        ? roundOf(shape.points)
        : line(...shape.points, shape.points[0] as Point),
    );
    out.labels.push({ at: [box.x + box.width / 2, box.y + box.height / 2], text: String(i + 1) });
    out.how.push(
      say`${i + 1}. ${name}: a ${shapeWords[shape.kind]} ${said(lesson, box.width)} wide and ${said(lesson, box.height)} high, its left side ${said(lesson, box.x)} from the left, its top ${said(lesson, box.y)} from the top.`,
    );
  });
};
const features: Working<'features'> = (lesson, { areaIds }, out) => {
  Object.assign(
    out,
    featureAxes(lesson, areaIds, (mm) => said(lesson, mm)),
  );
};
const roundOf = (points: readonly Point[]): Curve => {
  const [a, b] = [points[0], points[points.length >> 1]] as [Point, Point];
  const [c, d] = [points[points.length >> 2], points[(3 * points.length) >> 2]] as [Point, Point];
  const at = crossing(a, b, c, d) ?? between(a, b, 0.5);
  return ellipseCurve(at, distance(a, b) / 2, distance(c, d) / 2, (Math.atan2(a[1] - b[1], a[0] - b[0]) * 180) / Math.PI);
};

const workings: { [K in Construction['kind']]: Working<K> } = {
  grid,
  diagonals,
  thirds,
  envelope: envelopeOf,
  motif,
  radial,
  ellipse,
  spacing,
  vanishing,
  shadow,
  shapes,
  features,
};

/** How far apart two landmarks are, and the angle of the line between them against the level, as they are said. */
export function betweenLandmarks(lesson: Lesson): { from: string; to: string; mm: number; deg: number }[] {
  const { landmarks } = lesson.drawing;
  return landmarks.flatMap((one, i) =>
    landmarks.slice(i + 1).map((other) => {
      const [dx, dy] = minus(other.at, one.at);
      return {
        from: one.id,
        to: other.id,
        mm: Math.hypot(dx, dy),
        deg: (((Math.atan2(-dy, dx) * 180) / Math.PI + 270) % 180) - 90,
      };
    }),
  );
}

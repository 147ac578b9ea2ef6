import type { Construction, Eye, Lesson } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { outlineBox } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import {
  alongPath,
  between,
  circleDivision,
  crossing,
  distance,
  evenlySpaced,
  groundCircle,
  minus,
  type Point,
  plus,
  shadowTip,
  times,
} from '../../geometry/index.js';
import { lengthNumber, listInWords } from '../../units/index.js';
import { type Curve, straightCurve } from '../bezier.js';
import { envelope } from './envelope.js';
import { featureAxes } from './features.js';
import { type SimpleShape, simpleShape } from './shapes.js';

/** A construction worked out: its help lines, what is written beside them, and how it is done by hand with this canvas's numbers. */
const shapeWords: Record<SimpleShape['kind'], string> = worded({
  circle: 'circle',
  ellipse: 'ellipse',
  square: 'square',
  rectangle: 'rectangle',
  triangle: 'triangle',
  wedge: 'wedge',
});
export type Constructed = {
  lines: Curve[];
  /** Lines of a second group (cast shadows in an envelope), drawn otherwise. */
  second: Curve[];
  labels: { at: Point; text: string }[];
  how: string[];
  /** Why it cannot be done, as a sentence; then there are no lines. */
  fault: string | null;
};

/** The eye as it was set, or a usual one: before the middle, horizon at two fifths, as far off as the canvas is long twice over. */
export function eyeOf({ drawing, support }: Lesson): Eye {
  return (
    drawing.eye ?? {
      xMm: support.widthMm / 2,
      horizonMm: support.heightMm * 0.4,
      distanceMm: 2 * Math.hypot(support.widthMm, support.heightMm),
    }
  );
}

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

const letters = (n: number): string =>
  (n < 26 ? '' : String.fromCharCode(64 + Math.floor(n / 26))) + String.fromCharCode(65 + (n % 26));
type Of<K extends Construction['kind']> = Extract<Construction, { kind: K }>;
type Working<K extends Construction['kind']> = (lesson: Lesson, one: Of<K>, out: Constructed) => void;

/** A length on this canvas as it is said: "4.1 in", "10.4 cm". */
const said = (lesson: Lesson, mm: number): string => `${lengthNumber(mm, lesson.units)} ${lesson.units}`;
const line = (...points: Point[]): Curve => straightCurve(points);
const degrees = (value: number): string => `${Math.round(value)}°`;

const grid: Working<'grid'> = (lesson, { columns, rows, ratio }, out) => {
  const { widthMm, heightMm } = lesson.support;
  const [w, h] = [widthMm / columns, heightMm / rows];
  for (let i = 1; i < columns; i++) out.lines.push(line([i * w, 0], [i * w, heightMm]));
  for (let k = 1; k < rows; k++) out.lines.push(line([0, k * h], [widthMm, k * h]));
  for (let i = 0; i < columns; i++) out.labels.push({ at: [(i + 0.5) * w, 0], text: letters(i) });
  for (let k = 0; k < rows; k++) out.labels.push({ at: [0, (k + 0.5) * h], text: String(k + 1) });
  const isSquare = Math.abs(w - h) < 0.05;
  out.how.push(
    say`On the canvas mark every ${said(lesson, w)} along the top and bottom edge and every ${said(lesson, h)} along both sides; join the marks with a ruler.`,
    say`On the printed picture, ${said(lesson, widthMm / ratio)} wide, mark every ${said(lesson, w / ratio)} and every ${said(lesson, h / ratio)}: 1 there is ${lengthRatio(ratio)} here.`,
    say(
      'Write the same letters and numbers along both edges, and copy one cell at a time: where does a line enter, where does it leave?',
    ),
  );
  if (!isSquare) out.how.push(say('The cells are not square on this canvas. Count along the side you measure.'));
};
const lengthRatio = (ratio: number): string => String(Math.round(ratio * 100) / 100);

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

const envelopeOf: Working<'envelope'> = (lesson, { areaIds, shadowIds, sides, thinMm }, out) => {
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.outline]));
  const group = (ids: readonly string[]) => ids.flatMap((id) => (parts.get(id)?.length ? [parts.get(id) as never] : []));
  const main = group(areaIds).length > 0 ? envelope(group(areaIds), sides, thinMm) : null;
  if (!main) throw new RangeError(say('Nothing of these areas is seen. Choose others.'));
  const closed = (points: Point[]) => line(...points, points[0] as Point);
  out.lines.push(closed(main.points));
  const shadow = group(shadowIds).length > 0 ? envelope(group(shadowIds), sides, thinMm) : null;
  if (shadow) out.second.push(closed(shadow.points));
  main.points.forEach((p, i) => {
    const next = main.points[(i + 1) % main.points.length] as Point;
    out.labels.push({ at: between(p, next, 0.5), text: said(lesson, distance(p, next)) });
  });
  const [first] = main.points as [Point];
  out.how.push(
    say`Put the first corner ${said(lesson, first[0])} from the left and ${said(lesson, first[1])} from the top; then side by side round the group, by length and angle:`,
    main.points
      .map((p, i) => {
        const next = main.points[(i + 1) % main.points.length] as Point;
        return `${said(lesson, distance(p, next))} ${wayOf(p, next)}`;
      })
      .join('; '),
    ...main.wedges.map(
      (one) =>
        say`The gap ${wherein(lesson, one.deepest)} opens by ${degrees(one.angleDeg)}; its sides are ${said(lesson, one.sidesMm[0])} and ${said(lesson, one.sidesMm[1])}. Draw the gap, not the thing.`,
    ),
  );
  if (shadow) out.how.push(say('The cast shadows are a second group, drawn dashed.'));
  out.how.push(say('Check every corner: where does it fall on the lines of the other sides, drawn on?'));
};
/** A direction as people point: "to the right, 20° upwards". */
function wayOf([x1, y1]: Point, [x2, y2]: Point): string {
  const [dx, dy] = [x2 - x1, y1 - y2];
  const steep = (Math.atan2(Math.abs(dy), Math.abs(dx)) * 180) / Math.PI;
  if (steep < 3) return dx > 0 ? say('level to the right') : say('level to the left');
  if (steep > 87) return dy > 0 ? say('straight up') : say('straight down');
  return say`to the ${dx > 0 ? say('right') : say('left')}, ${degrees(steep)} ${dy > 0 ? say('upwards') : say('downwards')}`;
}
function wherein({ support }: Lesson, [x, y]: Point): string {
  const across =
    x < support.widthMm / 3 ? say('on the left') : x > (support.widthMm * 2) / 3 ? say('on the right') : say('in the middle');
  const down = y < support.heightMm / 3 ? say('high up') : y > (support.heightMm * 2) / 3 ? say('low down') : say('half-way up');
  return `${across}, ${down}`;
}

const KAPPA = 0.5522847498307936;
/** A circle or ellipse as four Bézier pieces, within 0.03 % of its size. */
export function ellipseCurve([cx, cy]: Point, long: number, short: number, turnDeg = 0): Curve {
  const t = (turnDeg * Math.PI) / 180;
  const put = ([x, y]: Point): Point => [cx + x * Math.cos(t) - y * Math.sin(t), cy + x * Math.sin(t) + y * Math.cos(t)];
  const quarter = (a: Point, b: Point, c: Point, d: Point): Point[] => [a, b, c, d];
  const [k, m] = [long * KAPPA, short * KAPPA];
  const all = [
    ...quarter([long, 0], [long, m], [k, short], [0, short]),
    [-k, short],
    [-long, m],
    [-long, 0],
    [-long, -m],
    [-k, -short],
    [0, -short],
    [k, -short],
    [long, -m],
    [long, 0],
  ] as Point[];
  return all.map(put);
}

const radial: Working<'radial'> = (lesson, { at, radiusMm, parts, startDeg, rings }, out) => {
  const { chordMm, points } = circleDivision(radiusMm, parts);
  const start = (startDeg * Math.PI) / 180;
  const placed = points.map(
    ([x, y]): Point => plus(at, [x * Math.cos(start) - y * Math.sin(start), x * Math.sin(start) + y * Math.cos(start)]),
  );
  for (const share of [1, ...rings]) out.lines.push(ellipseCurve(at, radiusMm * share, radiusMm * share));
  for (const [i, p] of placed.entries()) {
    out.lines.push(line(at, p));
    out.labels.push({ at: plus(at, times(minus(p, at), 1.06)), text: String(i + 1) });
  }
  out.how.push(
    say`Mark the middle ${said(lesson, at[0])} from the left and ${said(lesson, at[1])} from the top. Draw the circle with a string ${said(lesson, radiusMm)} long, a pencil at its end.`,
    parts === 6
      ? say`Step the same string round the circle: it divides it in exactly 6.`
      : say`Set a strip of paper to ${said(lesson, chordMm)} and step it round the circle ${parts} times; if it does not meet its beginning, share the rest out.`,
    say`The unit repeated between two spokes is ${said(lesson, chordMm)} wide at the rim: a lid ${said(lesson, chordMm)} across, set on every mark, touches its neighbours.`,
  );
  if (rings.length > 0)
    out.how.push(
      say`Rings at ${listInWords(rings.map((share) => said(lesson, radiusMm * share)))} from the middle, with the same string shortened.`,
    );
};

const ellipse: Working<'ellipse'> = (lesson, { at, halfWidthMm }, out) => {
  const eye = eyeOf(lesson);
  const found = groundCircle(eye, at, halfWidthMm);
  out.lines.push(ellipseCurve(found.at, found.longMm, found.shortMm, found.turnDeg));
  const t = (found.turnDeg * Math.PI) / 180;
  const [u, v]: [Point, Point] = [
    [Math.cos(t), Math.sin(t)],
    [-Math.sin(t), Math.cos(t)],
  ];
  out.lines.push(
    line(plus(found.at, times(u, -found.longMm)), plus(found.at, times(u, found.longMm))),
    line(plus(found.at, times(v, -found.shortMm)), plus(found.at, times(v, found.shortMm))),
  );
  const focus = Math.sqrt(Math.max(0, found.longMm ** 2 - found.shortMm ** 2));
  out.how.push(
    say`Draw a level cross ${said(lesson, found.at[0])} from the left and ${said(lesson, found.at[1])} from the top: ${said(lesson, 2 * found.longMm)} across, ${said(lesson, 2 * found.shortMm)} down${Math.abs(((found.turnDeg + 90) % 180) - 90) > 2 ? say`, turned by ${degrees(found.turnDeg)}` : ''}.`,
    say`Two pins on the long line, ${said(lesson, focus)} to either side of the middle, a loop of string ${said(lesson, 2 * (focus + found.longMm))} long round both, and a pencil that keeps it tight.`,
    say`The true middle of the circle lies ${said(lesson, Math.abs(found.at[1] - at[1]))} above the middle of the ellipse: the near half looks larger.`,
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

const shadow: Working<'shadow'> = (lesson, { foot, head }, out) => {
  const { light } = lesson;
  if (!light) throw new RangeError(say('No light is set yet. Set where it comes from at the picture, under Light.'));
  const tip = shadowTip(eyeOf(lesson), foot, head, light);
  out.lines.push(line(foot, head), line(head, tip));
  out.second.push(line(foot, tip));
  out.how.push(
    say`The shadow runs from the foot ${wayOf(foot, tip)} and is ${said(lesson, distance(foot, tip))} long on the canvas.`,
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

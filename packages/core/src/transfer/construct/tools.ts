import type { Construction, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { Point } from '../../geometry/index.js';
import { lengthNumber, listInWords, onRuler } from '../../units/index.js';
import { type Curve, straightCurve } from '../bezier.js';

/** A construction worked out: its help lines, what is written beside them, and how it is done by hand with this canvas's numbers. */
export type Constructed = {
  lines: Curve[];
  /** Lines of a second group (cast shadows in an envelope, the spokes of a motif), drawn otherwise. */
  second: Curve[];
  labels: { at: Point; text: string }[];
  how: string[];
  /** Why it cannot be done, as a sentence; then there are no lines. */
  fault: string | null;
};
export type Of<K extends Construction['kind']> = Extract<Construction, { kind: K }>;
export type Working<K extends Construction['kind']> = (lesson: Lesson, one: Of<K>, out: Constructed) => void;

/** Letters of a column: A … Z, AA … */
export const letters = (n: number): string =>
  (n < 26 ? '' : String.fromCharCode(64 + Math.floor(n / 26))) + String.fromCharCode(65 + (n % 26));
/** A length on this canvas as it is said: "4 ¼ in", "10.4 cm". */
export const said = (lesson: Pick<Lesson, 'units'>, mm: number): string => `${lengthNumber(mm, lesson.units)} ${lesson.units}`;
/** Places along one ruler, its zero at one end, so that rounding never adds up: "2, 4 1/16 and 6 ⅛ in". */
export const saidAlong = (lesson: Pick<Lesson, 'units'>, mm: readonly number[]): string =>
  `${listInWords(mm.map((one) => lengthNumber(one, lesson.units)))} ${lesson.units}`;
/** What a hand measures that follows {@link said}, mm. */
export const measured = (lesson: Pick<Lesson, 'units'>, mm: number): number => onRuler(mm, lesson.units);
export const line = (...points: Point[]): Curve => straightCurve(points);
export const degrees = (value: number): string => `${Math.round(value)}°`;

/** A direction as people point: "to the right, 20° upwards". */
export function wayOf([x1, y1]: Point, [x2, y2]: Point): string {
  const [dx, dy] = [x2 - x1, y1 - y2];
  const steep = (Math.atan2(Math.abs(dy), Math.abs(dx)) * 180) / Math.PI;
  if (steep < 3) return dx > 0 ? say('level to the right') : say('level to the left');
  if (steep > 87) return dy > 0 ? say('straight up') : say('straight down');
  return say`to the ${dx > 0 ? say('right') : say('left')}, ${degrees(steep)} ${dy > 0 ? say('upwards') : say('downwards')}`;
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

import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { visibleOf } from '../../derived/index.js';
import { distance, type Point } from '../../geometry/index.js';
import { called, capital } from '../../units/index.js';
import { type Curve, straightCurve } from '../bezier.js';
import { spread } from './shapes.js';

type Feature = { name: string; at: Point; long: number; short: number; turn: number };

/** Axes run past the rim by this share of the half. */
const PAST = 1.25;
/** Two features are a pair where neither is more than so much larger than the other. */
const PAIR = 1.8;
/** A tilt below this is level to the hand, degrees. */
const LEVEL = 2;

/** The axes of small things that are looked at first, how two of a kind stand to each other, and how that is measured by hand. */
export function featureAxes(
  lesson: Lesson,
  areaIds: readonly string[],
  said: (mm: number) => string,
): { lines: Curve[]; second: Curve[]; labels: { at: Point; text: string }[]; how: string[] } {
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
  const found = areaIds.flatMap((id): Feature[] => {
    const part = parts.get(id);
    const name = lesson.areas.find((area) => area.id === id)?.name ?? '';
    if (!part || part.areaCm2 <= 0) return [];
    return [{ name, ...spread(part.outline, part.areaCm2 * 100) }];
  });
  if (found.length === 0) throw new RangeError(say('Nothing of these areas is seen. Choose others.'));
  const lines: Curve[] = [];
  const how: string[] = [];
  const labels = found.map(({ at, name, long, short, turn }, i) => {
    lines.push(axis(at, long * PAST, turn), axis(at, short * PAST, turn + Math.PI / 2));
    how.push(
      say`${i + 1}. ${capital(called(name))}: its middle ${said(at[0])} from the left and ${said(at[1])} from the top; ${said(2 * long)} long and ${said(2 * short)} across, ${leaning(turn)}. Its two axes first, then its rim through their ends.`,
    );
    return { at, text: String(i + 1) };
  });
  const second: Curve[] = [];
  for (const [i, one] of found.entries()) {
    const other = found.slice(i + 1).find((next) => isPair(one, next));
    if (!other) continue;
    second.push(straightCurve([one.at, other.at]));
    const apart = distance(one.at, other.at);
    const size = one.long + other.long;
    how.push(
      say`A ruler through the middles of ${called(one.name)} and ${called(other.name)} ${tilted(one.at, other.at)}. They are ${said(apart)} apart: ${times(apart / size)} as far as one of them is long.`,
    );
  }
  return { lines, second, labels, how };
}

const axis = (at: Point, half: number, turn: number): Curve => {
  const [dx, dy] = [Math.cos(turn) * half, Math.sin(turn) * half];
  return straightCurve([
    [at[0] - dx, at[1] - dy],
    [at[0] + dx, at[1] + dy],
  ]);
};

const isPair = (one: Feature, other: Feature): boolean => {
  const ratio = (one.long * one.short) / Math.max(1e-6, other.long * other.short);
  const lastWord = (name: string) =>
    name
      .toLowerCase()
      .replace(/\b(left|right|near|far|first|second|\d+)\b/g, '')
      .trim();
  return ratio < PAIR && ratio > 1 / PAIR && lastWord(one.name) === lastWord(other.name);
};

/** How a long axis lies, in words. */
function leaning(turn: number): string {
  const deg = ((((turn * 180) / Math.PI) % 180) + 180) % 180;
  if (deg < LEVEL || deg > 180 - LEVEL) return say('lying level');
  if (Math.abs(deg - 90) < LEVEL) return say('standing upright');
  return deg < 90
    ? say`its long axis ${Math.round(deg)}° down to the right`
    : say`its long axis ${Math.round(180 - deg)}° up to the right`;
}

function tilted(one: Point, other: Point): string {
  const [left, right] = one[0] <= other[0] ? [one, other] : [other, one];
  const deg = (Math.atan2(left[1] - right[1], right[0] - left[0]) * 180) / Math.PI;
  if (Math.abs(deg) < LEVEL) return say('lies level');
  return say`${deg > 0 ? say('rises') : say('falls')} by ${Math.round(Math.abs(deg))}° to the right`;
}

const times = (ratio: number): string => {
  const half = Math.round(ratio * 2) / 2;
  return half === 1
    ? say('just')
    : half % 1 === 0
      ? say`${half} times`
      : say`${Math.floor(half) > 0 ? Math.floor(half) : ''}½ times`;
};

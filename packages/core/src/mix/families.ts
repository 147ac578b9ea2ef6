import { type Amount, type Lab, say, smallAmounts } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import { type Finish, mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { type Paint, tableOf } from './recipes.js';

/** One mix of a family: what it is mixed from (paints by id, the family's own mixes among them) and how it looks dry. */
export type FamilyMember = { name: string; parts: { id: string; parts: Amount }[]; lab: Lab; aim: Lab; deltaE: number };

const labOf = (paint: Spectra, finish: Finish): Lab => mixColour([{ pigment: paint, parts: 1 }], { finish }).lab;

/** The nearest recipe of a few paints, all of which are named by id. */
function nearest(name: string, aim: Lab, paints: readonly Paint[], finish: Finish, maxTubes: number): FamilyMember {
  const table = toEnd(tableOf(paints, { maxTubes, finish, smalls: 3 }));
  const [hit] = table.nearest(aim);
  if (!hit) throw new RangeError(say('A family needs something to mix from. Add a white and a dark first.'));
  return {
    name,
    parts: hit.parts.map(({ tube, parts }) => ({ id: (paints[tube] as Paint).id, parts })),
    lab: hit.lab,
    aim,
    deltaE: hit.deltaE,
  };
}

/**
 * A value ladder: a mix carried in 5–9 even steps of L* towards white and towards a dark, every step mixed from the one mix and
 * one of the two, so that there are few mixes. The mix itself is the step nearest to its own value and needs no recipe.
 */
export function valueLadder(base: Paint, white: Paint, dark: Paint, steps: number, finish: Finish = 'satin'): FamilyMember[] {
  const count = Math.max(5, Math.min(9, Math.round(steps)));
  const [own, top, bottom] = [labOf(base, finish), labOf(white, finish), labOf(dark, finish)];
  const reach = (to: Lab, share: number): Lab => own.map((value, i) => value + ((to[i] as number) - value) * share) as Lab;
  // One rung is the mix; the others are spread evenly from a rung below white to a rung above the dark.
  const span = top[0] - bottom[0];
  const up = Math.min(count - 2, Math.max(1, Math.round(((count - 1) * (top[0] - own[0])) / Math.max(1, span))));
  const down = count - 1 - up;
  const lighter = Array.from({ length: up }, (_, i) => {
    const share = (i + 1) / (up + 1);
    const aim: Lab = [own[0] + (top[0] - own[0]) * share, reach(top, share)[1], reach(top, share)[2]];
    return byLightness(say`light ${i + 1}`, base, white, aim, finish);
  }).reverse();
  const darker = Array.from({ length: down }, (_, i) => {
    const share = (i + 1) / (down + 1);
    return byLightness(say`dark ${i + 1}`, base, dark, reach(bottom, share), finish);
  });
  const self: FamilyMember = { name: say('the mix itself'), parts: [{ id: base.id, parts: 1 }], lab: own, aim: own, deltaE: 0 };
  return [...lighter, self, ...darker];
}

/** Parts of two paints whose mix has a wanted L* as nearly as the grid allows. */
function byLightness(name: string, one: Paint, other: Paint, aim: Lab, finish: Finish): FamilyMember {
  return byRule(name, one, other, aim, finish, (lab) => Math.abs(lab[0] - aim[0]));
}

const amounts: Amount[] = [...smallAmounts, ...Array.from({ length: 11 }, (_, i) => i + 1)];
function byRule(name: string, one: Paint, other: Paint, aim: Lab, finish: Finish, miss: (lab: Lab) => number): FamilyMember {
  let best: FamilyMember | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const a of amounts)
    for (const b of amounts) {
      const small = typeof a !== 'number' ? a : typeof b !== 'number' ? b : null;
      if (typeof a !== 'number' && typeof b !== 'number') continue;
      // The fewest parts that say it: 1 : 2, not 2 : 4; beside a small amount as many whole parts as are wanted.
      if (!small && gcd(a as number, b as number) > 1) continue;
      if (!small && (a as number) + (b as number) > 12) continue;
      const { lab } = mixColour(
        [
          { pigment: one, parts: a },
          { pigment: other, parts: b },
        ],
        { finish },
      );
      const off = miss(lab);
      if (off >= least) continue;
      least = off;
      best = {
        name,
        parts: [
          { id: one.id, parts: a },
          { id: other.id, parts: b },
        ],
        lab,
        aim,
        deltaE: deltaE00(aim, lab),
      };
    }
  return best as FamilyMember;
}
const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** A gradient between two mixes: so many steps between them, each of the two mixes alone, even to the eye. */
export function gradient(from: Paint, to: Paint, between: number, finish: Finish = 'satin'): FamilyMember[] {
  const [start, end] = [labOf(from, finish), labOf(to, finish)];
  const whole = deltaE00(start, end);
  return Array.from({ length: Math.max(1, Math.min(7, between)) }, (_, i) => {
    const share = (i + 1) / (Math.max(1, Math.min(7, between)) + 1);
    const aim = start.map((value, k) => value + ((end[k] as number) - value) * share) as Lab;
    // The step whose distances to both ends stand in the wanted ratio.
    return byRule(say`between ${i + 1}`, from, to, aim, finish, (lab) => {
      const [near, far] = [deltaE00(start, lab), deltaE00(end, lab)];
      return Math.abs(near / Math.max(1e-9, near + far) - share) * whole;
    });
  });
}

/**
 * Two greys from one set of parents: the two paints that together come nearest to grey at a value, then one grey that leans to
 * each of them, made pale with white. Gives a warm and a cool grey of about L* `lightness`.
 */
export function twoGreys(
  paints: readonly Paint[],
  white: Paint,
  lightness: number,
  finish: Finish = 'satin',
): { parents: [string, string]; greys: FamilyMember[] } {
  const colours = paints.filter((paint) => paint.id !== white.id);
  const lean = 5; // of a* and b*, on each side of grey
  let best: { parents: [Paint, Paint]; greys: FamilyMember[]; miss: number } | null = null;
  for (const [i, one] of colours.entries())
    for (const other of colours.slice(i + 1)) {
      const greys = (
        [
          [say('warm grey'), [lightness, 1.5, lean]],
          [say('cool grey'), [lightness, -0.5, -lean]],
        ] as [string, Lab][]
      ).map(([name, aim]) => nearest(name, aim, [white, one, other], finish, 3));
      const bothParents = greys.every((grey) => [one, other].every((parent) => grey.parts.some((part) => part.id === parent.id)));
      if (!bothParents) continue;
      const miss = greys.reduce((sum, grey) => sum + grey.deltaE, 0);
      if (!best || miss < best.miss) best = { parents: [one, other], greys, miss };
    }
  if (!best) throw new RangeError(say('No two of these tubes make a grey with white. Add a blue and an earth.'));
  return { parents: [best.parents[0].id, best.parents[1].id], greys: best.greys };
}

/**
 * Shadow and light of a local colour: darker, a little duller and cooler; lighter and a little warmer. Each is the mix with one
 * helper, at the value wanted; of the helpers that can bring it there the one that keeps the colour nearest.
 */
export function shadowAndLight(base: Paint, helpers: readonly Paint[], finish: Finish = 'satin'): FamilyMember[] {
  const [l, a, b] = labOf(base, finish);
  const toValue = (name: string, aim: Lab): FamilyMember[] => {
    const sign = Math.sign(aim[0] - l);
    const able = helpers.filter((paint) => paint.id !== base.id && sign * (labOf(paint, finish)[0] - aim[0]) > 0);
    const members = able.map((paint) => byLightness(name, base, paint, aim, finish));
    return members.length > 0 ? [members.reduce((best, one) => (one.deltaE < best.deltaE ? one : best))] : [];
  };
  const shadow: Lab = [Math.max(4, l - Math.max(12, l * 0.28)), a * 0.85, b * 0.8 - 2.5];
  const light: Lab = [Math.min(96, l + Math.max(10, (100 - l) * 0.35)), a * 0.85 + 0.5, b * 0.85 + 3];
  return [...toValue('shadow', shadow), ...toValue('light', light)];
}

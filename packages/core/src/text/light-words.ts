import type { Area, FormKind, Lesson } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { called, capital, verb } from '../units/index.js';

const SIDES = worded(['top', 'upper right', 'right', 'lower right', 'bottom', 'lower left', 'left', 'upper left'] as const);
type Compass = (typeof SIDES)[number];
/** A side of a picture by an angle clockwise from its top. */
export const sideOf = (azimuthDeg: number): Compass => SIDES[Math.round((((azimuthDeg % 360) + 360) % 360) / 45) % 8] as Compass;

const hand = (side: Compass): string => (side === 'top' || side === 'bottom' ? `${side}` : say`${side}-hand side`);

type Said = { lit: string; shade: string; it: string; is: string; has: string; its: string };
const how: Record<FormKind, (said: Said) => string | null> = {
  round: ({ lit, shade, it, is }) =>
    say`${it} ${is} round: lightest towards the ${lit}, darkest before the ${shade}, and a little lighter again at that rim, where light comes back from what lies round.`,
  cylinder: ({ lit, shade, it, is, its }) =>
    say`${it} ${is} round one way only: ${its} values run in bands along the axis, the light one towards the ${lit}, the dark one before the ${shade} with a lighter rim.`,
  cone: ({ lit, shade, it, has }) =>
    say`${it} ${has} the form of a cone: the values run to the tip like rays, the light one on the ${lit}, the dark one before the ${shade}.`,
  box: ({ lit, shade, it, has }) =>
    say`${it} ${has} flat faces: each is one value with an edge between, the lightest turned to the ${lit}, the darkest to the ${shade}.`,
  cloud: ({ lit, shade, it, is }) => say`${it} ${is} lit on the ${lit}, with soft grey towards the ${shade} and no dark rim.`,
  flat: () => null,
};

/** What the light does on an area of some form, for the step that lays it first; null where nothing is known of it. */
export function litWords(
  { light, areas }: Pick<Lesson, 'light' | 'areas'>,
  { id, form, name }: Pick<Area, 'id' | 'form' | 'name'>,
): string | null {
  if (!light || !form) return null;
  if (light.elevationDeg > FROM_EYE) return null;
  const at = areas.findIndex((area) => area.id === id);
  const before = areas.slice(0, Math.max(0, at)).find((area) => area.form?.kind === form.kind);
  if (before && form.kind !== 'flat')
    return say`${capital(called(name))} ${verb(name, 'is', 'are')} lit as ${called(before.name)} ${verb(before.name, 'is', 'are')}: on the ${hand(sideOf(light.azimuthDeg))}.`;
  return how[form.kind]({
    lit: hand(sideOf(light.azimuthDeg)),
    shade: hand(sideOf(light.azimuthDeg + 180)),
    it: capital(called(name)),
    is: verb(name, 'is', 'are'),
    has: verb(name, 'has', 'have'),
    its: verb(name, 'its', 'their'),
  });
}
/** A light this near to the eye has no side. */
const FROM_EYE = 75;

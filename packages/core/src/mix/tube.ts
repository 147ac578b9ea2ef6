import type { Tube } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import type { Rgb } from '@viaticum/kernels/colour';
import { type Finish, mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { calibrateTube } from './calibrate.js';

/** Student grade holds about so much of the pigment of artist grade (from memory). */
const STUDENT_PIGMENT = 0.6;
/** Customary names where the table's would be short for two tubes alike. */
const SHORT: Record<string, string> = worded({
  PY3: 'lemon yellow',
  PG36: 'yellow-shade phthalo green',
  PBk7: 'carbon black',
});

/** The customary name of a pigment of the table. */
export const pigmentName = (pigment: string): string => say(pigmentOf(pigment).name);

const metals: Record<string, string> = worded({
  cadmium: 'cadmium',
  chromium: 'chromium',
  cobalt: 'cobalt',
  manganese: 'manganese',
  nickel: 'nickel',
});
/** A metal of the table, as a label names it. */
export const metalName = (metal: string): string => metals[metal] ?? metal;

/** The customary short name of a tube: "ultramarine blue" → "ultramarine". */
export function shortTubeName(tube: Tube): string {
  if (tube.own) return tube.own.name;
  const customary = SHORT[tube.pigment];
  if (customary) return customary;
  return pigmentName(tube.pigment)
    .replace(/ \(.*\)$/, '')
    .replace(/,.*$/, '')
    .replace(/^titanium white$/, 'white')
    .replace(/^ultramarine blue$/, 'ultramarine')
    .replace(/^Titanweiß$/, 'Weiß')
    .replace(/^Ultramarinblau$/, 'Ultramarin');
}

/** The id of a tube of the table that a lesson does not have yet; the same for the same pigment. */
export const tableTubeId = (pigment: string): string => pigment.replace(/[^A-Za-z0-9]/g, '_');

const WHITES = new Set(['PW6', 'PW4']);
/** Whether a tube is one of the whites of the table. */
export const isWhite = (tube: Tube): boolean => WHITES.has(tube.pigment);

const paints = new WeakMap<object, Spectra>();
/** What a tube absorbs and scatters: the table's pigment, weaker in student grade; one of one's own as its samples say. */
export function paintOf(tube: Tube): Spectra {
  const known = paints.get(tube);
  if (known) return known;
  const paint = tube.own ? calibrateTube(tube.own) : weakened(pigmentOf(tube.pigment), tube.grade);
  paints.set(tube, paint);
  return paint;
}

/** A paint as a grade has it: student grade holds less pigment. */
export function weakened(pigment: Spectra, grade: Tube['grade']): Spectra {
  if (grade === 'artist') return pigment;
  const weaker = (values: ArrayLike<number>) => Float64Array.from(values, (value) => value * STUDENT_PIGMENT);
  return { K: weaker(pigment.K), S: weaker(pigment.S), film: pigment.film };
}

/** A tube's own colour straight from the tube, dry. */
export function tubeRgb(tube: Tube, finish: Finish = 'satin'): Rgb {
  return mixColour([{ pigment: paintOf(tube), parts: 1 }], { finish }).srgb;
}

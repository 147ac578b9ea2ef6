import { type Lab, say, worded } from '@viaticum/contract';
import { differenceInWords, hueDegrees, hueName } from '@viaticum/kernels/colour';

const hues: Record<string, string> = worded({
  red: 'red',
  orange: 'orange',
  yellow: 'yellow',
  'yellow-green': 'yellow-green',
  green: 'green',
  'blue-green': 'blue-green',
  blue: 'blue',
  violet: 'violet',
  magenta: 'magenta',
  pink: 'pink',
});

/** The name of a hue, given by its English one, in the reader's language. */
export const hueSaid = (name: string): string => hues[name] ?? name;
/** The name nearest to a hue of a*, b*. */
export const hueOf = (a: number, b: number): string => hueSaid(hueName(hueDegrees(a, b)));

/** What is said of lightness and strength, and that nothing is off. */
const plain: Record<string, string> = worded({
  'a little dark': 'a little dark',
  'a little light': 'a little light',
  'a little dull': 'a little dull',
  'a little strong': 'a little strong',
  'too dark': 'too dark',
  'too light': 'too light',
  'too dull': 'too dull',
  'too strong': 'too strong',
  'much too dark': 'much too dark',
  'much too light': 'much too light',
  'much too dull': 'much too dull',
  'much too strong': 'much too strong',
  'the same to the eye': 'the same to the eye',
  close: 'close',
});

/** What is off in a mixed colour, as a painter says it: "slightly green, a little dark". */
export const offInWords = (target: Lab, mixed: Lab): string =>
  differenceInWords(target, mixed)
    .split(', ')
    .map((part) => {
      const known = plain[part];
      if (known) return known;
      const [, grade, hue = ''] = /^(slightly|much too|too) (.+)$/.exec(part) ?? [];
      if (grade === 'slightly') return say`slightly ${hueSaid(hue)}`;
      if (grade === 'too') return say`too ${hueSaid(hue)}`;
      return grade ? say`much too ${hueSaid(hue)}` : part;
    })
    .join(', ');

import type { Lab } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { deltaE00, hueDegrees, hueName, valueStep } from '@viaticum/kernels/colour';
import { hueOf, hueSaid, listInWords } from '../units/index.js';

const more: Record<string, string> = worded({
  red: 'redder',
  orange: 'more orange',
  yellow: 'yellower',
  'yellow-green': 'greener',
  green: 'greener',
  'blue-green': 'more blue-green',
  blue: 'bluer',
  violet: 'more violet',
  magenta: 'more magenta',
  pink: 'pinker',
});

/** A colour in a few words: "dark green", "pale orange", "grey". */
export function colourInWords([l, a, b]: Lab): string {
  const chroma = Math.hypot(a, b);
  const toned = (name: string): string => (l < 32 ? say`dark ${name}` : l > 78 ? say`pale ${name}` : name);
  if (chroma < 7) return l < 14 ? say('near black') : l > 92 ? say('near white') : toned(say('grey'));
  const degrees = hueDegrees(a, b);
  // Ultramarine and navy, which everyone calls blue, lie well on the violet side of CIELAB's blue.
  const hue = degrees > 280 && degrees < 300 ? 'blue' : hueName(degrees);
  if ((hue === 'orange' || hue === 'red' || hue === 'yellow') && l < 50 && chroma < 45) return toned(say('brown'));
  // What is hardly orange or yellow nobody calls by that name.
  if ((hue === 'orange' || hue === 'yellow') && chroma < 26)
    return l > 78 ? (chroma < 14 ? say('off-white') : say('cream')) : say('beige');
  const name = hueSaid(hue);
  if (l < 32 || l > 78) return toned(name);
  return chroma < 18 ? say`dull ${name}` : chroma > 55 ? say`strong ${name}` : name;
}

/** How one colour stands to another, in value steps and words: "1.4 steps lighter, and bluer". */
export function compareInWords(one: Lab, other: Lab): string {
  const steps = valueStep(one[0]) - valueStep(other[0]);
  const words: string[] = [];
  if (Math.abs(steps) >= 0.15)
    words.push(
      say`${Math.abs(steps).toFixed(1)} ${Math.abs(steps) < 1.05 && Math.abs(steps) >= 0.95 ? say('step') : say('steps')} ${steps > 0 ? say('lighter') : say('darker')}`,
    );
  else words.push(say('of the same value'));
  const [da, db] = [one[1] - other[1], one[2] - other[2]];
  const chroma = Math.hypot(one[1], one[2]) - Math.hypot(other[1], other[2]);
  const turn = Math.sqrt(Math.max(0, da * da + db * db - chroma * chroma));
  const colours: string[] = [];
  if (turn > 4) colours.push(more[hueName(hueDegrees(da, db))] ?? hueOf(da, db));
  if (Math.abs(chroma) > 5) colours.push(chroma > 0 ? say('stronger') : say('duller'));
  if (words.length === 1 && colours.length === 0 && deltaE00(one, other) < 1.5) return say('the same to the eye');
  return colours.length > 0 ? say`${words.join('')}, and ${listInWords(colours)}` : words.join('');
}

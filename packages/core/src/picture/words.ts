import type { Lab } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { deltaE00, hueDegrees, hueName, valueStep } from '@viaticum/kernels/colour';

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
  const tone = l < 32 ? 'dark' : l > 78 ? 'pale' : '';
  if (chroma < 7)
    return l < 14 ? say('near black') : l > 92 ? say('near white') : say`${tone === 'pale' ? 'pale' : tone} grey`.trim();
  const degrees = hueDegrees(a, b);
  // Ultramarine and navy, which everyone calls blue, lie well on the violet side of CIELAB's blue.
  const hue = degrees > 280 && degrees < 300 ? 'blue' : hueName(degrees);
  if ((hue === 'orange' || hue === 'red' || hue === 'yellow') && l < 50 && chroma < 45)
    return `${l < 32 ? 'dark ' : ''}brown`.trim();
  // What is hardly orange or yellow nobody calls by that name.
  if ((hue === 'orange' || hue === 'yellow') && chroma < 26) return l > 78 ? (chroma < 14 ? 'off-white' : 'cream') : 'beige';
  return `${tone || (chroma < 18 ? 'dull' : chroma > 55 ? 'strong' : '')} ${hue}`.trim();
}

/** How one colour stands to another, in value steps and words: "1.4 steps lighter, and bluer". */
export function compareInWords(one: Lab, other: Lab): string {
  const steps = valueStep(one[0]) - valueStep(other[0]);
  const words: string[] = [];
  if (Math.abs(steps) >= 0.15)
    words.push(
      `${Math.abs(steps).toFixed(1)} ${Math.abs(steps) < 1.05 && Math.abs(steps) >= 0.95 ? 'step' : 'steps'} ${steps > 0 ? 'lighter' : 'darker'}`,
    );
  else words.push(say('of the same value'));
  const [da, db] = [one[1] - other[1], one[2] - other[2]];
  const chroma = Math.hypot(one[1], one[2]) - Math.hypot(other[1], other[2]);
  const turn = Math.sqrt(Math.max(0, da * da + db * db - chroma * chroma));
  const colours: string[] = [];
  if (turn > 4) colours.push(more[hueName(hueDegrees(da, db))] ?? hueName(hueDegrees(da, db)));
  if (Math.abs(chroma) > 5) colours.push(chroma > 0 ? 'stronger' : 'duller');
  if (words.length === 1 && colours.length === 0 && deltaE00(one, other) < 1.5) return say('the same to the eye');
  return colours.length > 0 ? say`${words.join('')}, and ${colours.join(' and ')}` : words.join('');
}

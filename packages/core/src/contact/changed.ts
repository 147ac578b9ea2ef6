import type { Lab, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { cssRgb } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { hueOf, listInWords } from '../units/index.js';
import type { Contact } from './contact.js';
import { paintOfMix } from './harm.js';

/** A mix as it shall be, and as it would be with what it takes up; CSS colours. */
export type ChangedColour = { name: string; own: string; changed: string; words: string };

/** How going on at once would change a mix, to be shown beside it; null where the colours are not known. */
export function changedColour(lesson: Lesson, { wetMixId, ownMixId, takenUp }: Contact): ChangedColour | null {
  const [wet, own] = [wetMixId, ownMixId].map((id) => lesson.mixes.find((mix) => mix.id === id));
  const [wetPaint, ownPaint] = [wet && paintOfMix(lesson, wet), own && paintOfMix(lesson, own)];
  if (!own || !wetPaint || !ownPaint) return null;
  const parts = [
    { pigment: wetPaint, parts: Math.round(takenUp * 100) },
    { pigment: ownPaint, parts: 100 - Math.round(takenUp * 100) },
  ].filter((part) => part.parts > 0);
  const { finish } = lesson;
  const alone = mixColour([{ pigment: ownPaint, parts: 1 }], { finish });
  const changed = mixColour(parts, { finish });
  return {
    name: own.name,
    own: cssRgb(alone.srgb),
    changed: cssRgb(changed.srgb),
    words: turnInWords(alone.lab, changed.lab),
  };
}

/** "darker and greyer", "lighter and towards red": how one colour turns into another. */
function turnInWords(from: Lab, to: Lab): string {
  const [dl, da, db] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const stronger = Math.hypot(to[1], to[2]) - Math.hypot(from[1], from[2]);
  const words: string[] = [];
  if (Math.abs(dl) >= 3) words.push(dl < 0 ? say('darker') : say('lighter'));
  if (stronger <= -4) words.push(say('greyer'));
  else if (Math.hypot(da, db) >= 5) words.push(say`towards ${hueOf(da, db)}`);
  return listInWords(words) || say('a little with it');
}

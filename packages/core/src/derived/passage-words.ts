import type { Lesson, Passage, PassagePlacement, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { listInWords, the } from '../units/index.js';
import { areaName } from './painted.js';

const ways: Record<Passage['order'], string> = worded({
  'light-out': 'The lightest first, the darker ones from outside towards it',
  'dark-in': 'The corners first, the lighter ones in towards the middle',
  'top-down': 'From the top down',
  'by-hand': 'In this order',
});
const wheres: Record<PassagePlacement, string> = worded({
  top: 'at the top of',
  bottom: 'at the bottom of',
  left: 'on the left of',
  right: 'on the right of',
  corners: 'in the corners of',
  middle: 'in the middle of',
});

/** How the colours of a wet passage are laid, in a sentence; null for a step that paints none. */
export function passageInWords(lesson: Lesson, { passageId }: Pick<Step, 'passageId'>): string | null {
  const passage = passageId === undefined ? undefined : lesson.passages.find((one) => one.id === passageId);
  if (!passage || passage.places.length === 0) return null;
  const laid = passage.places.map(({ mixId, areaId, at }) => {
    const mix = lesson.mixes.find((one) => one.id === mixId)?.name ?? say('the colour');
    return `${mix} ${at ? wheres[at] : 'on'} ${the(areaName(lesson, areaId))}`;
  });
  const joined = laid.length > 1 ? say('each into the wet edge of the one before') : say('in one go');
  const last = passage.soften === 'whole' ? say(', then one light pass over all while it is wet') : '';
  return `${ways[passage.order]}: ${listInWords(laid)}, ${joined}${last}.`;
}

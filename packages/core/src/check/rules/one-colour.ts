import { say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import type { Finding, Rule } from '../finding.js';

/** Colours nearer than this (ΔE00) to each other are one to a class two metres away. */
const ALIKE = 7;

/** A picture in which nothing stands out from anything. */
export const oneColour: Rule = {
  id: 'one-colour',
  look: (lesson) => {
    const targets = lesson.areas.flatMap((area) => (area.targetLab ? [area.targetLab] : []));
    if (targets.length === 0 || targets.length < lesson.areas.length || !lesson.references.some((one) => one.role === 'whole'))
      return [];
    const isOne = targets.every((one, i) => targets.slice(i + 1).every((other) => deltaE00(one, other) < ALIKE));
    // A single area with several mixes has shapes in it.
    if (!isOne || (targets.length === 1 && lesson.mixes.length > 1)) return [];
    const finding: Finding = {
      id: 'one-colour',
      rule: 'one-colour',
      about: say('Picture'),
      words: say('This picture is of one colour: its areas hardly differ, and a class will not see where one ends.'),
      reason: say(
        'Common practice: a picture is carried by three values apart. Take another picture, or set the values of its areas apart.',
      ),
      serious: false,
      place: { station: 'picture' },
    };
    return [finding];
  },
};

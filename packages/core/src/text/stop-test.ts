import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { the } from '../units/index.js';

/** What is asked before anything more is painted: the instructor's own questions, or three that fit every picture. */
export function stopTestOf({ stopTest, areas, subjectAreaId, school }: Lesson): string[] {
  if (stopTest) return stopTest;
  const subject = areas.find((area) => area.id === subjectAreaId)?.name;
  return [
    say('Squint: are the three largest shapes in their value?'),
    ...(subject ? [say`Does your eye go to ${the(subject)} first?`] : []),
    school.fidelity === 'no-reference'
      ? say('Does it say what you wanted to say?')
      : say('Would another hour make it better, or only busier?'),
  ];
}

import type { HelpKind } from '@viaticum/core/pace';
import { minutesInWords } from '@viaticum/core/units';

/** Words of the Class station beside opening: pace, invitation, afterwards. */
export const paceWords = {
  title: 'Will this group finish?',
  about:
    'The class is played ten thousand times: every student has a pace of their own, every step its chance, every coat dries from its own Done.',
  students: 'Students',
  level: 'They are',
  levels: { beginner: 'beginners', improver: 'improvers', experienced: 'experienced' },
  gate: 'Go on when so many are done',
  gateSaid: (q: number) => `${Math.round(q * 100)} %`,
  over: 'or at the latest so many minutes over',
  never: 'never without them',
  slot: 'Slot (minutes)',
  chance: (share: number) => `${share > 0.995 ? 'over 99' : share < 0.005 ? 'under 1' : Math.round(share * 100)} %`,
  ofFinishing: (slot: string) => `chance that the last one is done within ${slot}`,
  ends: (p05: string, p50: string, p95: string) => `The last one ends after ${p50}; nine times in ten between ${p05} and ${p95}.`,
  chart: 'How often the class ends when',
  share: 'of the runs',
  slotLine: 'slot',
  holds: 'What holds the class up',
  hold: (title: string, over: string, late: string) =>
    `${title}: ${over} over its time; ${late} are not done when the class goes on.`,
  nothingHolds: 'No step takes much longer than planned.',
  waits: (title: string, minutes: string) => `Longest wait: ${minutes} before “${title}”, on average.`,
  helps: 'What would help',
  help: {
    'show-shorter': 'show half as long',
    'leave-details': 'leave out what may be left out',
    'split-worst': 'go on from the slowest step when 60 % are done',
    'go-on-earlier': 'go on from every step when 70 % are done',
    'dry-faster': 'dry twice as fast (more dryers, thinner coats)',
  } satisfies Record<HelpKind, string>,
  saves: (minutes: number, chance: string) =>
    minutes < 0.5 ? `saves nothing; ${chance} finish` : `saves ${minutesInWords(minutes)}; ${chance} finish`,
  playing: (share: number) => `Playing the class: ${Math.round(share * 100)} %`,
  needSteps: 'Once there are steps, the class is played here before it is held.',
};

export const inviteWords = {
  title: 'A date for it',
  when: 'Begins',
  place: 'Where',
  bring: (canvas: string, tubes: readonly string[], brushes: readonly string[]) =>
    [
      `Bring: a canvas ${canvas}.`,
      tubes.length > 0 && `Tubes: ${tubes.join(', ')}.`,
      brushes.length > 0 && `Brushes: ${brushes.join(', ')}.`,
    ]
      .filter(Boolean)
      .join('\n'),
  save: 'Save for calendars',
  needWhen: 'Choose a day and a time first.',
};

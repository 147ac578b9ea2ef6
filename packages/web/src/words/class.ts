import type { HelpKind } from '@viaticum/core/pace';
import { counted, minutesInWords } from '@viaticum/core/units';

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
  returning: (count: number) => (count === 0 ? 'Who comes back?' : count === 1 ? 'One comes back' : `${count} come back`),
  returningAbout: 'Their own pace takes the place of a drawn one.',
  needSteps: 'Once there are steps, the class is played here before it is held.',
};

export const inviteWords = {
  title: 'A date for it',
  when: 'Begins',
  place: 'Where',
  seats: 'Seats',
  timeZone: (zone: string) => `Times are those of ${zone.replace(/_/g, ' ')}.`,
  save: 'Save for calendars',
  plan: 'Plan this class',
  change: 'Save the changes',
  needWhen: 'Choose a day and a time first.',
  roster: 'Who is expected',
  rosterAbout: 'First names only, one a line. They need no account, and nothing else is asked of them.',
  names: 'First names',
  bring: 'Bring a CSV file',
  take: 'Save as CSV',
  count: (count: number, seats: number) =>
    count > seats
      ? `${counted(count, 'name')} for ${counted(seats, 'seat')}: ${count - seats} too many.`
      : `${count} of ${counted(seats, 'seat')}.`,
  returning: 'Who came before',
  planned: 'Planned',
  code: 'Students join with',
  early: 'The code works from now on; whoever comes early is asked to wait.',
  write: 'Write to everybody',
  written: (count: number) => (count === 1 ? 'One letter lies in the outbox.' : `${count} letters lie in the outbox.`),
  outbox: 'Outbox (simulated)',
  outboxAbout: 'Nothing leaves this machine: letters are written here, to be read or copied.',
  noLetters: 'No letter yet.',
  noFile: 'This file could not be read.',
};

export const rehearseWords = {
  title: 'Rehearse it',
  about:
    'Simulated students join as real ones do: each at a pace of their own, some lose the connection, some ask for help. Time can be made to run up to sixty times as fast.',
  students: 'Students',
  level: 'They are',
  sensor: 'A simulated sensor tells the room’s air',
  begin: 'Begin the rehearsal',
};

export const aloneWords = {
  title: 'Painting alone',
  about:
    'A link for those who paint at home, at their own pace, with the drying clock of their own coats. It works without a network once it was opened, and shows the lesson as it is when the link is made.',
  make: 'Make the link',
  renew: 'Show the lesson as it is now',
  copy: 'Copy',
  copied: 'Copied',
};

export const recordWords = {
  title: 'What happened',
  back: 'Back to the lesson',
  none: 'This class was never begun: there is nothing to look back on.',
  took: (actual: string, planned: string) => `It took ${actual}; planned were ${planned}.`,
  finished: (done: number, of: number) => `${done} of ${of} said Done to the last step.`,
  names: (names: string) => `Finished: ${names}.`,
  columns: ['', 'planned', 'took', 'difference', 'half were done after', 'done'],
  never: 'not taught',
  doneOf: (said: number, assumed: number, present: number) =>
    `${said}${assumed > 0 ? ` and ${assumed} assumed` : ''} of ${present}`,
  paintedOn: (minutes: string) => `painted on all the same, ${minutes} before it was dry`,
  touch: (minute: string, dry: boolean) => `touched after ${minute}: ${dry ? 'dry' : 'not yet'}`,
  hands: 'Hands',
  noHands: 'Nobody raised a hand.',
  hand: (name: string, minute: string, reason: string, took: string | null) =>
    `${minute} ${name}, ${reason}${took === null ? '' : `, helped after ${took}`}`,
  replay: 'Looking back',
  at: (minute: string) => `At ${minute}`,
  minute: 'Minute of the class',
  play: 'Play',
  stop: 'Stop',
};

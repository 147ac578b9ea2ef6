import { say, worded } from '@viaticum/contract';
import type { OfferKind } from '@viaticum/core/pace';
import { counted, uncapital } from '@viaticum/core/units';

/** Words of the Class station beside opening: pace, invitation, afterwards. */
export const paceWords = worded({
  title: 'Will this group finish?',
  about:
    'The class is played ten thousand times: every student has a pace of their own, every step its chance, every coat dries from its own Done; hands are helped one after the other.',
  students: 'Students',
  level: 'They are',
  levels: { beginner: 'beginners', improver: 'improvers', experienced: 'experienced' },
  gate: 'Go on when so many are done',
  gateSaid: (q: number) => `${Math.round(q * 100)} %`,
  over: 'or at the latest so many minutes over',
  never: 'never without them',
  slot: 'Slot (minutes)',
  chance: (share: number) => `${share > 0.995 ? say('over 99') : share < 0.005 ? say('under 1') : Math.round(share * 100)} %`,
  assistants: 'Assistants',
  ofFinishing: (slot: string) => say`chance that the class is done within ${slot}`,
  ends: (p50: string, p90: string, last: string) =>
    say`Half of all classes are done after ${p50}, nine of ten after ${p90}; the last student, nine times in ten, after ${last}.`,
  book: (minutes: string) => say`Book the room for ${minutes}: nine of ten classes, and ten minutes to clear up.`,
  tooShort: (plan: string, slot: string, short: string) =>
    say`The plan alone needs ${plan}, the slot is ${slot}: ${short} must go before anybody is slow.`,
  makesFit: (titles: string, fits: boolean) =>
    fits ? say`Without ${titles} it fits.` : say`Without ${titles} it is shorter, and still does not fit.`,
  hands: (helped: string, waited: string, assistants: number) =>
    say`Help takes ${helped} of ${assistants > 0 ? say('you and those who assist') : say('your time')}; hands wait ${waited} in all.`,
  nothingHelps: 'Nothing on the list helps by a minute.',
  twoSpeeds: 'In two speeds',
  twoSpeedsEnd: (quick: number, quickEnd: string, slow: number, slowEnd: string) =>
    say`The quicker ${quick} need ${quickEnd}, the other ${slow} need ${slowEnd} with all steps.`,
  twoSpeedsLeft: (titles: string, end: string) =>
    say`Where these leave out ${titles}, they need ${end}; all are together again at every drying pause and break.`,
  stretch: 'From a join to the next',
  fromTo: (first: string, last: string) => (first === last ? first : say`${first} to ${uncapital(last)}`),
  quickHalf: (n: number) => say`the quicker ${n}`,
  slowHalf: (n: number) => say`the other ${n}`,
  without: (titles: string) => say`without ${titles}`,
  chart: 'How often the last student is done when',
  share: 'of the runs',
  slotLine: 'slot',
  holds: 'What holds the class up',
  hold: (title: string, over: string, late: string) =>
    say`${title}: ${over} over its time; ${late} are not done when the class goes on.`,
  nothingHolds: 'No step takes much longer than planned.',
  waits: (title: string, minutes: string) => say`Longest wait: ${minutes} before “${title}”, on average.`,
  helps: 'What would help',
  help: {
    assistant: () => say('one more who helps'),
    dryer: (titles) => say`a dryer for ${titles}, so that it dries in half the time`,
    'go-on-earlier': () => say('go on when 70 % are done'),
    'less-over': () => say('go on at the latest 2 min over'),
    'show-shorter': (titles) => say`show half as long: ${titles}`,
    'leave-out': (titles) => say`leave out ${titles}`,
    'earlier-break': (title) => say`hold the break while it dries, before ${title}`,
  } satisfies Record<OfferKind, (titles: string) => string>,
  saves: (minutes: string, chance: string | null) => say`saves ${minutes}${chance ? say`; then ${chance} are done in time` : ''}`,
  playing: (share: number) => say`Playing the class: ${Math.round(share * 100)} %`,
  returning: (count: number) =>
    count === 0 ? say('Who comes back?') : count === 1 ? say('One comes back') : say`${count} come back`,
  returningAbout: 'Their own pace takes the place of a drawn one.',
  needSteps: 'Once there are steps, the class is played here before it is held.',
});

export const inviteWords = worded({
  title: 'A date for it',
  when: 'Begins',
  place: 'Where',
  seats: 'Seats',
  timeZone: (zone: string) => say`Times are those of ${zone.replace(/_/g, ' ')}.`,
  save: 'Save for calendars',
  expected: (about: string, booked: string) =>
    say`A class like this takes about ${about}. Calendar and letters keep the room for ${booked}: nine of ten are done by then, with ten minutes to clear up.`,
  plan: 'Plan this class',
  change: 'Save the changes',
  needWhen: 'Choose a day and a time first.',
  roster: 'Who is expected',
  rosterAbout:
    'First names, one a line; of two who have the same, a letter of the second name tells them apart. A name with a comma stands in quotes. They need no account, and nothing else is asked of them.',
  names: 'First names',
  noNames: (lines: readonly string[]) =>
    `${lines.length === 1 ? say('One line is no name') : say`${lines.length} lines are no names`}: ${lines.slice(0, 3).join(', ')}${lines.length > 3 ? ' …' : ''}`,
  brought: (count: number) => say`${counted(count, 'name')} in the file.`,
  addThem: 'Add them',
  replaceList: 'Replace the list',
  leaveList: 'Leave the list as it is',
  listBack: 'Bring the former list back',
  bring: 'Bring a CSV file',
  take: 'Save as CSV',
  count: (count: number, seats: number) =>
    count > seats
      ? say`${counted(count, 'name')} for ${counted(seats, 'seat')}: ${count - seats} too many.`
      : say`${count} of ${counted(seats, 'seat')}.`,
  returning: 'Who came before',
  planned: 'Planned',
  code: 'Students join with',
  early: 'The code works from now on; whoever comes early is asked to wait.',
  write: 'Write to everybody',
  written: (count: number) => (count === 1 ? say('One letter lies in the outbox.') : say`${count} letters lie in the outbox.`),
  outbox: 'Outbox (simulated)',
  due: (day: string) => say`due ${day}`,
  outboxAbout: 'Nothing leaves this machine: letters are written here, to be read or copied.',
  noLetters: 'No letter yet.',
  noFile: 'This file could not be read.',
});

export const rehearseWords = worded({
  title: 'Rehearse it',
  about:
    'Simulated students join as real ones do: each at a pace of their own, some lose the connection, some ask for help. Time can be made to run up to sixty times as fast.',
  students: 'Students',
  level: 'They are',
  sensor: 'A simulated sensor tells the room’s air',
  begin: 'Begin the rehearsal',
});

export const aloneWords = worded({
  title: 'Painting alone',
  about:
    'A link for those who paint at home, at their own pace, with the drying clock of their own coats. It works without a network once it was opened, and shows the lesson as it is when the link is made.',
  make: 'Make the link',
  renew: 'Show the lesson as it is now',
  copy: 'Copy',
  copied: 'Copied',
});

export const recordWords = worded({
  title: 'What happened',
  back: 'Back to the lesson',
  none: 'This class was never begun: there is nothing to look back on.',
  took: (actual: string, planned: string) => say`It took ${actual}; planned were ${planned}.`,
  finished: (done: number, of: number) => say`${done} of ${of} said Done to the last step.`,
  names: (names: string) => say`Finished: ${names}.`,
  columns: ['', 'planned', 'took', 'difference', 'half were done after', 'done'],
  never: 'not taught',
  parts: 'Group',
  together: 'All together',
  doneOf: (said: number, assumed: number, present: number) =>
    say`${said}${assumed > 0 ? say` and ${assumed} assumed` : ''} of ${present}`,
  paintedOn: (minutes: string) => say`painted on all the same, ${minutes} before it was dry`,
  touch: (minute: string, dry: boolean) => say`touched after ${minute}: ${dry ? say('dry') : say('not yet')}`,
  hands: 'Hands',
  noHands: 'Nobody raised a hand.',
  hand: (name: string, minute: string, reason: string, took: string | null) =>
    `${minute} ${name}, ${reason}${took === null ? '' : say`, helped after ${took}`}`,
  codeOf: (code: string) => say`class ${code}`,
  csv: 'Save as a table (CSV)',
  moments: 'Air, messages, holds',
  air: (air: string) => say`air noted: ${air}`,
  told: (text: string) => say`told all: ${text}`,
  held: (minutes: string) => say`held for ${minutes}`,
  notes: 'Your notes',
  notesAbout: 'For yourself only: no table that is saved has them.',
  goneStudent: 'Somebody who left',
  replay: 'Looking back',
  at: (minute: string) => say`At ${minute}`,
  minute: 'Minute of the class',
  play: 'Play',
  stop: 'Stop',
});

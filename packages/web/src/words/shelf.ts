import { say, worded } from '@viaticum/contract';
import { counted, minutesInWords } from '@viaticum/core/units';

/** The words of the shelf and of courses. */
export const shelfWords = worded({
  seen: 'Seen',
  find: 'Find in all lessons',
  findAbout: 'Titles, mixes, areas, tubes, words of steps',
  sort: 'Order',
  sorts: { changed: 'last changed first', title: 'by title', size: 'smallest canvas first', time: 'shortest first' },
  which: 'Which lessons',
  there: 'On the shelf',
  away: 'state|Put away',
  label: 'Label',
  anyLabel: 'all labels',
  none: 'No lesson here fits.',
  noneAway: 'Nothing is put away.',
  putAway: 'Put away',
  takeBack: 'Put back on the shelf',
  wentAway: (title: string) => say`“${title}” is put away.`,
  save: 'Save as a file',
  bringIn: 'Bring in',
  bringing: 'Bringing in',
  broughtIn: (added: number, there: number) =>
    added === 0
      ? say`What is in this file stands here already: ${counted(there, 'lesson')}.`
      : say`${counted(added, 'lesson')} came in${there > 0 ? say`; ${counted(there, 'lesson')} stood here already` : ''}.`,
  labels: 'Labels',
  labelsOf: (title: string) => say`Labels of “${title}”`,
  labelsAbout: 'Write a label and press Enter. A lesson may have several; they are yours alone.',
  labelsKeep: 'Keep these labels',
  count: (count: number) => counted(count, 'lesson'),
  kinds: {
    stage: 'stage',
    step: 'step',
    area: 'area',
    thing: 'thing',
    mix: 'mix',
    tube: 'tube',
    mark: 'mark',
    sample: 'canvas ahead',
  } as Record<string, string>,
});

export const courseWords = worded({
  courses: 'Courses',
  fresh: 'New course',
  freshTitle: 'A new course',
  freshAbout: 'Lessons in the order in which they are taught. What they need is bought once for all of them.',
  name: 'What is the course called?',
  make: 'Make the course',
  open: (title: string) => say`Open the course ${title}`,
  shelf: 'Shelf',
  remove: 'Delete',
  removeAsk: (title: string) => say`Delete the course “${title}”? Its lessons stay on the shelf.`,
  add: 'Add a lesson',
  empty: 'No lesson yet. Add the first one.',
  drag: (title: string) => say`Move ${title}`,
  out: 'Take out',
  outOf: (title: string) => say`Take ${title} out`,
  total: (lessons: number, minutes: number) => say`${counted(lessons, 'lesson')}, ${minutesInWords(minutes)} in all`,
  kit: 'For the whole course',
  kitAbout: (heads: number) =>
    say`Reckoned for ${counted(heads, 'painter')}, and who teaches. Brushes and tools go from lesson to lesson; paint is bought together; canvases and paper are for every lesson.`,
  every: 'every lesson',
  only: (places: number[]) => (places.length === 1 ? say`lesson ${places[0] as number}` : say`lessons ${places.join(', ')}`),
  what: 'What',
  of: 'For',
  cost: 'Cost',
  costs: (money: string, unpriced: number) =>
    unpriced > 0 ? say`${money} for what has a price; ${counted(unpriced, 'tube')} without one` : say`${money} for the paint`,
  gone: 'There is no such course. It may have been deleted.',
});

export const backupWords = worded({
  last: (when: string) => say`Backed up ${when}, on this machine.`,
  late: (days: number) => say`The last backup elsewhere is ${counted(days, 'day')} old.`,
  never: (days: number) => say`For ${counted(days, 'day')} nothing of this has been backed up elsewhere.`,
  how: 'A backup every night lies on this machine and goes with it. Take one to another disk now and then; npm run backup -- FILE does the same.',
  askOwner: 'Ask the owner of this Viaticum to take one to another disk.',
  take: 'Take a backup',
});

import { say, worded } from '@viaticum/contract';
import { counted, minutesInWords } from '@viaticum/core/units';

/** Words of the Log station. */
export const logWords = worded({
  topicsLabel: 'What to look at',
  topics: { learnt: 'What classes taught', classes: 'Classes', 'by-hand': 'By hand' },
  learnt: {
    title: 'What your classes suggest',
    about: 'Worked out of what happened. Nothing changes by itself; each can be undone.',
    none: 'Nothing yet that would be worth changing. It takes two classes of this lesson, and five touched coats in this room.',
    take: 'Take it',
    leave: 'Not for this lesson',
    taken: 'Taken. Undo brings it back.',
    longer: (minutes: number) =>
      Math.abs(minutes) < 0.5
        ? say('The lesson stays as long.')
        : minutes > 0
          ? say`The lesson grows by ${minutesInWords(minutes)}.`
          : say`The lesson shrinks by ${minutesInWords(-minutes)}.`,
    working: 'Reading what happened …',
  },
  classes: {
    title: 'Classes that were taught',
    find: 'Find in what was taught',
    findLong: 'Titles, steps, techniques, what was noted',
    which: 'Of which lessons',
    scopes: { lesson: 'This lesson', all: 'All lessons' },
    none: 'No class has ended yet. What happens in one stands here afterwards; one taught without Viaticum is noted by hand.',
    nothing: 'Nothing in the log contains these words.',
    people: (count: number) => counted(count, 'student'),
    took: (took: string, planned: string | null) =>
      planned === null ? say`took ${took}` : say`took ${took}, planned ${planned}`,
    steps: (count: number) => counted(count, 'step'),
    byHand: 'noted by hand',
    record: 'What happened',
    more: 'Older classes',
    trend: 'Minutes taken beside minutes planned, class by class',
    planned: 'planned',
    actual: 'took',
    left: 'left out',
    asked: (count: number) => say`${count} asked`,
    save: 'Save all as tables',
    note: 'Note',
    noteOf: (title: string) => say`Note of ${title}`,
    remove: 'Delete',
    removeAsk: (title: string) => say`Delete the notes of ${title}? This cannot be taken back.`,
  },
  hand: {
    title: 'A class taught without Viaticum',
    about: 'How long each step took, as far as you know it. What is left empty was left out.',
    date: 'Day',
    students: 'Students',
    read: 'Read a table (CSV)',
    columns: ['Step', 'planned min', 'took min', 'note'],
    took: (title: string) => say`Minutes of ${title}`,
    noteOf: (title: string) => say`What to note of ${title}`,
    note: 'What to remember',
    save: 'Put it into the log',
    saved: 'It stands in the log.',
    nothing: 'Enter how long at least one step took.',
    noSteps: 'Once the lesson has steps, a class of it can be noted here.',
  },
});

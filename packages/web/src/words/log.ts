import type { LoggedTouch } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import type { Change } from '@viaticum/core/log';
import { counted, listInWords, minutesInWords, the, volumeInWords } from '@viaticum/core/units';
import { techniqueWords } from './terms.js';

const paintNames = worded({
  slow: 'slow paint',
  're-wettable': 're-wettable paint',
  retarder: 'retarder',
  gel: 'gel',
});
const levelNames = worded({ beginner: 'beginners', improver: 'improvers', experienced: 'the experienced' });

/** Words of the Log station. */
export const logWords = worded({
  topicsLabel: 'What to look at',
  topics: {
    learnt: 'What classes taught',
    factors: 'Reckoned with',
    classes: 'Classes',
    pace: 'Pace',
    results: 'Canvases',
    finish: 'Finish',
    'by-hand': 'By hand',
  },
  learnt: {
    title: 'What your classes suggest',
    about: 'Worked out of what happened. Nothing changes by itself; each can be undone.',
    none: 'Nothing yet that would be worth changing. It takes two classes of this lesson, and five touched coats in this room.',
    take: 'Take it',
    leave: 'Not for this lesson',
    never: 'Never ask',
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
    findLong: 'Areas, mixes, techniques, steps, notes',
    which: 'Of which lessons',
    scopes: { lesson: 'This lesson', all: 'All lessons' },
    none: 'No class has ended yet. What happens in one stands here afterwards; one taught without Viaticum is noted by hand.',
    nothing: 'Nothing in the log contains these words.',
    people: (count: number) => counted(count, 'student'),
    took: (took: string, planned: string | null) =>
      planned === null ? say`took ${took}` : say`took ${took}, planned ${planned}`,
    steps: (count: number) => counted(count, 'step'),
    record: 'What happened',
    older: 'Older classes',
    inLessons: 'In your lessons',
    planned: 'planned',
    actual: 'took',
    left: 'left out',
    asked: (count: number, reasons: readonly string[]) =>
      reasons.length === 0 ? say`${count} asked` : say`${count} asked (${listInWords(reasons)})`,
    helped: (minutes: readonly number[]) =>
      minutes.length === 0 ? '' : say`helped for ${listInWords(minutes.map((one) => String(Math.max(1, Math.round(one)))))} min`,
    kinds: {
      alone: 'painted alone',
      practice: 'your practice',
      takes: 'filmed',
      'by-hand': 'noted by hand',
    },
    more: 'By student, touches, paint left',
    byStudent: 'Minutes of each student, numbered in the order in which they came',
    ownTimes: 'Minutes of each step',
    step: 'Step',
    student: (number: number) => `${number}`,
    touches: 'Coats that were touched',
    someCoat: 'a coat',
    touch: (title: string, { wetAtMin, dryAtMin, predictedMin }: LoggedTouch) =>
      [
        `${title}:`,
        [
          ...(wetAtMin === undefined ? [] : [say`still wet after ${minutesInWords(wetAtMin)}`]),
          ...(dryAtMin === undefined ? [] : [say`dry after ${minutesInWords(dryAtMin)}`]),
          say`reckoned ${minutesInWords(predictedMin)}`,
        ].join(', '),
      ].join(' '),
    air: 'The air',
    airAt: (minute: number, air: string) => say`${minutesInWords(minute)} after it began: ${air}`,
    save: 'Save all as tables',
    note: 'Note',
    noteOf: (title: string) => say`Note of ${title}`,
    remove: 'Delete',
    removeAsk: (title: string) => say`Delete the notes of ${title}? This cannot be taken back.`,
  },
  factors: {
    title: 'What is reckoned with',
    about:
      'Each line is found from what happened, with the bounds in which it lies four times in five. Above 0 % is longer, more or oftener than our model has it. It is taken over only by you, and can be taken back.',
    working: 'Reading what happened …',
    none: 'Nothing is known yet. Touch coats in a class, say Done, note what is left of the heaps: it stands here afterwards.',
    columns: { what: 'What', found: 'Found', from: 'Known from', present: 'Reckoned with', change: 'In this lesson' },
    nameOf: (key: string, room: string) => {
      const [what = '', kind = '', name = ''] = key.split(' ');
      if (key === 'drying room') return say`Drying in ${the(room)}`;
      if (what === 'drying')
        return kind === 'paint'
          ? say`Drying with ${paintNames[name as keyof typeof paintNames]}`
          : say`Drying, ${techniqueWords[name as keyof typeof techniqueWords]}`;
      if (what === 'pace')
        return kind === 'level'
          ? say`Minutes, ${levelNames[name as keyof typeof levelNames]}`
          : say`Minutes, ${techniqueWords[name as keyof typeof techniqueWords]}`;
      return { help: say('Minutes of one help'), asks: say('How often help is asked for'), paint: say('Paint that is used') }[
        what as 'help' | 'asks' | 'paint'
      ];
    },
    share: (factor: number) => {
      const percent = Math.round((factor - 1) * 100);
      return percent === 0 ? '0 %' : `${percent > 0 ? '+' : '−'}${Math.abs(percent)} %`;
    },
    range: (from: number, to: number): string => {
      const [low, high] = [from, to].map((one) => Math.round((one - 1) * 100)) as [number, number];
      const signed = (percent: number) => `${percent > 0 ? '+' : percent < 0 ? '−' : ''}${Math.abs(percent)}`;
      return say`${signed(low)} to ${signed(high)} %`;
    },
    known: (key: string, observations: number, classes: number) => {
      const what = key.split(' ')[0];
      const of = counted(classes, 'class', 'classes');
      if (what === 'drying') return say`${counted(observations, 'coat')} of ${of}`;
      if (what === 'pace') return say`${counted(observations, 'Done', 'Dones')} of ${of}`;
      if (what === 'help') return say`${counted(observations, 'help')} in ${of}`;
      if (what === 'paint') return say`${counted(observations, 'heap')} of ${of}`;
      return say`${counted(observations, 'time')} at a step, in ${of}`;
    },
    change: (change: Change | null) => {
      if (!change) return '';
      const { of, by } = change;
      if (of === 'ml')
        return by > 0 ? say`${volumeInWords(by)} more for each painter` : say`${volumeInWords(-by)} less for each painter`;
      const minutes = minutesInWords(Math.abs(by));
      if (of === 'help')
        return by > 0
          ? say`${minutes} more of helping in a class of twelve`
          : say`${minutes} less of helping in a class of twelve`;
      if (Math.abs(by) < 0.5) return say('The lesson stays as long.');
      return by > 0 ? say`The lesson grows by ${minutes}.` : say`The lesson shrinks by ${minutes}.`;
    },
    notYet: 'nothing to change',
    take: 'Reckon with it',
    takeOf: (what: string) => say`Reckon with it: ${what}`,
    back: 'Take it back',
    backOf: (what: string) => say`Take it back: ${what}`,
  },
  pace: {
    title: 'Pace',
    none: 'Two classes of this lesson, or two of your own practice runs, show here how they went.',
    trend: 'Minutes taken beside minutes planned, time by time',
    planned: 'planned',
    actual: 'class',
    alone: 'painted alone',
    aim: 'aim',
    target: 'Your aim for the next time',
    lower: (minutes: string) => say`Aim at ${minutes}`,
    lowerAbout: 'The mean of the last two times, less a twentieth: only when you want to be quicker.',
    returning: 'Who came again',
    returningAbout:
      'How long each takes against the plan, from all their classes. It feeds the forecast of a class they come to; nobody is ranked.',
    nobody: 'Nobody who came before is on your list. At the desk a student can be put on it, with their consent.',
    range: (from: number, to: number, classes: number) => {
      const [low, high] = [from, to].map((one) => Math.round((one - 1) * 100)) as [number, number];
      return say`(${low} to ${high} %, from ${counted(classes, 'class', 'classes')})`;
    },
  },
  results: {
    title: 'How the canvases came out',
    about:
      'Photograph each finished canvas as a whole, in even light. It is straightened, laid beside the picture and measured; told is only what most have otherwise, from five canvases on.',
    none: 'No class of this lesson has ended yet. Its canvases are measured here afterwards.',
    noSteps: 'Once the lesson has a painted step, canvases can be laid beside its picture.',
    ofClass: 'Canvases of',
    choose: 'Photograph of a canvas',
    another: 'The next canvas',
    kept: 'Photographs stay in this browser; only numbers are stored.',
    found: 'The corners of the canvas were found. Move one that is off.',
    pickThem: 'Put the four corners onto those of the canvas.',
    compare: 'Measure this canvas',
    strange:
      'Little of the picture is seen here, and nothing was stored. Look at the four corners: they lie on those of the canvas, not of a part of it.',
    leave: 'Leave it',
    theirs: 'The canvas, straightened',
    picture: 'The picture',
    measured: (areas: number, things: number) =>
      say`Measured: ${counted(areas, 'area')} in value, ${counted(things, 'thing')} in size and place.`,
    close: 'Close',
    measuredOf: (count: number) => say`${counted(count, 'canvas', 'canvases')} measured`,
    canvas: (number: number) => say`Canvas ${number}`,
    elsewhere: 'Its photograph is in another browser.',
    shared: (consent: string) => say`shared: ${consent}`,
    share: 'Share',
    shareIt: 'Share it',
    consent: 'What was said to that',
    consentLong: 'Mira said yes, 3 August',
    consentAbout:
      'Whoever painted it says whether it may be shown. Note who said yes, and when. It is stored then, shown to you in every browser, and goes when it is shared no more.',
    unshare: 'Share no more',
    remove: 'Delete',
    removeOf: (number: number) => say`Delete canvas ${number}`,
    removeAsk: 'Delete this canvas and what was measured on it?',
    group: 'The group as a whole',
    tooFew: 'It takes five measured canvases to tell of the group.',
    alike: (photos: number) => say`On ${counted(photos, 'canvas', 'canvases')} nothing is off one way on most of them.`,
    becomes: 'Each of these stands among what classes taught, as a question at the step where it goes wrong.',
  },
  finish: {
    title: 'Finish and after',
    stop: 'Is it finished?',
    stopAbout: 'Asked before anything more is painted.',
    open: 'The last class did not come to:',
    optional: 'Could still be painted, and need not be:',
    item: (title: string, minutes: string) => `${title} (${minutes})`,
    look: 'The last look, before tape and signature',
    when: 'When the canvases may be handled',
    ended: 'The class ended',
    noDates: 'Nothing is painted in this lesson yet, or this air takes no water.',
    kinds: {
      rack: 'Into the rack, or carried home',
      stack: 'Lying on each other, paper between',
      varnish: 'Varnish',
      pack: 'Pack',
    },
    kindAbout: {
      rack: 'Touch-dry: nothing against its face, away from sun and heater.',
      stack: 'Firm: with silicone paper or glassine between, face up, nothing heavy on it.',
      varnish: 'Cured through, dust wiped off, in fresh air.',
      pack: 'Nothing that sticks against the face; stand it upright.',
    },
    from: (when: string) => say`from ${when}`,
    label: 'By the late end of what our model says of the last coats in this air. The labels of paint and varnish decide.',
    subject: (what: string, title: string) => `${what}: ${title}`,
    remind: 'Write reminders to the outbox',
    written: (count: number) => say`${counted(count, 'reminder')} in the outbox.`,
    calendar: 'Save for a calendar',
    varnish: 'Which varnish',
    credit: 'Whose the picture is',
    copy: 'Copy',
    copied: 'Copied',
    noCredit: (number: number) => say`Reference ${number}: nothing is said of whose it is.`,
    sayIt: 'Say it',
  },
  heaps: {
    title: 'What was left of the heaps',
    about: 'At a glance, or weighed: six heaps of two classes tell how much paint is really used.',
    mixed: (volume: string) => say`${volume} mixed`,
    leftOf: (name: string) => say`Left of ${name}`,
    lefts: { none: 'none', some: 'some', half: 'half', most: 'most' },
    gramsOf: (name: string) => say`Grams left of ${name}`,
    save: 'Note what was left',
    saved: 'Noted.',
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

import { say, worded } from '@viaticum/contract';
import { capital, counted, the, verb } from '@viaticum/core/units';
import { apart, figure } from './exact.js';
/** Words of the topics Values, Preparing, Repair and For others, and of the read-through. */
export const valuesWords = worded({
  about:
    'The value each area should have, the step by which it stands, and the steps that turn round how neighbours stand to each other. From the mixes’ own colours.',
  none: 'Values need areas and steps with mixes.',
  area: 'Area',
  target: 'should be',
  last: 'ends at',
  due: 'stands after',
  noTarget: 'not set',
  bare: 'not painted',
  off: (l: number) =>
    Math.abs(l) < 2 ? say('right') : say`${Math.round(Math.abs(l))} too ${l > 0 ? say('light') : say('dark')}`,
  changes: 'Which steps turn neighbours round, and which put them right',
  noChanges: 'No step turns neighbours round.',
  breaks: (one: string, other: string, isLighter: boolean) =>
    say`${the(one)} ${verb(one, 'becomes', 'become')} ${isLighter ? say('lighter') : say('darker')} than ${the(other)}, and should not be`,
  repairs: (one: string, other: string, isLighter: boolean) =>
    say`${the(one)} ${verb(one, 'is', 'are')} ${isLighter ? say('lighter') : say('darker')} than ${the(other)} again, as it should be`,
  rough: 'The roughest stage',
  roughIs: (name: string, measured: boolean) =>
    say`“${name}” looks its worst at its end${measured ? say(', measured on the stage pictures') : say(', by the mixes’ colours')}.`,
  noRough: 'No stage looks clearly worse than the end.',
  announce: 'Announce it in the step before',
  announced: 'It is announced.',
});

const washedTimes = (n: number): string =>
  n === 0 ? say('never washed') : n === 1 ? say('washed once') : n === 2 ? say('washed twice') : say`washed ${n} times`;

export const preparingWords = worded({
  atHome: 'Done before the class',
  beginBy: (before: string, takes: string) => say`begin at the latest ${before} before the class; it takes ${takes}`,
  driesFor: (minutes: string) => say`then it dries for ${minutes}`,
  neverDries: 'never dries in this air',
  brushes: 'Brushes',
  about: (washes: number, written: number) =>
    washes < written
      ? say`Kept apart like this they are ${washedTimes(washes)}; with one of each kind they would be ${washedTimes(written)}.`
      : say`They are ${washedTimes(washes)}.`,
  none: 'No step names a brush and a mix yet.',
  kept: { darks: 'kept for darks', lights: 'kept for lights' },
  second: (n: number) => say`no. ${n}`,
  instead: (names: string) => say`or ${names}`,
  before: { clean: '', wipe: 'wipe', wash: 'wash' },
  hardens: (title: string, minutes: string) => say`After “${title}” it waits ${minutes}: rinse it and lay it flat.`,
  water: 'Fresh water',
  waterBefore: (title: string, mixes: number) =>
    say`Before “${title}”: ${counted(mixes, 'mix', 'mixes')} ${mixes === 1 ? say('has') : say('have')} gone into it.`,
  noWater: 'One pot of water is enough up to the breaks.',
  ahead: 'Canvases prepared ahead',
  aheadAbout: (saved: string, length: string) => say`With these a demonstration never waits: ${saved} saved, ${length} left.`,
  aheadNone: 'There is no pause that a demonstration would have to wait for.',
  aheadOne: (after: string, before: string) => say`Painted up to “${after}”, dry enough for “${before}”.`,
  aheadWhen: (minutes: string, wait: string) => say`Begin it ${minutes} before the class; it saves ${wait}.`,
  take: 'Put it on the list',
  taken: 'On the list',
  letGo: 'Take off the list',
});

export const repairWords = worded({
  about: 'Something went wrong at the minute of the raking light. What helps, and what each way costs in the plan.',
  area: 'Where',
  what: 'What is wrong',
  colour: 'the colour of the area',
  edge: (name: string) => say`the edge to ${name} is too hard`,
  at: (time: string) => say`at ${time}`,
  from: 'Colours',
  planned: 'as planned at this minute',
  photo: 'from a photograph',
  choose: 'Choose a photograph',
  tap: 'Tap first where it is wrong, then where it is right.',
  spots: { is: 'is', want: 'should be' },
  unknown: 'This area is still bare at this minute, or nothing says what it should be. Move the light, or take a photograph.',
  off: (deltaE: number) => (deltaE < 2.5 ? say('hardly off') : deltaE < 6 ? say('a little off') : say('clearly off')),
  leaves: (deltaE: number) =>
    say`then ${deltaE < 2.5 ? say('right to the eye') : deltaE < 6 ? say('close') : say('still off')}${figure(deltaE)}`,
  costs: (time: string) => say`${time} more in all`,
  costsNothing: 'no time',
  kinds: { lift: 'Lift', cover: 'Cover', glaze: 'Glaze', strip: 'Soften the edge', leave: 'Leave' },
  put: 'Put it into the steps',
});

export const othersWords = worded({
  about: 'The same lesson for others, kept as what differs: whatever you change in the lesson changes there too.',
  none: 'No variants yet. Another canvas, other kit, a left hand, children: add one for them.',
  add: 'New variant',
  name: 'Variant',
  nameNew: (n: number) => say`Variant ${n}`,
  size: 'Canvas',
  asLesson: 'as the lesson',
  level: 'Students',
  hand: 'Hand',
  hands: { right: 'right', left: 'left' },
  children: 'for children',
  withoutTubes: 'Tubes that are not there',
  withoutBrushes: 'Brushes that are not there',
  leaveOut: 'Steps left out',
  remove: 'Delete',
  differs: 'What differs',
  nothing: 'Nothing differs yet.',
  open: 'What you have to settle',
  length: (own: string, other: string) => say`${other} instead of ${own}`,
  copy: 'Make a lesson of its own',
  copied: 'It stands on the shelf.',
  working: 'Mixing from the other tubes',
  simpler: 'Simpler for beginners',
  simplerAbout: 'Fewer areas and mixes, larger brushes. What it takes from the picture is measured with half-closed eyes.',
  amounts: { 1: 'a little', 2: 'more', 3: 'much' } as Record<number, string>,
  fewer: (areas: number, mixes: number, steps: number, minutes: string | null) =>
    say`${counted(areas, 'area')}, ${counted(mixes, 'mix', 'mixes')} and ${counted(steps, 'step')} fewer${minutes ? say`; ${minutes} saved` : ''}.`,
  price: (before: number, after: number) =>
    say`With half-closed eyes the picture is ${apart(after)} instead of ${apart(before)}.`,
  measuring: 'Painting both',
  take: 'Take it',
});

export const readWords = worded({
  title: 'Read through',
  back: 'Back to the bench',
  print: 'Print',
  starts: (time: string, length: string) => say`from ${time}, ${length}`,
  palette: 'The palette',
  tubes: 'Tubes',
  brushes: 'Brushes',
  pause: (time: string) => say`Pause, ${time}`,
  watch: 'Watch for',
  look: 'Look',
  finish: 'After it',
  needs: 'Beneath',
  cautions: 'Usual cautions',
  cautionsText: [
    'Keep to the labels and safety sheets of what you use, and to local rules; ask a licensed tradesperson about wiring and ventilation.',
    'Wash hands, keep brushes out of the mouth and cups for paint out of the kitchen; let dried paint go to solid waste, rinse water not down a kitchen sink or storm drain.',
  ],
  metals: (names: string) =>
    say`${capital(names)} ${verb(names, 'contains', 'contain')} metals: never spray or sand ${verb(names, 'it', 'them')} dry, no finger painting.`,
  dryer: 'Hair dryers: keep them and their leads away from water; mind hot surfaces and the load on one circuit.',
  spatter: 'Spatter: mind eyes, neighbours and a slippery floor.',
  varnish: 'Varnish: brushed with fresh air, sprayed only outdoors or with proper ventilation, away from flames and dryers.',
  toRead: (minutes: string) => say`${minutes} to say`,
});

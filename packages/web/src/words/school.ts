import type { Level, School } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { counted, listInWords } from '@viaticum/core/units';
import { apart, figure } from './exact.js';

import { planWords } from './plan.js';

/** The choices of a school: what each asks, and its options. */
export const schoolWords: { [C in keyof School]: { ask: string; options: Record<School[C], string> } } = worded({
  order: {
    ask: 'Order',
    options: {
      'background-first': 'background first',
      'subject-first': 'subject first, background cut in',
      'whole-together': 'whole surface together',
      'part-by-part': 'part by part, each finished',
    },
  },
  values: {
    ask: 'Values',
    options: {
      'dark-to-light': 'dark to light, lightest last',
      'extremes-first': 'darkest, lightest, then between',
      'middle-out': 'middle tone out',
      'white-first': 'white first, coloured while wet',
      'transparent-darks': 'transparent darks first',
    },
  },
  layers: {
    ask: 'Layers',
    options: { 'dry-layers': 'several dry layers', 'one-wet-session': 'one wet session', glazes: 'glazes over a block-in' },
  },
  ground: {
    ask: 'Ground',
    options: { 'toned-one': 'toned, one colour', 'toned-several': 'toned, several colours', white: 'white' },
  },
  drawing: {
    ask: 'Drawing',
    options: {
      tracing: 'a tracing transferred',
      direct: 'straight on the canvas',
      grid: 'by a grid',
      envelope: 'envelope and negative shapes',
      'thin-paint': 'with thin paint',
      none: 'none',
    },
  },
  drawWhen: {
    ask: 'Drawn',
    options: {
      'before-anything': 'before anything',
      'after-ground': 'after the ground',
      'after-background': 'after the background is dry',
      'after-far-planes': 'after the far planes',
    },
  },
  detail: { ask: 'Detail', options: { suggest: 'suggested', render: 'rendered' } },
  drying: { ask: 'Drying', options: { wait: 'wait and do something useful', dryer: 'hair dryer', 'keep-wet': 'keep wet' } },
  thinning: {
    ask: 'Thinning',
    options: {
      medium: 'medium beyond a limit',
      water: 'water up to a limit',
      hardly: 'hardly any',
      'film-or-mist': 'film or mist of water',
    },
  },
  mixing: {
    ask: 'Mixing',
    options: {
      palette: 'on the palette',
      'on-the-brush': 'half mixed on the brush',
      'on-the-canvas': 'on the canvas',
      'all-premixed': 'all premixed',
    },
  },
  black: {
    ask: 'Black',
    options: { 'mixed-darks': 'mixed darks', 'tinted-near-black': 'a tinted near-black tube', 'black-allowed': 'black allowed' },
  },
  palette: {
    ask: 'Palette',
    options: { smallest: 'the smallest that reaches', 'primaries-and-white': 'primaries and white', rich: 'rich' },
  },
  transferMedium: {
    ask: 'Transfer',
    options: {
      'transfer-paper': 'transfer paper',
      'light-paper': 'light transfer paper',
      graphite: 'graphite on the back',
      charcoal: 'charcoal on the back',
      chalk: 'chalk or white',
    },
  },
  fidelity: {
    ask: 'Fidelity',
    options: { altered: 'altered to taste', true: 'true to the reference', 'no-reference': 'no reference' },
  },
  brushCare: {
    ask: 'Brushes',
    options: { wipe: 'wiped between mixes', wash: 'washed each time', 'several-brushes': 'several, light and dark apart' },
  },
  teaching: { ask: 'Teaching', options: { 'show-then-do': 'show, then do', 'paint-along': 'paint along' } },
  varnish: { ask: 'Varnish', options: { none: 'none', brushed: 'brushed', sprayed: 'sprayed' } },
  hardPart: { ask: 'The hard part', options: { 'as-they-come': 'when it comes', first: 'first', last: 'last' } },
  sweep: {
    ask: 'Gone over',
    options: { 'far-to-near': 'from far to near', 'by-value': 'value by value', 'by-mix': 'mix by mix' },
  },
  loading: {
    ask: 'Brush loaded with',
    options: { one: 'one mix', 'half-mixed': 'two, half mixed', double: 'two, side by side' },
  },
  reference: { ask: 'The picture', options: { 'in-sight': 'stays in sight', 'away-for-last-stage': 'is put away at the end' } },
});

export const ownWayWords = worded({
  title: 'Areas with a way of their own',
  add: 'Choose an area …',
  asLesson: 'as the lesson',
  like: (option: string) => say`as the lesson: ${option}`,
  choiceOf: (ask: string, area: string) => say`${ask} of ${area}`,
});

export const draftWords = worded({
  topic: 'Draft',
  about:
    'A lesson drafted from its areas and mixes by a school. Nothing changes until you take it; what you wrote yourself stays.',
  level: 'Students',
  levels: planWords.whatIf.levels satisfies Record<Level, string>,
  tongue: 'Language of its words',
  more: 'More choices',
  fewer: 'Fewer choices',
  needAreas: 'A draft needs areas. Draw or propose them at the Picture station, then come back.',
  summary: (steps: number, colours: number, time: string) =>
    `${counted(steps, 'step')}, ${counted(colours, 'mix', 'mixes')}, ${time}`,
  beside: 'Other orders beside it',
  draft: 'The draft',
  take: 'Take this draft',
  takeAll: 'Replace all steps by the draft',
  changes: (count: number) =>
    count === 0
      ? say('The steps are as the draft would have them.')
      : count === 1
        ? say('One difference to your steps')
        : say`${count} differences to your steps`,
  add: (title: string) => say`New: ${title}`,
  remove: (title: string) => say`No longer: ${title}`,
  change: (title: string, fields: string) => say`${title}: other ${fields}`,
  fields: {
    title: 'title',
    technique: 'technique',
    mixIds: 'mixes',
    brushId: 'brush',
    needs: 'relation beneath',
    medium: 'medium',
    coverShare: 'share covered',
    partByPart: 'way of following',
    say: 'words',
    watch: 'mistakes to watch for',
    checkpoint: 'checkpoint',
    finish: 'look after it',
  } as Record<string, string>,
  takeOne: 'Take',
  wanted: 'How long',
  minutes: 'min',
  working: 'Drafting …',
  withoutNow: (titles: readonly string[]) =>
    say`No room in its length for: ${listInWords(titles)}. Each can be brought back later.`,
  method: {
    title: 'Your own method',
    unnamed: 'my way',
    about:
      'Your own rules go before those of the school. Kept under a name they are there for every lesson, and when one is begun.',
    kept: 'Kept methods',
    none: 'none',
    coats: 'Coats of an area at most',
    breakEvery: 'A break every, min',
    later: 'Later coats',
    asSchool: 'as the school has it',
    laterShare: 'Their share of the area, %',
    say: (technique: string) => say`What you say with ${technique}`,
    name: 'Name of your method',
    keep: 'Keep this way',
    isKept: 'Kept.',
  },
});

export const stageWords = worded({
  about: 'The canvas after each step, painted in the mixed colours. Press and hold the large one to see it before its last step.',
  off: (mean: number) =>
    say`With half-closed eyes the last one is ${mean < 3 ? say('close to') : mean < 7 ? say('some way from') : say('far from')} the picture${figure(mean)}.`,
  photo: 'Show a photograph instead',
  bringing: 'Bringing it in',
  computed: 'Show the computed picture again',
  nearness: (list: string) => say`Difference from the picture after every step: ${list}`,
  nearnessAbout: (first: number, last: number) =>
    say`Difference from the picture after every step, with half-closed eyes: ${apart(first)} at first, ${apart(last)} at last.`,
  rises: (title: string, by: number) => say`It grows again in “${title}”${figure(by)}.`,
  painting: (share: number) => say`Painting, ${Math.round(Math.min(1, share) * 100)} %`,
});

import { say, worded } from '@viaticum/contract';
import type { ReadySchool } from '@viaticum/core/draft';

/** Words for a lesson begun with its picture. */
export const beginWords = worded({
  pages: { picture: 'Picture and class', things: 'Things', fits: 'What fits' },
  toThings: 'Next: its things',
  toFits: 'Next: what fits',
  fits: {
    about: 'How the canvases would look at the end, by how long the class is. Choose one; everything can still be changed.',
    names: { less: 'Less', fitting: 'As asked', more: 'More' },
    asked: (minutes: string) => say`for ${minutes}`,
    drafting: (name: string) => say`Drafting: ${name}`,
    picture: (name: string) => say`The last stage: ${name}`,
    lasts: 'Lasts',
    waits: 'Waiting for paint',
    none: 'none',
    steps: 'Steps',
    mixes: 'Mixes',
    from: (mixes: number, tubes: number) => say`${mixes} from ${tubes} tubes`,
  },
  back: 'Back',
  move: 'Move the picture',
  turn: 'Level',
  zoom: 'Nearer',
  loses: (share: string) => say`${share} of the picture is cut off. Drag it to choose what.`,
  losesNothing: 'All of the picture is on the canvas.',
  choose: 'Choose a picture',
  other: 'Another picture',
  about: 'With a picture the whole lesson is drafted: what is in it, mixes with recipes, and the steps.',
  school: 'School',
  level: 'Students',
  wanted: 'How long',
  minutes: 'min',
  make: 'Draft the lesson',
  take: 'Begin with this one',
  schools: {
    layers: { name: 'Back to front, in dry layers', why: 'Soft overlaps come by themselves, and a dry layer can be corrected.' },
    subject: { name: 'Subject first, background cut in', why: 'A strong silhouette decides the gesture.' },
    wet: { name: 'All together, in one wet session', why: 'Wet into wet gives softness and unity.' },
    glazes: { name: 'Glazes over a block-in, on white', why: 'Glazes over an opaque layer give depth.' },
    parts: { name: 'Part by part, each finished', why: 'Full attention on one thing at a time.' },
  } satisfies Record<ReadySchool, { name: string; why: string }>,
  ownMethod: (name: string) => say`Your own: ${name}`,
  working: (share: number) => {
    if (share < 0.6) return say('Looking for areas');
    if (share < 0.72) return say('Looking at edges and directions');
    if (share < 0.9) return say('Finding recipes');
    return say('Writing the steps');
  },
  uploading: 'Bringing the picture in',
});

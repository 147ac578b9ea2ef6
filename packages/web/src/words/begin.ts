import type { ReadySchool } from '@viaticum/core/draft';

/** Words for a lesson begun with its picture. */
export const beginWords = {
  picture: 'Picture',
  choose: 'Choose a picture',
  other: 'Another picture',
  without: 'No picture: begin with a bare canvas',
  about: 'With a picture the whole lesson is drafted: areas, mixes with recipes, and the steps. You decide four things.',
  canvas: 'Canvas',
  school: 'School',
  level: 'Students',
  wanted: 'How long',
  minutes: 'min',
  make: 'Draft the lesson',
  schools: {
    layers: { name: 'Back to front, in dry layers', why: 'Soft overlaps come by themselves, and a dry layer can be corrected.' },
    subject: { name: 'Subject first, background cut in', why: 'A strong silhouette decides the gesture.' },
    wet: { name: 'All together, in one wet session', why: 'Wet into wet gives softness and unity.' },
    glazes: { name: 'Glazes over a block-in, on white', why: 'Glazes over an opaque layer give depth.' },
    parts: { name: 'Part by part, each finished', why: 'Full attention on one thing at a time.' },
  } satisfies Record<ReadySchool, { name: string; why: string }>,
  ownMethod: (name: string) => `Your own: ${name}`,
  working: (share: number) => {
    if (share < 0.6) return 'Looking for areas';
    if (share < 0.72) return 'Looking at edges and directions';
    if (share < 0.9) return 'Finding recipes';
    return 'Writing the steps';
  },
  uploading: 'Bringing the picture in',
};

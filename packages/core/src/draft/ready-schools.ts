import type { School } from '@viaticum/contract';
import { defaultSchool } from '../document/index.js';

/** Sets of choices that belong together, to begin with; each can be changed afterwards. */
export const readySchools = {
  layers: {},
  subject: { order: 'subject-first', drawing: 'direct', drawWhen: 'after-ground' },
  wet: {
    drawWhen: 'before-anything',
    order: 'whole-together',
    layers: 'one-wet-session',
    drying: 'keep-wet',
    thinning: 'film-or-mist',
    values: 'middle-out',
  },
  glazes: { layers: 'glazes', values: 'transparent-darks', ground: 'white', drawing: 'grid', drawWhen: 'before-anything' },
  parts: { order: 'part-by-part', values: 'extremes-first', ground: 'white', detail: 'render', brushCare: 'several-brushes' },
} as const satisfies Record<string, Partial<School>>;
export type ReadySchool = keyof typeof readySchools;

export const schoolOf = (ready: ReadySchool): School => ({ ...defaultSchool, ...readySchools[ready] });

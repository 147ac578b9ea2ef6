import { type Static, Type } from 'typebox';
import { Name, oneOf, optional, strict } from '../shapes.js';
import { techniques } from './steps.js';
import { Words } from './values.js';

/** The choices of a school, default first (see the guide to schools in the interface catalogue). */
export const schoolChoices = {
  order: ['background-first', 'subject-first', 'whole-together', 'part-by-part'],
  values: ['dark-to-light', 'extremes-first', 'middle-out', 'white-first', 'transparent-darks'],
  layers: ['dry-layers', 'one-wet-session', 'glazes'],
  mixing: ['palette', 'on-the-brush', 'on-the-canvas', 'all-premixed'],
  ground: ['toned-one', 'toned-several', 'white'],
  drawing: ['tracing', 'direct', 'grid', 'envelope', 'thin-paint', 'none'],
  drawWhen: ['before-anything', 'after-ground', 'after-background', 'after-far-planes'],
  transferMedium: ['transfer-paper', 'light-paper', 'graphite', 'charcoal', 'chalk'],
  fidelity: ['altered', 'true', 'no-reference'],
  drying: ['wait', 'dryer', 'keep-wet'],
  black: ['mixed-darks', 'tinted-near-black', 'black-allowed'],
  palette: ['smallest', 'primaries-and-white', 'rich'],
  thinning: ['medium', 'water', 'hardly', 'film-or-mist'],
  detail: ['suggest', 'render'],
  brushCare: ['wipe', 'wash', 'several-brushes'],
  teaching: ['show-then-do', 'paint-along'],
  varnish: ['none', 'brushed', 'sprayed'],
  hardPart: ['as-they-come', 'first', 'last'],
  sweep: ['far-to-near', 'by-value', 'by-mix'],
  loading: ['one', 'half-mixed', 'double'],
  reference: ['in-sight', 'away-for-last-stage'],
} as const;

export const School = Type.Object(
  {
    order: oneOf(schoolChoices.order),
    values: oneOf(schoolChoices.values),
    layers: oneOf(schoolChoices.layers),
    mixing: oneOf(schoolChoices.mixing),
    ground: oneOf(schoolChoices.ground),
    drawing: oneOf(schoolChoices.drawing),
    drawWhen: oneOf(schoolChoices.drawWhen),
    transferMedium: oneOf(schoolChoices.transferMedium),
    fidelity: oneOf(schoolChoices.fidelity),
    drying: oneOf(schoolChoices.drying),
    black: oneOf(schoolChoices.black),
    palette: oneOf(schoolChoices.palette),
    thinning: oneOf(schoolChoices.thinning),
    detail: oneOf(schoolChoices.detail),
    brushCare: oneOf(schoolChoices.brushCare),
    teaching: oneOf(schoolChoices.teaching),
    varnish: oneOf(schoolChoices.varnish),
    hardPart: oneOf(schoolChoices.hardPart),
    sweep: oneOf(schoolChoices.sweep),
    loading: oneOf(schoolChoices.loading),
    reference: oneOf(schoolChoices.reference),
  },
  strict,
);

export type School = Static<typeof School>;

/** The choices that an area or a thing may have of its own, over those of the lesson. */
export const ownChoices = ['layers', 'values', 'mixing', 'loading', 'detail', 'thinning', 'drying'] as const;

export const OwnChoices = Type.Object(
  {
    layers: optional(oneOf(schoolChoices.layers)),
    values: optional(oneOf(schoolChoices.values)),
    mixing: optional(oneOf(schoolChoices.mixing)),
    loading: optional(oneOf(schoolChoices.loading)),
    detail: optional(oneOf(schoolChoices.detail)),
    thinning: optional(oneOf(schoolChoices.thinning)),
    drying: optional(oneOf(schoolChoices.drying)),
  },
  strict,
);

export type OwnChoices = Static<typeof OwnChoices>;

/** An instructor's own way of drafting, beside the choices of the school. */
export const Method = Type.Object(
  {
    name: Name,
    /** Coats of an area at most. */
    coats: optional(Type.Integer({ minimum: 1, maximum: 8 })),
    /** How later coats are laid, and on what share of their area. */
    laterTechnique: optional(oneOf(techniques)),
    laterShare: optional(Type.Number({ minimum: 0.05, maximum: 1 })),
    /** Areas smaller than this share of the canvas get one coat. */
    plainBelowShare: optional(Type.Number({ minimum: 0, maximum: 0.5 })),
    breakEveryMin: optional(Type.Number({ minimum: 15, maximum: 240 })),
    /** What is said with a technique, in the instructor's own words. */
    says: optional(Type.Array(Type.Object({ technique: oneOf(techniques), say: Words }, strict), { maxItems: 20 })),
  },
  strict,
);

export type Method = Static<typeof Method>;

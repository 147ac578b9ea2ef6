import type { MarkKind, Outline, PassagePlacement } from '@viaticum/contract';
import type { LabRaster } from '../raster/index.js';
import type { Glaze } from './glaze.js';
import type { TouchName } from './strokes.js';

export type StageColour = {
  rgb: readonly [number, number, number];
  lab: readonly [number, number, number];
  /** Laid as a clear film, through which one sees what lies below. */
  glaze?: Glaze;
};
export type StageArea = {
  id: string;
  /** 255 where the area is seen, and where it is painted (past its edge), 0 elsewhere. */
  seen: Uint8Array;
  painted: Uint8Array;
  /** Rows beyond which neither mask holds anything. */
  rows: { from: number; to: number };
  outline: Outline;
  turn: number;
  /** Strokes run towards this place (px), or round it, in place of one direction. */
  flow: { kind: 'towards' | 'round'; x: number; y: number } | null;
  /** Which edges fade, in short. */
  fades: string;
  seed: number;
  /** How strokes over its surface run where nobody combed it, and the strokes by which it was combed (px, from and to). */
  run: 'along' | 'level' | 'up' | 'any';
  combed: readonly (readonly [number, number, number, number])[];
};
/** Strokes of a pass over a surface: sizes in px, jitter in 1/1024 turns, width at the end over that at the beginning in 1/256. */
export type StageStrokes = {
  widthPx: number;
  lengthPx: number;
  everyPx: number;
  jitter: number;
  ends: number;
  /** Laid only where the canvas comes nearer to the picture by so much (ΔE), and at most so many. */
  gain: number;
  only: 'dark' | 'light' | null;
  most: number;
  /** They follow what the picture shows there, also where their area's strokes run towards a point. */
  isByPicture: boolean;
};
/** What one step does to one area. */
export type StagePass = {
  area: number;
  colours: StageColour[];
  touch: TouchName;
  isBlend: boolean;
  /** Of a wet passage: where each colour lies on the area, null all over it; as the picture has it where nothing is said. */
  at?: (PassagePlacement | null)[];
  isFirst: boolean;
  share: number;
  brushPx: number;
  /** It goes over a surface with strokes of their own. */
  strokes?: StageStrokes;
  /** Only on one side of the area, and fading from there: a vector towards it. */
  toward: { x: number; y: number } | null;
};
/** Marks as they are laid: strewn over what is seen of an area, or evenly round a point; lengths in px. */
export type StageMarks = {
  area: number;
  kind: MarkKind;
  count: number;
  lengthPx: number;
  widthPx: number;
  /** Width at the end over the width at the beginning, in 1/256. */
  ends: number;
  turn: number | null;
  round: { x: number; y: number; radiusPx: number; turnDeg: number } | null;
  /** Each along its own line, as x, y, x, y … in px, over whatever lies there; null where they are strewn or set round a point. */
  along: number[][] | null;
  colours: StageColour[];
  protect: number[];
  seed: number;
};
export type StageStep = { id: string; seed: number; passes: StagePass[]; marks: StageMarks[]; lines: boolean; key: string };
export type StageInput = {
  width: number;
  height: number;
  mmPerPx: number;
  bare: readonly [number, number, number];
  areas: StageArea[];
  steps: StageStep[];
  /** The reference as it will be painted, `factor` times smaller; null without one. */
  aim: LabRaster | null;
  factor: number;
  /** The reference as strokes over surfaces look at it, `factor` times smaller than the canvas; null where there are none. */
  fine: { aim: LabRaster; factor: number } | null;
  seed: number;
};

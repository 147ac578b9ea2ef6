import type { StageArea, StageInput, StagePass } from './scene.js';

/** The cells of an area on the coarse map: how much of each belongs to it, what lies there now and what is wanted. */
export type Coarse = {
  width: number;
  height: number;
  cells: Int32Array;
  /** Cells that lie wholly in what is seen of the area. */
  sure: Int32Array;
  now: { l: Float32Array; a: Float32Array; b: Float32Array };
  aim: StageInput['aim'];
};

/** What a pass does in every cell. */
export type Chosen = {
  /** The number of its colour (pairs in eighths for a blend), or -1 where the pass leaves it alone. */
  index: Int16Array;
  palette: [number, number, number][];
  /** What a clear film makes of what lies below, for each colour of a glaze; null for paint that covers. */
  films: Uint8Array[] | null;
  /** Where paint is dragged or rubbed on: how much of it, 0-255, so that a passage is graded; null: all or nothing. */
  strength: Uint8Array | null;
};

/** What a pass will do, worked out before a stroke is laid: where its area lies, and what goes into every cell. */
export type ReadyPass = {
  pass: StagePass;
  area: StageArea;
  own: Uint8Array;
  coarse: Coarse;
  chosen: Chosen;
  seed: number;
  /** The brush as it is used: a small area takes a small one, or its shape is lost. */
  brushPx: number;
};

import type { Area, Correction, Lab, Lesson, Mark, Outline, Placement, Thing } from '@viaticum/contract';
import type { CardReading } from '@viaticum/core/drawdown';
import type { Redone, ToldLines } from '@viaticum/core/lesson-from-picture';
import type { AreaLight } from '@viaticum/core/light';
import type {
  ComposeArea,
  ComposedArea,
  CompositionNote,
  EdgeMeasure,
  FlowStroke,
  Look,
  Tap,
  ToldThing,
  ValueClass,
} from '@viaticum/core/picture';
import type { AreaOff } from '@viaticum/core/stage';
import type { Corners, DrawingCheck, DrawnLine, Line } from '@viaticum/core/transfer';
import type { ProposedThing, ThingMark } from '@viaticum/kernels/things';

/** A placed reference by the address of its pixels. */
export type SourceAt = {
  url: string;
  widthPx: number;
  heightPx: number;
  placement: Placement;
  correction?: Correction | undefined;
  extend?: boolean | undefined;
};
export type LayArgs = {
  canvas: { widthMm: number; heightMm: number };
  whole: SourceAt | null;
  others: [string, SourceAt][];
  areas: ComposeArea[];
  things: Thing[];
};
/** An area as shown: its sheet, what is seen of it, its name and mean colour. */
export type ShownArea = { region: number; name: string; outline: Outline; seen: Outline; meanLab: Lab };

/** Things by their marks; `hints` names for each thing the one of the first proposal that it was, if any. */
export type Marked = { marks: ThingMark[]; things: number; hints?: (number | null)[] };

type BeginArgs = { lesson: Lesson; areas?: number; told?: Marked & { named: ToldThing[] }; lines?: ToldLines[] };

/** What the picture worker can be asked, with what it answers. All after the first work on what was last laid. */
export type PictureJobs = {
  /** Puts the picture together; `image` shows it where it differs from the reference itself. */
  lay: { args: LayArgs; answer: { image: Blob | null; mmPerPx: number; continuedShare: number; patterned: string[] } };
  values: { args: { count: number; blurMm: number }; answer: { image: Blob; classes: ValueClass[] } };
  grey: { args: { blurMm: number }; answer: { image: Blob } };
  extremes: { args: { share: number }; answer: { dark: Outline; light: Outline; darkL: number; lightL: number } };
  spots: { args: { places: [number, number][]; radiusMm: number }; answer: (Lab | null)[] };
  propose: {
    /** By colour into about `count` areas, guided by taps; or, with marks, into the things that they name. */
    args: { count: number; taps: Tap[]; refined: boolean; marked?: Marked };
    /** `byThings`: they are the things that were marked, each by its number. `doubt`: where a mark would help most (shares), if anywhere. */
    answer: { areas: ShownArea[]; spread: number; taps: number; byThings: boolean; doubt: [number, number] | null };
  };
  /** What each of some marked things looks like, as far as enough of it is seen. */
  looks: { args: { marked: Marked }; answer: (Look | null)[] };
  /** For each of the areas the number of the old one that it stands for, or null; for each old one the new ones that lie in it. */
  match: { args: { areas: Outline[]; old: Outline[] }; answer: { stands: (number | null)[]; heirs: number[][] } };
  region: { args: { at: [number, number]; tolerance: number }; answer: Outline };
  edges: { args: { areas: Outline[] }; answer: EdgeMeasure[] };
  flow: { args: { areas: Outline[] }; answer: FlowStroke[] };
  notes: { args: { areas: ComposedArea[]; subjectId: string | undefined }; answer: CompositionNote[] };
  /** The canvas after each wanted step, painted; how far each of them, and the last, lies from the picture when both are squinted at (ΔE00), and the last one by areas. */
  stages: {
    args: { lesson: Lesson; widthPx: number; wanted: string[]; withPicture: boolean };
    answer: { images: [string, Blob][]; offs: { stepId: string; mean: number; p95: number }[]; areas: AreaOff[] };
  };
  /** A whole lesson from the laid picture: areas, tubes, mixes, steps. */
  begin: { args: BeginArgs; answer: Lesson };
  /** The same with its last stage, and how long it lasts, waiting for paint and all. */
  fit: { args: BeginArgs; answer: { lesson: Lesson; endMin: number; heldMin: number; image: Blob } };
  /** What becomes of a lesson with other areas, nothing of it taken yet; with the last stage as it was and as it would be. */
  redo: {
    args: { lesson: Lesson; areas: Area[]; heirs: Record<string, string[]>; lines?: Mark[] };
    answer: Redone & { images: { before: Blob; after: Blob } };
  };
  /** The same but for what is refused of it. */
  refuse: {
    args: { lesson: Lesson; redone: Redone; refused: string[] };
    answer: { refused: string[]; lesson: Lesson; minutes: number; image: Blob };
  };
  /** A lesson without a photograph as its light makes it; null where no body is said. */
  lit: { args: { lesson: Lesson }; answer: { image: Blob | null } };
  /** Where the light of the laid picture comes from, the surest first, and two things that are lit from different sides. */
  lightsIn: { args: { lesson: Lesson }; answer: { found: AreaLight[]; two: [AreaLight, AreaLight] | null } };
  /** What the picture may be of, without a mark; or, where areas are given, these: marks then put them right. */
  things: { args: { known?: Outline[] }; answer: ProposedThing[] };
  means: { args: { areas: Outline[] }; answer: (Lab | null)[] };
  /** The computed lines of the drawing, heaviest first; from the picture where there is one. */
  lines: { args: { lesson: Lesson; withPicture: boolean }; answer: DrawnLine[] };
  /** A photograph's size, and the corners of the canvas in it where they are found. */
  corners: { args: { photo: Blob; proportion?: number }; answer: { widthPx: number; heightPx: number; corners: Corners | null } };
  /** The colours of a card of drawdowns in a photograph, by its corners and the L* of its grey card. */
  card: { args: { photo: Blob; corners: Corners; greys: number[] }; answer: CardReading };
  /** A photograph of a drawing (or of the canvas after a step) against the template. */
  compare: {
    args: { lesson: Lesson; lines: Line[]; photo: Blob; corners: Corners; afterStepId: string | null };
    answer: Omit<DrawingCheck, 'straight'> & { image: Blob; expected: Blob | null };
  };
};
export type JobName = keyof PictureJobs;

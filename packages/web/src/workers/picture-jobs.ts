import type { Correction, Element, Lab, Lesson, Outline, Placement } from '@viaticum/contract';
import type {
  ComposedZone,
  ComposeZone,
  CompositionNote,
  EdgeMeasure,
  FlowStroke,
  Tap,
  ValueClass,
} from '@viaticum/core/picture';

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
  zones: ComposeZone[];
  elements: Element[];
};
/** A zone as shown: its sheet, what is seen of it, its name and mean colour. */
export type ShownZone = { region: number; name: string; outline: Outline; seen: Outline; meanLab: Lab };

/** What the picture worker can be asked, with what it answers. All after the first work on what was last laid. */
export type PictureJobs = {
  /** Puts the picture together; `image` shows it where it differs from the reference itself. */
  lay: { args: LayArgs; answer: { image: Blob | null; mmPerPx: number; continuedShare: number; patterned: string[] } };
  values: { args: { count: number; blurMm: number }; answer: { image: Blob; classes: ValueClass[] } };
  grey: { args: { blurMm: number }; answer: { image: Blob } };
  extremes: { args: { share: number }; answer: { dark: Outline; light: Outline; darkL: number; lightL: number } };
  spots: { args: { places: [number, number][]; radiusMm: number }; answer: (Lab | null)[] };
  propose: {
    args: { count: number; taps: Tap[]; refined: boolean };
    answer: { zones: ShownZone[]; spread: number; taps: number };
  };
  /** For each of the zones the number of the old one that it stands for, or null; for each old one the new ones that lie in it. */
  match: { args: { zones: Outline[]; old: Outline[] }; answer: { stands: (number | null)[]; heirs: number[][] } };
  region: { args: { at: [number, number]; tolerance: number }; answer: Outline };
  edges: { args: { zones: Outline[] }; answer: EdgeMeasure[] };
  flow: { args: { zones: Outline[] }; answer: FlowStroke[] };
  notes: { args: { zones: ComposedZone[]; subjectId: string | undefined }; answer: CompositionNote[] };
  /** The canvas after each wanted step, painted; and how far each of them, and the last, lies from the picture when both are squinted at (ΔE00). */
  stages: {
    args: { lesson: Lesson; widthPx: number; wanted: string[]; withPicture: boolean };
    answer: { images: [string, Blob][]; offs: { stepId: string; mean: number; p95: number }[] };
  };
  /** A whole lesson from the laid picture: areas, tubes, heaps, steps. */
  begin: { args: { lesson: Lesson; zones?: number }; answer: Lesson };
  means: { args: { zones: Outline[] }; answer: (Lab | null)[] };
};
export type JobName = keyof PictureJobs;

import type { Lesson, Studio } from '@viaticum/contract';
import type { visibleOf } from '@viaticum/core/derived';
import type { KitLine, KitPaint } from '@viaticum/core/kit';
import type { MixLook } from '@viaticum/core/mix';
import type { LessonPlan } from '@viaticum/core/plan';
import type { Sheet } from './sheet.js';

/** All that the parts of a pack are made from. */
export type Pack = {
  sheet: Sheet;
  lesson: Lesson;
  plan: LessonPlan;
  paint: KitPaint;
  lines: readonly KitLine[];
  studio: Studio;
  looks: ReadonlyMap<string, MixLook>;
  parts: ReturnType<typeof visibleOf>;
  heads: number;
  isCopy: boolean;
  /** The canvas after each step (JPEG), by its id. */
  pictures: ReadonlyMap<string, Uint8Array>;
  /** The number of each step. */
  numbers: ReadonlyMap<string, number>;
};

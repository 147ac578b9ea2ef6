import type { Lesson } from '@viaticum/contract';
import { cssRgb, deltaE00 } from '@viaticum/kernels/colour';
import { mixColour, partsOf } from '@viaticum/kernels/mixing';
import { type LookPart, paintOf, recipeInWords, shortTubeName, stockOf, suggest, tableOf, tubeRgb } from '../mix/index.js';
import { offInWords } from '../units/index.js';
import { looksOf } from './looks.js';

/** A mix as it can be had without some tubes: other parts, and how far the colour is from the one shown to all. */
export type OtherRecipe = {
  mixId: string;
  words: string;
  parts: { name: string; rgb: string; weight: number; tubeId: string; parts: LookPart['parts'] }[];
  rgb: string;
  wetRgb: string;
  deltaE: number;
  off: string;
};

/** The tubes of a lesson that are not in a kit. An empty kit means that nothing was said: none is lacking. */
export const lackingTubes = (lesson: Lesson, kit: readonly string[]): string[] =>
  kit.length === 0 ? [] : lesson.tubes.filter((tube) => !kit.includes(tube.id)).map((tube) => tube.id);

/**
 * All mixes that use a lacking tube (or a mix mixed from it), mixed from the others to come as near as can be to the colour
 * that the class sees. Yields the share done. Empty where no tube is left.
 */
export function* substitutes(lesson: Lesson, lacking: readonly string[]): Generator<number, OtherRecipe[]> {
  const tubes = lesson.tubes.filter((tube) => !lacking.includes(tube.id));
  const touched = (mix: Lesson['mixes'][number], depth = 0): boolean =>
    depth < 20 &&
    (mix.recipe.some((part) => lacking.includes(part.tubeId)) ||
      (mix.mixedFrom ?? []).some((part) => {
        const mix = lesson.mixes.find((one) => one.id === part.mixId);
        return mix !== undefined && touched(mix, depth + 1);
      }));
  const affected = lesson.mixes.filter((mix) => touched(mix) && looksOf(lesson).get(mix.id)?.colour);
  if (tubes.length === 0 || affected.length === 0) return [];
  const { finish } = lesson;
  const stock = stockOf({ ...lesson, mixes: [] }, lacking);
  const building = tableOf(stock, { finish });
  let step = building.next();
  for (; !step.done; step = building.next()) yield step.value.share * 0.9;
  const out: OtherRecipe[] = [];
  for (const [i, mix] of affected.entries()) {
    const aim = looksOf(lesson).get(mix.id)?.colour?.lab;
    const [best] = aim ? suggest(aim, stock, step.value, { finish }) : [];
    if (aim && best) {
      const parts = best.parts.map(({ id, parts }) => {
        const tube = tubes.find((one) => one.id === id) as Lesson['tubes'][number];
        return {
          tubeId: id,
          name: shortTubeName(tube),
          rgb: cssRgb(tubeRgb(tube, finish)),
          weight: partsOf(parts),
          parts,
          paint: paintOf(tube),
        };
      });
      const mixed = parts.map(({ paint, parts }) => ({ pigment: paint, parts }));
      const dry = mixColour(mixed, { finish });
      out.push({
        mixId: mix.id,
        words: recipeInWords(
          best.parts.map(({ id, parts }) => ({ tubeId: id, parts })),
          (id) => parts.find((part) => part.tubeId === id)?.name ?? '',
        ),
        parts: parts.map(({ paint: _, ...part }) => part),
        rgb: cssRgb(dry.srgb),
        wetRgb: cssRgb(mixColour(mixed, { state: 'wet', finish }).srgb),
        deltaE: deltaE00(aim, dry.lab),
        off: offInWords(aim, dry.lab),
      });
    }
    yield 0.9 + (0.1 * (i + 1)) / affected.length;
  }
  return out;
}

import type { Rgba } from '../raster/index.js';
import type { StageInput } from './input.js';
import { bareCanvas, stepPainter } from './paint.js';
import { type Canvas, shaded } from './strokes.js';

type Kept = { key: string; canvas: Canvas };

/**
 * Paints a lesson step by step and remembers the canvas after each, so that a change is painted anew only from the first step
 * that differs. What it gives equals a painting from nothing, byte for byte. One session for one canvas and one picture.
 */
export function stageSession() {
  let kept: Kept[] = [];
  let ground = '';
  return {
    /** Paints what is not painted yet; yields the number of steps done. Answers the canvas as it is seen after each wanted step. */
    *paint(input: StageInput, wanted: readonly string[]): Generator<number, Map<string, Rgba>> {
      const base = `${input.width}x${input.height} ${input.seed} ${keyOfMasks(input)}`;
      if (base !== ground) {
        ground = base;
        kept = [];
      }
      let same = 0;
      while (same < kept.length && same < input.steps.length && kept[same]?.key === input.steps[same]?.key) same++;
      kept = kept.slice(0, same);
      const out = new Map<string, Rgba>();
      const canvas = copy(kept.at(-1)?.canvas ?? bareCanvas(input));
      const pen = stepPainter(input, canvas);
      const show = (id: string, of: Canvas) =>
        wanted.includes(id) && out.set(id, { width: of.width, height: of.height, data: shaded(of, pen.teeth) });
      for (const [i, step] of input.steps.slice(0, same).entries()) show(step.id, (kept[i] as Kept).canvas);
      for (const [i, step] of input.steps.slice(same).entries()) {
        pen.paint(step);
        // A step that leaves no trace shares its canvas with the one before.
        const leaves = step.passes.length > 0 || step.marks.length > 0 || step.lines;
        const before = kept.at(-1);
        kept.push({ key: step.key, canvas: leaves || !before ? copy(canvas) : before.canvas });
        show(step.id, canvas);
        yield same + i + 1;
      }
      return out;
    },
    /** Steps whose canvas is remembered. */
    remembered: () => kept.length,
  };
}

const copy = ({ width, height, rgb, relief }: Canvas): Canvas => ({ width, height, rgb: rgb.slice(), relief: relief.slice() });

/** Zones and picture in short: another outline or another picture is another painting. */
function keyOfMasks({ zones, aim }: StageInput): string {
  const parts = zones.map(({ id, outline, turn, flow, fades }) => {
    let sum = 0;
    for (const part of outline) for (const ring of part) for (const [x, y] of ring) sum = (sum * 31 + x * 7 + y * 13) % 1e9;
    return `${id}:${turn}:${flow ? `${flow.kind}${flow.x},${flow.y}` : ''}:${fades}:${sum.toFixed(3)}`;
  });
  let light = 0;
  if (aim) for (let i = 0; i < aim.l.length; i += 7) light = (light * 33 + Math.round((aim.l[i] as number) * 100)) % 1e9;
  return `${parts.join()}|${light}`;
}

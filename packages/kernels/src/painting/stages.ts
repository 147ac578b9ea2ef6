import type { Rgba } from '../raster/index.js';
import { apply, canBeRepainted, type Desk, deskOf, hasTexture, type Patch, put, repainter } from './change.js';
import { bareCanvas, type DonePass, paintStep, teethOf } from './paint.js';
import type { StageInput } from './scene.js';
import { type Canvas, shaded } from './strokes.js';

type Kept = { key: string; canvas: Canvas; done: readonly DonePass[] };

/**
 * Paints a lesson step by step and remembers the canvas after each. Another step is painted anew from there on; another outline, edge
 * or direction is repainted where it shows. What it gives equals a painting from nothing, byte for byte. One session for one canvas.
 */
export function stageSession() {
  let kept: Kept[] = [];
  let last: StageInput | null = null;
  let desk: Desk | null = null;
  return {
    /** Paints what is not painted yet; yields the number of steps done. Answers the canvas as it is seen after each wanted step. */
    *paint(input: StageInput, wanted: readonly string[]): Generator<number, Map<string, Rgba>> {
      const old = last;
      if (!old || !canBeRepainted(old, input)) kept = [];
      else if ((hasTexture(old) || hasTexture(input)) && keyOfMasks(old) !== keyOfMasks(input)) kept = [];
      if (desk?.work.width !== input.width || desk.work.height !== input.height) desk = deskOf(input);
      let same = 0;
      while (same < kept.length && same < input.steps.length && kept[same]?.key === input.steps[same]?.key) same++;
      kept = kept.slice(0, same);
      const out = new Map<string, Rgba>();
      const show = (id: string, of: Canvas) =>
        wanted.includes(id) && out.set(id, { width: of.width, height: of.height, data: shaded(of, teethOf(input)) });
      if (old && same > 0 && keyOfMasks(old) !== keyOfMasks(input)) {
        // Repainted on the side, and put in place only when all of it is done: work may end at any pause.
        const patches: (Patch | null)[] = [];
        const done: (readonly DonePass[])[] = [];
        const repaint = repainter(old, input, desk);
        for (const [i, step] of input.steps.slice(0, same).entries()) {
          const was = kept[i] as Kept;
          const repainted = repaint.step(step, was.canvas, was.done);
          patches.push(repainted.patch);
          done.push(repainted.done);
          show(step.id, repaint.canvas());
          yield i + 1;
        }
        kept = kept.map((was, i) => {
          const patch = patches[i];
          if (patch) apply(patch, was.canvas, input);
          return { ...was, done: done[i] as readonly DonePass[] };
        });
      } else for (const [i, step] of input.steps.slice(0, same).entries()) show(step.id, (kept[i] as Kept).canvas);
      last = input;
      const { work, pen } = desk;
      put(kept.at(-1)?.canvas ?? bareCanvas(input), work);
      for (const [i, step] of input.steps.slice(same).entries()) {
        const done = paintStep(input, work, pen, step);
        // A step that leaves no trace shares its canvas with the one before.
        const leaves = step.passes.length > 0 || step.marks.length > 0 || step.lines;
        const before = kept.at(-1);
        kept.push({ key: step.key, canvas: leaves || !before ? copyOf(work) : before.canvas, done });
        show(step.id, work);
        yield same + i + 1;
      }
      return out;
    },
    /** Steps whose canvas is remembered. */
    remembered: () => kept.length,
  };
}

const copyOf = ({ width, height, rgb, relief }: Canvas): Canvas => ({ width, height, rgb: rgb.slice(), relief: relief.slice() });

/** Areas in short: another outline, edge or direction is another painting. */
function keyOfMasks({ areas }: StageInput): string {
  return areas
    .map(({ id, outline, turn, flow, fades, run, combed }) => {
      let sum = 0;
      for (const part of outline) for (const ring of part) for (const [x, y] of ring) sum = (sum * 31 + x * 7 + y * 13) % 1e9;
      return `${id}:${turn}:${flow ? `${flow.kind}${flow.x},${flow.y}` : ''}:${fades}:${run}:${combed.join(';')}:${sum.toFixed(3)}`;
    })
    .join();
}

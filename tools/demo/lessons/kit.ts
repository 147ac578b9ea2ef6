// What the demo lessons are written with.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Lab, Lesson, Mix, Outline, Reference, Step } from '@viaticum/contract';
import { outlineFault, repaired } from '@viaticum/core/area';
import { stockOf, suggest, tableOf } from '@viaticum/core/mix';
import { srgbToLab } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import sharp from 'sharp';
// @ts-expect-error plain script without types
import { paint, scenes } from '../paint.mjs';

export type SceneName = 'balloons' | 'kettle' | 'star' | 'wool';
export const assets = new URL('../../../packages/server/assets/demo/', import.meta.url);

const lab = (...rgb: [number, number, number]): Lab => srgbToLab(rgb).map((value) => Math.round(value * 10) / 10) as Lab;
export const tube = (id: string, pigment: string, priceMinor: number, sizeMl = 75) => ({
  id,
  pigment,
  grade: 'artist' as const,
  sizeMl,
  priceMinor,
});
/** Grounds and drawings are for the whole canvas unless areas are named. */
const isWhole = ({ kind, areaIds = [] }: Partial<Step>): boolean =>
  areaIds.length === 0 && (kind === 'prepare' || kind === 'transfer' || kind === 'draw');

export const step = (
  id: string,
  stageId: string,
  title: string,
  rest: Partial<Step> & Pick<Step, 'kind' | 'needs' | 'say'>,
): Step => ({
  id,
  stageId,
  title,
  areaIds: [],
  ...(isWhole(rest) && { wholeCanvas: true }),
  markIds: [],
  mixIds: [],
  watch: '',
  checkpoint: '',
  finish: '',
  ...rest,
});

/** A mix for a colour (sRGB 0–1) from the lesson's tubes, with the recipe that a person would mix. */
export function mixFor(
  tubes: Lesson['tubes'],
  id: string,
  name: string,
  rgb: [number, number, number],
  more: Partial<Mix> = {},
): Mix {
  const target = lab(...rgb);
  const paints = stockFor(tubes);
  const [best] = suggest(target, paints, toEnd(tableOf(paints)));
  return {
    id,
    name,
    targetLab: target,
    recipe: (best?.parts ?? []).map(({ id: tubeId, parts }) => ({ tubeId, parts })),
    ...more,
  };
}
const stocks = new Map<Lesson['tubes'], ReturnType<typeof stockOf>>();
function stockFor(tubes: Lesson['tubes']) {
  const stock = stocks.get(tubes) ?? stockOf({ tubes, mixes: [] });
  stocks.set(tubes, stock);
  return stock;
}

/** The areas of a scene, each with the mean colour that its picture has there. */
export function areasOf(scene: SceneName): Lesson['areas'] {
  const { areas } = scenes[scene] as { areas: { id: string; name: string; outline: Outline }[] };
  const painted = paint({ scene, width: 320, seed: 1 }) as { rgb: Buffer; labels: Uint8Array };
  return areas.map((area, i) => {
    const sums = [0, 0, 0, 0];
    painted.labels.forEach((label, at) => {
      if (label !== i) return;
      srgbToLab([0, 1, 2].map((c) => (painted.rgb[at * 3 + c] as number) / 255) as [number, number, number]).forEach(
        (value, c) => {
          sums[c] = (sums[c] as number) + value;
        },
      );
      sums[3] = (sums[3] as number) + 1;
    });
    const mean = sums.slice(0, 3).map((sum) => Math.round((10 * sum) / (sums[3] as number)) / 10) as Lab;
    return { ...area, outline: outlineFault(area.outline) ? repaired(area.outline) : area.outline, targetLab: mean };
  });
}

/** The scene's picture as a reference that fills its canvas. */
export async function referenceOf(scene: SceneName): Promise<Reference> {
  const bytes = readFileSync(new URL(`${scene}.jpg`, assets));
  const { width, height } = await sharp(bytes).metadata();
  const { canvas } = scenes[scene] as { canvas: { widthMm: number } };
  return {
    id: 'ref1',
    pictureSha256: createHash('sha256').update(bytes).digest('hex'),
    widthPx: width as number,
    heightPx: height as number,
    role: 'whole',
    placement: { mmPerPx: canvas.widthMm / (width as number), xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
    permission: { kind: 'own', by: 'the studio', year: 2026 },
  };
}

export const canvasOf = (scene: SceneName) => (scenes[scene] as { canvas: { widthMm: number; heightMm: number } }).canvas;

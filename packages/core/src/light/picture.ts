import type { Area, Lab, Lesson } from '@viaticum/contract';
import { labToSrgb } from '@viaticum/kernels/colour';
import { castShadow, type Form, normalsOf, towardsLight, type Vector, zonesOf } from '@viaticum/kernels/light';
import { type Rgba, rgba } from '@viaticum/kernels/raster';
import { scanOutline } from '../area/index.js';
import { looksOf, visibleOf } from '../derived/index.js';

/** Where the light comes from while nothing is said: from above, from the left. */
export const usualLight = { azimuthDeg: 315, elevationDeg: 40 } as const;

/** Lightness in each shape of light, as a share of the lit side's (from memory, common practice). */
const SHARE = { lit: 1, half: 0.72, core: 0.42, reflected: 0.5 } as const;
const SHARES = [1, SHARE.lit, SHARE.half, SHARE.core, SHARE.reflected] as const;
/** A highlight goes so far towards white. */
const SHINE = 0.75;
/** What lies in a shadow that something throws keeps so much of its lightness. */
const CAST = 0.55;
const BARE: Lab = [92, 0, 2];

/** A form as the kernels take it, in px of a mask that begins at (x, y). */
export function formInPx({ form }: Area, mmPerPx: number, x: number, y: number, width: number, height: number): Form {
  const kind = form?.kind ?? 'flat';
  if (kind === 'cylinder' || kind === 'cone') return { kind, axisDeg: form?.axisDeg ?? 90 };
  if (kind !== 'box') return { kind };
  const [ex, ey] = form?.edge ?? [(x + width / 2) * mmPerPx, (y + height / 3) * mmPerPx];
  return { kind, edge: { x: ex / mmPerPx - x, y: ey / mmPerPx - y } };
}

/** The lit colour of an area: what it shall look like, or what its mixes look like, or bare ground. */
function litColour(lesson: Lesson, area: Area): Lab {
  if (area.targetLab) return area.targetLab;
  const looks = looksOf(lesson);
  const own = lesson.mixes.filter((mix) => mix.areaId === area.id || mix.alsoAreaIds?.includes(area.id));
  const labs = own.flatMap((mix) => {
    const lab = looks.get(mix.id)?.colour?.lab ?? mix.targetLab;
    return lab ? [lab] : [];
  });
  return [...labs].sort((one, other) => other[0] - one[0])[0] ?? BARE;
}

const dimmed = ([l, a, b]: Lab, share: number): Lab => [l * share, a * share ** 0.7, b * share ** 0.7];
const shining = ([l, a, b]: Lab): Lab => [l + (97 - l) * SHINE, a * (1 - SHINE), b * (1 - SHINE)];

/**
 * A lesson without a photograph as its light makes it: every area in its colour, those with a form in shapes of light and shade, their shadows
 * thrown on what lies behind and below. Null where no area has a form. `widthPx` pixels wide.
 */
export function lightPicture(lesson: Lesson, widthPx: number): Rgba | null {
  if (!lesson.areas.some((area) => area.form)) return null;
  const { support } = lesson;
  const mmPerPx = support.widthMm / widthPx;
  const [width, height] = [widthPx, Math.max(1, Math.round(support.heightMm / mmPerPx))];
  const light = towardsLight(lesson.light ?? usualLight);
  const lab = new Float32Array(width * height * 3);
  for (let i = 0; i < width * height; i++) lab.set(BARE, i * 3);
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
  // Back to front: a shadow falls on what is there already, and what stands before it covers it.
  for (const area of lesson.areas) {
    const part = parts.get(area.id);
    if (!part || part.areaCm2 <= 0) continue;
    const mask = new Uint8Array(width * height);
    scanOutline(part.outline, width, height, mmPerPx, (row, from, to) =>
      mask.fill(255, row * width + from, row * width + to + 1),
    );
    if (area.form && throwsShadow(area))
      shade(lab, lesson, castShadow(mask, width, height, light), mask, parts, mmPerPx, width, height);
    lay(lab, mask, width, height, litColour(lesson, area), area, light, mmPerPx);
  }
  const out = rgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const colour = labToSrgb([lab[i * 3] as number, lab[i * 3 + 1] as number, lab[i * 3 + 2] as number]);
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = Math.round(255 * Math.max(0, Math.min(1, colour[c] as number)));
    out.data[i * 4 + 3] = 255;
  }
  return out;
}

const throwsShadow = ({ form, role }: Area): boolean =>
  form !== undefined &&
  form.kind !== 'flat' &&
  form.kind !== 'cloud' &&
  role !== 'sky' &&
  role !== 'background' &&
  role !== 'feature';
/** What lies far off or in the air takes no shadow of what stands on the ground. */
const takesShadow = ({ role, form }: Area): boolean => role !== 'sky' && role !== 'background' && form?.kind !== 'cloud';

function shade(
  lab: Float32Array,
  lesson: Lesson,
  shadow: Uint8Array,
  own: Uint8Array,
  parts: ReadonlyMap<string, ReturnType<typeof visibleOf>[number]>,
  mmPerPx: number,
  width: number,
  height: number,
): void {
  const open = new Uint8Array(width * height).fill(1);
  for (const area of lesson.areas) {
    const part = parts.get(area.id);
    if (!part || takesShadow(area)) continue;
    scanOutline(part.outline, width, height, mmPerPx, (row, from, to) => open.fill(0, row * width + from, row * width + to + 1));
  }
  for (let i = 0; i < shadow.length; i++) {
    if (shadow[i] === 0 || own[i] !== 0 || open[i] === 0) continue;
    lab.set(dimmed([lab[i * 3] as number, lab[i * 3 + 1] as number, lab[i * 3 + 2] as number], CAST), i * 3);
  }
}

/** Lays an area in its colour, with the shapes that the light makes on its form. */
function lay(
  lab: Float32Array,
  mask: Uint8Array,
  width: number,
  height: number,
  colour: Lab,
  area: Area,
  light: Vector,
  mmPerPx: number,
): void {
  if (!area.form || area.form.kind === 'flat') {
    for (let i = 0; i < mask.length; i++) if (mask[i] !== 0) lab.set(colour, i * 3);
    return;
  }
  const box = boxOf(mask, width, height);
  if (!box) return;
  const cut = cutOut(mask, width, box);
  const form = formInPx(area, mmPerPx, box.x, box.y, box.width, box.height);
  const normals = normalsOf(cut, box.width, box.height, form);
  const zones = zonesOf(cut, normals, light, form.kind, area.surface === 'glass');
  const colours = SHARES.map((share) => dimmed(colour, share));
  colours.push(shining(colour));
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++) {
      const zone = zones[y * box.width + x] as number;
      if (zone > 0) lab.set(colours[zone] as Lab, ((box.y + y) * width + box.x + x) * 3);
    }
}

export type PxBox = { x: number; y: number; width: number; height: number };
/** The least box of pixels round a mask; null where it is empty. */
export function boxOf(mask: Uint8Array, width: number, height: number): PxBox | null {
  let [left, right, top, bottom] = [width, -1, height, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (mask[y * width + x] === 0) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  return right < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

export function cutOut(mask: Uint8Array, width: number, { x, y, width: wide, height: high }: PxBox): Uint8Array {
  const out = new Uint8Array(wide * high);
  for (let row = 0; row < high; row++) out.set(mask.subarray((y + row) * width + x, (y + row) * width + x + wide), row * wide);
  return out;
}

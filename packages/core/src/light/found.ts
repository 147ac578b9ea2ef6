import type { Area, Lesson } from '@viaticum/contract';
import { type FoundLight, lightFrom, normalsOf } from '@viaticum/kernels/light';
import { blur, lightness, type Rgba, shrink } from '@viaticum/kernels/raster';
import { scanOutline } from '../area/index.js';
import { visibleOf } from '../derived/index.js';
import { boxOf, cutOut, formInPx } from './picture.js';

/** The light that a picture shows on one area of it. */
export type AreaLight = FoundLight & { areaId: string };

const WIDE_PX = 420;
const SOFT_MM = 3;
/** What explains less of the values than this says nothing of the light. */
const SAYS = 0.25;
const LEAST_SHARE = 0.01;
/** Two lights that lie so far apart are two. */
const APART_DEG = 60;

/**
 * Where the light of a photograph comes from, by the values on things of a known form (round where nothing is said of a subject or a made
 * thing), the surest first; empty where the picture does not say.
 */
export function lightsIn(lesson: Lesson, picture: Rgba): AreaLight[] {
  const height = Math.max(1, Math.round((WIDE_PX * picture.height) / picture.width));
  const small = shrink(picture, Math.min(WIDE_PX, picture.width), Math.min(height, picture.height));
  const mmPerPx = lesson.support.widthMm / small.width;
  const soft = blur(lightness(small), SOFT_MM / mmPerPx).data;
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
  const whole = (lesson.support.widthMm * lesson.support.heightMm) / 100;
  return lesson.areas
    .flatMap((area): AreaLight[] => {
      const part = parts.get(area.id);
      const isBody = area.form ? area.form.kind !== 'flat' && area.form.kind !== 'cloud' : isRounded(area);
      if (!part || part.areaCm2 < LEAST_SHARE * whole || !isBody) return [];
      const mask = new Uint8Array(small.width * small.height);
      scanOutline(part.outline, small.width, small.height, mmPerPx, (row, from, to) =>
        mask.fill(255, row * small.width + from, row * small.width + to + 1),
      );
      const box = boxOf(mask, small.width, small.height);
      if (!box) return [];
      const cut = cutOut(mask, small.width, box);
      const values = new Float32Array(cut.length);
      for (let y = 0; y < box.height; y++)
        for (let x = 0; x < box.width; x++) values[y * box.width + x] = soft[(box.y + y) * small.width + box.x + x] as number;
      const given = area.form ? area : { ...area, form: { kind: 'round' as const } };
      const form = formInPx(given, mmPerPx, box.x, box.y, box.width, box.height);
      const found = lightFrom(values, cut, normalsOf(cut, box.width, box.height, form));
      return found && found.explained >= SAYS ? [{ ...found, areaId: area.id }] : [];
    })
    .sort((one, other) => other.explained - one.explained);
}

const isRounded = ({ role, surface }: Area): boolean =>
  (role === 'subject' || role === 'made') && surface !== 'glass' && surface !== 'boards';

/** Whether two things of a picture are lit from places far apart: two lights, or one of them is reflected. */
export function twoLights(found: readonly AreaLight[]): [AreaLight, AreaLight] | null {
  for (const [i, one] of found.entries())
    for (const other of found.slice(i + 1)) {
      const apart = Math.abs(((one.azimuthDeg - other.azimuthDeg + 540) % 360) - 180);
      if (apart > APART_DEG) return [one, other];
    }
  return null;
}

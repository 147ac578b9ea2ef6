import type { Lesson } from '@viaticum/contract';
import { emptyLesson } from '@viaticum/core/document';
import { schoolOf } from '@viaticum/core/draft';
import { beginLesson } from '@viaticum/core/lesson-from-picture';
import { toEnd } from '@viaticum/kernels/cooperative';
import sharp from 'sharp';
// @ts-expect-error plain script without types
import { regions, scenes } from '../paint.mjs';
import { assets, canvasOf, referenceOf } from './kit.js';

const { data, info } = await sharp(new URL('wool.jpg', assets).pathname)
  .ensureAlpha()
  .raw()
  .toBuffer({ resolveWithObject: true });
const picture = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
const labels = regions(scenes.wool, info.width, info.height) as Uint8Array;

let count = 0;
const ids = () => `w${++count}`;
const canvas = canvasOf('wool');

/** Begun from its picture, as an instructor begins one: its things told, all else drafted. */
const drafted = toEnd(
  beginLesson(
    {
      ...emptyLesson('A ball of wool on old boards', { ...canvas, unit: 'in' }, ids),
      level: 'improver',
      wantedMin: 150,
      school: { ...schoolOf('layers'), drawWhen: 'after-background' },
      references: [await referenceOf('wool')],
      light: { azimuthDeg: 315, elevationDeg: 40 },
    },
    picture,
    ids,
    {
      told: {
        map: { width: info.width, height: info.height, data: Int32Array.from(labels) },
        things: [
          { name: 'Grey wall', role: 'background' },
          { name: 'Old boards', role: 'ground', surface: 'boards' },
          { name: 'Needles', role: 'made' },
          { name: 'Ball of wool', role: 'subject', surface: 'strands' },
        ],
      },
    },
  ),
);
export const wool: Lesson = drafted;

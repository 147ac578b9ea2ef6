import type { Lab, Lesson, Mark } from '@viaticum/contract';
import type { LabRaster } from '@viaticum/kernels/raster';
import { areaUnder } from '../derived/index.js';
import { evenly, lengthOf, type Point } from '../geometry/index.js';

/** A thing of lines, as its instructor drew it: whiskers, ropes, stems, masts. Points and width in mm of the canvas. */
export type ToldLines = { id?: string; name: string; along: Point[][]; widthMm: number; taper: number };

/** Finer than this it is drawn with a liner. */
const LINER_MM = 3;

/** Things of lines as marks of a lesson whose areas are known, each belonging to the area that lies under most of it. */
export function lineMarks(lesson: Lesson, told: readonly ToldLines[], ids: () => string): Mark[] {
  return told.flatMap(({ id, name, along, widthMm, taper }): Mark[] => {
    const areaId = areaUnder(lesson, along) ?? lesson.areas[0]?.id;
    if (!areaId || along.length === 0) return [];
    const mean = along.reduce((sum, line) => sum + lengthOf(line), 0) / along.length;
    const known = lesson.marks.find((mark) => mark.id === id);
    return [
      {
        ...(known ?? { id: id ?? ids(), kind: 'lines', tool: widthMm < LINER_MM ? 'liner' : 'brush' }),
        name,
        areaId,
        along,
        count: along.length,
        lengthMm: Math.max(0.2, Math.round(mean * 10) / 10),
        widthMm,
        taper,
      },
    ];
  });
}

/** Beside a line, so far from its rim (px), lies what it is seen against. */
const ASIDE_PX = 3;
/**
 * The colour of lines in a picture: at every place of them what differs most from what lies beside, as thin lines are seen blurred
 * into their ground; the mean of the half of the places that differ most. Null where none of them lies in the picture.
 */
export function lineColour(lab: LabRaster, along: readonly Point[][], widthMm: number, mmPerPx: number): Lab | null {
  const { width, height, l, a, b } = lab;
  const at = (x: number, y: number): Lab | null => {
    const [column, row] = [Math.floor(x), Math.floor(y)];
    if (column < 0 || row < 0 || column >= width || row >= height) return null;
    const i = row * width + column;
    return [l[i] as number, a[i] as number, b[i] as number];
  };
  const half = Math.max(1, widthMm / mmPerPx / 2);
  const found = along.flatMap((line) => {
    const points = evenly(
      line.map(([x, y]): Point => [x / mmPerPx, y / mmPerPx]),
      1.5,
    );
    return points.slice(1).flatMap(([x, y], i) => {
      const [px, py] = points[i] as Point;
      const long = Math.hypot(x - px, y - py) || 1;
      const [nx, ny] = [(py - y) / long, (x - px) / long];
      const across = (from: number) => at(x + nx * from, y + ny * from);
      const beside = [-1, 1].flatMap((side) => across(side * (half + ASIDE_PX)) ?? []);
      const ground = [0, 1, 2].map((c) => {
        const values = beside.filter((_, k) => k % 3 === c);
        return values.reduce((sum, one) => sum + one, 0) / Math.max(1, values.length);
      }) as Lab;
      const inner = [-half, -half / 2, 0, half / 2, half].flatMap((from) => {
        const colour = across(from);
        return colour ? [{ colour, off: apart(colour, ground) }] : [];
      });
      return inner.sort((one, other) => other.off - one.off).slice(0, 1);
    });
  });
  const clear = found.sort((one, other) => other.off - one.off).slice(0, Math.ceil(found.length / 2));
  if (clear.length === 0) return null;
  return [0, 1, 2].map((c) => clear.reduce((sum, { colour }) => sum + (colour[c] as number), 0) / clear.length) as Lab;
}

const apart = (one: Lab, other: Lab): number => Math.hypot(one[0] - other[0], one[1] - other[1], one[2] - other[2]);

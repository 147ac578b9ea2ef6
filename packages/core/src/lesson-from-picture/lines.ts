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
/** A line that differs less from its ground (ΔE of Lab) is not seen in the picture. */
const SEEN_FROM = 10;
/**
 * The colour of lines in a picture: at every place of them what is lighter (or darker, whichever they are) than what lies beside, by
 * most, as thin lines are seen blurred into their ground; the mean of the half of the places where that is clearest. Null where they
 * are not seen.
 */
export function lineColour(lab: LabRaster, along: readonly Point[][], widthMm: number, mmPerPx: number): Lab | null {
  const { width, height, l, a, b } = lab;
  const at = (x: number, y: number): Lab[] => {
    const [column, row] = [Math.floor(x), Math.floor(y)];
    if (column < 0 || row < 0 || column >= width || row >= height) return [];
    const i = row * width + column;
    return [[l[i] as number, a[i] as number, b[i] as number]];
  };
  const half = Math.max(1, widthMm / mmPerPx / 2);
  const profiles = along.flatMap((line) => {
    const points = evenly(
      line.map(([x, y]): Point => [x / mmPerPx, y / mmPerPx]),
      EVERY_PX,
    );
    return points.slice(1).flatMap(([x, y], i) => {
      const [px, py] = points[i] as Point;
      const long = Math.hypot(x - px, y - py) || 1;
      const [nx, ny] = [(py - y) / long, (x - px) / long];
      const across = (from: number) => at(x + nx * from, y + ny * from);
      const beside = [-1, 1].flatMap((side) => across(side * (half + ASIDE_PX)));
      const inner = [-half, -half / 2, 0, half / 2, half].flatMap(across);
      return beside.length > 0 && inner.length > 0 ? [{ ground: meanOf(beside), inner }] : [];
    });
  });
  const clearest = (sign: 1 | -1) =>
    profiles
      .map(({ ground, inner }) => {
        const colour = inner.reduce((best, one) => (sign * (one[0] - best[0]) > 0 ? one : best));
        return { colour, off: sign * (colour[0] - ground[0]) > 0 ? apart(colour, ground) : 0 };
      })
      .sort((one, other) => other.off - one.off)
      .slice(0, Math.ceil(profiles.length / 2));
  const strength = (places: ReturnType<typeof clearest>) =>
    places.reduce((sum, { off }) => sum + off, 0) / Math.max(1, places.length);
  const [lighter, darker] = [clearest(1), clearest(-1)];
  const clear = strength(lighter) >= strength(darker) ? lighter : darker;
  return strength(clear) < SEEN_FROM ? null : meanOf(clear.map(({ colour }) => colour));
}

const EVERY_PX = 1.5;
const meanOf = (colours: readonly Lab[]): Lab =>
  [0, 1, 2].map((c) => colours.reduce((sum, colour) => sum + (colour[c] as number), 0) / colours.length) as Lab;
const apart = (one: Lab, other: Lab): number => Math.hypot(one[0] - other[0], one[1] - other[1], one[2] - other[2]);

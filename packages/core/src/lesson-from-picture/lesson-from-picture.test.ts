import { describe, expect, it } from '@jest/globals';
import type { Lab, Lesson, School } from '@viaticum/contract';
import { deltaE00, labToSrgb } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import type { Rgba } from '@viaticum/kernels/raster';
import { findings } from '../check/index.js';
import { looksOf, visibleOf } from '../derived/index.js';
import { defaultSchool, emptyLesson, lessonFaults } from '../document/index.js';
import { planLesson } from '../plan/index.js';
import { movedIntoReach, reachOf } from '../stage/index.js';
import { areaValues, beginLesson, usualTubes } from './index.js';

const counter = () => {
  let n = 0;
  return () => `i${++n}`;
};

/** A picture painted by a rule: Lab at shares across and down. */
function picture(width: number, height: number, at: (x: number, y: number) => Lab): Rgba {
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data.set(
        labToSrgb(at(x / width, y / height)).map((value) => Math.round(value * 255)),
        (y * width + x) * 4,
      );
  return { width, height, data };
}
const SKY: Lab = [72, -4, -22];
const HILL: Lab = [38, -18, 20];
const DISC: Lab = [62, 38, 44];
/** A sky that pales towards a hill, and a disc before it. */
const scene = picture(260, 325, (x, y) => {
  if (Math.hypot((x - 0.62) * 0.8, y - 0.42) < 0.13) return DISC;
  if (y > 0.7 + 0.04 * Math.sin(x * 7)) return HILL;
  return [SKY[0] + 18 * y, SKY[1], SKY[2] + 16 * y];
});
const empty = (change: Partial<Lesson> = {}): Lesson => ({
  ...emptyLesson('begun', { widthMm: 200, heightMm: 250, unit: 'cm' }, () => 'st'),
  ...change,
});
const begun = (change: Partial<Lesson> = {}, from = scene) => toEnd(beginLesson(empty(change), from, counter(), { areas: 3 }));

describe('a lesson begun with a picture', () => {
  const lesson = begun();

  it('is sound, and complete: areas, tubes, mixes with recipes, and steps', () => {
    expect(lessonFaults(lesson)).toEqual([]);
    expect(lesson.areas).toHaveLength(3);
    expect(lesson.mixes.length).toBeGreaterThanOrEqual(4);
    expect(lesson.mixes.every((mix) => mix.recipe.length > 0)).toBe(true);
    expect(lesson.steps.filter((step) => step.kind === 'paint').every((step) => step.say && step.watch && step.checkpoint)).toBe(
      true,
    );
  });

  it('every area is painted, every mix and every tube is used', () => {
    const painted = new Set(lesson.steps.flatMap((step) => (step.kind === 'paint' ? step.areaIds : [])));
    for (const part of visibleOf(lesson)) if (part.areaCm2 > 0) expect(painted).toContain(part.id);
    const used = new Set(lesson.steps.flatMap((step) => step.mixIds));
    expect(lesson.mixes.filter((mix) => !used.has(mix.id)).map((mix) => mix.name)).toEqual([]);
    const tubes = new Set(lesson.mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
    expect(lesson.tubes.every((tube) => tubes.has(tube.id))).toBe(true);
  });

  it('the mixes come near to what the picture has', () => {
    const looks = looksOf(lesson);
    for (const wanted of [HILL, DISC]) {
      const off = Math.min(...[...looks.values()].map((look) => (look.colour ? deltaE00(look.colour.lab, wanted) : 99)));
      expect(off).toBeLessThan(5);
    }
  });

  it('a passage that pales evenly is blended, a flat one is not', () => {
    const sky = lesson.areas.find((area) => area.targetLab && area.targetLab[0] > 70);
    const disc = lesson.areas.find((area) => area.targetLab && area.targetLab[1] > 25);
    const first = (id: string | undefined) =>
      lesson.steps.find((step) => step.kind === 'paint' && id && step.areaIds.includes(id));
    expect(first(sky?.id)?.technique).toBe('blend');
    expect(first(disc?.id)?.technique).toBe('block-in');
  });

  it('the checks find nothing serious, for every level', () => {
    for (const level of ['beginner', 'improver', 'experienced'] as const) {
      const one = begun({ level });
      expect(findings(one, planLesson(one)).filter((finding) => finding.serious)).toEqual([]);
    }
  });

  it('the same picture gives the same lesson; tubes that are there are kept', () => {
    expect(begun()).toEqual(lesson);
    const own = usualTubes({ palette: 'primaries-and-white', black: 'mixed-darks' });
    expect(begun({ tubes: own }).tubes).toEqual(own);
  });

  it('other schools: no tone on a white ground, the subject first', () => {
    const school: School = { ...defaultSchool, ground: 'white', order: 'subject-first', drawing: 'direct' };
    const other = begun({ school });
    expect(other.steps.some((step) => step.kind === 'prepare')).toBe(false);
    expect(other.steps.some((step) => step.kind === 'draw')).toBe(true);
    const first = other.steps.find((step) => step.kind === 'paint');
    expect(first?.areaIds).toEqual([other.subjectAreaId]);
  });

  it('lines are traced so that they show on the toned ground: a dark picture takes light transfer paper', () => {
    const night = picture(260, 325, (x, y) => {
      if (Math.hypot((x - 0.62) * 0.8, y - 0.42) < 0.13) return [40, 12, 20];
      return y > 0.7 ? [18, -8, 8] : [32, -12, 10];
    });
    const hidden = (one: Lesson) => findings(one, planLesson(one)).filter(({ rule }) => rule === 'line-on-ground');
    const dark = begun({}, night);
    expect([lesson, dark].map((one) => one.school.transferMedium)).toEqual(['transfer-paper', 'light-paper']);
    expect([...hidden(lesson), ...hidden(dark)]).toEqual([]);
    expect(dark.steps.find((step) => step.kind === 'transfer')?.say).toContain('light line shows');
    // The check would speak of dark paper on that ground; a way that somebody chose is theirs.
    expect(hidden({ ...dark, school: { ...dark.school, transferMedium: 'transfer-paper' } })).toHaveLength(1);
    expect(begun({ school: { ...defaultSchool, transferMedium: 'graphite' } }, night).school.transferMedium).toBe('graphite');
  });

  it('an even picture is one area, painted', () => {
    const even = begun(
      {},
      picture(120, 150, () => [60, 5, 10]),
    );
    expect(even.areas).toHaveLength(1);
    expect(even.steps.filter((step) => step.kind === 'paint').length).toBeGreaterThanOrEqual(1);
    expect(lessonFaults(even)).toEqual([]);
  });
});

describe('values of an area', () => {
  const raster = (at: (x: number) => number) => {
    const l = Float32Array.from({ length: 10_000 }, (_, i) => at((i % 100) / 100));
    return { width: 100, height: 100, l, a: new Float32Array(10_000), b: new Float32Array(10_000) };
  };
  const map = { width: 100, height: 100, data: new Int32Array(10_000) };
  it('two planted tones are found with their shares, and lie side by side', () => {
    const [found] = areaValues(
      map,
      raster((x) => (x < 0.7 ? 30 : 80)),
      [{ most: 4, rich: false }],
    );
    expect(found?.values.map((value) => Math.round(value.lab[0]))).toEqual([30, 80]);
    expect(found?.values[0]?.share).toBeCloseTo(0.7, 2);
    expect(found?.gradual).toBe(false);
  });
  it('an even gradient is told from shapes', () => {
    const [found] = areaValues(
      map,
      raster((x) => 20 + 60 * x),
      [{ most: 3, rich: false }],
    );
    expect(found?.gradual).toBe(true);
    expect(found?.values).toHaveLength(3);
  });
  it('of a surface the darkest darks and the lightest lights stand apart from the rest', () => {
    const shape = raster((x) => 20 + 60 * x);
    const lightnesses = (rich: boolean) => areaValues(map, shape, [{ most: 3, rich }])[0]?.values.map((one) => one.lab[0]) ?? [];
    const [plain, rich] = [lightnesses(false), lightnesses(true)];
    expect(Math.min(...rich)).toBeLessThan(Math.min(...plain));
    expect(Math.max(...rich)).toBeGreaterThan(Math.max(...plain));
  });
  it('one tone is one value; what lies in no area is left out', () => {
    expect(
      areaValues(
        map,
        raster(() => 55),
        [{ most: 4, rich: false }],
      )[0]?.values,
    ).toHaveLength(1);
    expect(
      areaValues(
        { ...map, data: map.data.map(() => -1) },
        raster(() => 55),
        [{ most: 4, rich: false }],
      )[0]?.values,
    ).toEqual([]);
  });
});

describe('the reach of a palette', () => {
  const lesson = empty({ tubes: usualTubes({ palette: 'smallest', black: 'mixed-darks' }) });
  const reach = reachOf(lesson);
  it('mixed darks in a satin finish do not reach black, white not 100 (models: carbon black L* 16 in satin)', () => {
    expect(reach.dark).toBeGreaterThan(10);
    expect(reach.dark).toBeLessThan(30);
    expect(reach.light).toBeGreaterThan(90);
    expect(reach.light).toBeLessThan(100);
  });
  it('a picture beyond it is drawn together and keeps its order; one within it stays as it is', () => {
    const wide = {
      width: 101,
      height: 1,
      l: Float32Array.from({ length: 101 }, (_, i) => i),
      a: new Float32Array(101),
      b: new Float32Array(101),
    };
    const moved = movedIntoReach(wide, reach);
    expect(Math.min(...moved.l)).toBeCloseTo(reach.dark, 3);
    expect(Math.max(...moved.l)).toBeCloseTo(reach.light, 3);
    expect([...moved.l].every((value, i) => i === 0 || value >= (moved.l[i - 1] as number))).toBe(true);
    const narrow = { ...wide, l: wide.l.map((value) => 40 + value / 4) };
    expect(movedIntoReach(narrow, reach)).toBe(narrow);
  });
});

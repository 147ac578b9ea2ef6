import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Area, Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import type { Rgba } from '@viaticum/kernels/raster';
import { carryOut, emptyLesson, lessonFaults, startHistory } from '../document/index.js';
import { schoolOf } from '../draft/index.js';
import { seeded } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { beginLesson, redoLesson, withRefused } from './index.js';

const [W, H] = [320, 256];
/** A red-brown jar with a pale label on it, before a grey-green wall: 0 wall, 1 jar, 2 label. */
const partAt = (x: number, y: number): number => {
  if (x > 130 && x < 190 && y > 120 && y < 160) return 2;
  return (x - 160) ** 2 / 70 ** 2 + (y - 140) ** 2 / 90 ** 2 < 1 ? 1 : 0;
};
const colours = [
  [120, 140, 118],
  [140, 62, 40],
  [226, 214, 176],
] as const;
function picture(): Rgba {
  const random = seeded(5);
  const data = new Uint8ClampedArray(W * H * 4);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const own = colours[partAt(x, y)] as readonly number[];
      // Lit from the left.
      const shade = 30 - 60 * (x / W) + 10 * (random() - 0.5);
      for (let c = 0; c < 3; c++) data[(y * W + x) * 4 + c] = (own[c] as number) + shade;
      data[(y * W + x) * 4 + 3] = 255;
    }
  return { width: W, height: H, data };
}
const labels = (of: (part: number) => number) => ({
  width: W,
  height: H,
  data: Int32Array.from({ length: W * H }, (_, i) => of(partAt(i % W, Math.floor(i / W)))),
});
let count = 0;
const ids = () => `n${++count}`;
const reference = picture();
const begin = (told: Parameters<typeof beginLesson>[3]) =>
  toEnd(
    beginLesson(
      {
        ...emptyLesson('Jar', { widthMm: 254, heightMm: 203.2, unit: 'in' }, ids),
        level: 'improver',
        school: schoolOf('layers'),
      },
      reference,
      ids,
      told,
    ),
  );
const two = {
  told: {
    map: labels((part) => (part === 0 ? 0 : 1)),
    things: [
      { name: 'Wall', role: 'background' as const },
      { name: 'Jar', role: 'subject' as const, surface: 'glass' as const },
    ],
  },
};
const three = {
  told: {
    map: labels((part) => part),
    things: [
      { name: 'Wall', role: 'background' as const },
      { name: 'Jar', role: 'subject' as const, surface: 'glass' as const },
      { name: 'Label', role: 'feature' as const },
    ],
  },
};

describe('a lesson from things that were told', () => {
  const lesson = begin(three);
  it('has them as its areas, back to front, and no fault', () => {
    expect(lessonFaults(lesson)).toEqual([]);
    expect(lesson.areas.map(({ name, role, surface }) => [name, role, surface])).toEqual([
      ['Wall', 'background', undefined],
      ['Jar', 'subject', 'glass'],
      ['Label', 'feature', undefined],
    ]);
    expect(lesson.areas.find((area) => area.id === lesson.subjectAreaId)?.name).toBe('Jar');
    expect(lesson.areas.find((area) => area.name === 'Label')?.feature).toBe(true);
  });
  it('paints each in its turn: wall, jar, its darks and lights, the label', () => {
    const titles = lesson.steps.filter((step) => step.kind === 'paint').map((step) => step.title);
    const at = (title: string) => titles.findIndex((one) => one.startsWith(title));
    expect(at('Wall')).toBe(0);
    expect(at('Jar')).toBeGreaterThan(at('Wall'));
    expect(at('Jar: the darkest shapes')).toBeGreaterThan(at('Jar'));
    expect(at('Label')).toBeGreaterThan(at('Jar'));
    expect(planLesson(lesson).misses).toEqual([]);
  });
  it('its mixes are named by what they are for', () => {
    const own = lesson.mixes.filter((mix) => !mix.alsoAreaIds);
    for (const mix of own) {
      const area = lesson.areas.find((one) => one.id === mix.areaId) as Area;
      expect(mix.name.toLowerCase()).toContain(area.name.toLowerCase());
    }
  });
  it('a small pale feature keeps a mix of its own colour (ΔE of its lightness within 12)', () => {
    const label = lesson.areas.find((area) => area.name === 'Label') as Area;
    const own = lesson.mixes.filter((mix) => mix.areaId === label.id || mix.alsoAreaIds?.includes(label.id));
    const nearest = Math.min(...own.map((mix) => Math.abs((mix.targetLab?.[0] ?? 0) - (label.targetLab?.[0] ?? 0))));
    expect(nearest).toBeLessThan(12);
  });
});

describe('a lesson carried along with its areas', () => {
  let old: Lesson;
  const redo = (fresh: Lesson) => toEnd(redoLesson(old, fresh, reference, ids));
  beforeAll(() => {
    const drafted = begin(two);
    // The instructor wrote a sentence, and made a step of its own.
    const jar = drafted.steps.find((step) => step.kind === 'paint' && step.title.startsWith('Jar')) as Lesson['steps'][number];
    let now = startHistory(drafted);
    now = carryOut(now, 'editStep', { id: jar.id, step: { say: 'Start with the shoulder of the jar.' } });
    now = carryOut(now, 'addStep', {
      step: { ...jar, id: 'own', title: 'My grandmother’s trick', say: 'Breathe on it.', technique: 'scumble' },
    });
    old = now.lesson;
  });
  it('with the same areas nothing comes, changes or goes', () => {
    const { mixes, steps, minutes, lesson } = redo(old);
    expect(mixes.changed).toEqual([]);
    expect(mixes.fresh).toEqual([]);
    expect(mixes.gone).toEqual([]);
    expect(steps.fresh).toEqual([]);
    expect(steps.gone).toEqual([]);
    expect(steps.changed).toEqual([]);
    expect(minutes.after).toBeCloseTo(minutes.before, 6);
    expect(lessonFaults(lesson)).toEqual([]);
  });
  it('a label cut out of the jar is new with its mix and its steps; wall and jar keep theirs, and what was written stays', () => {
    const told = begin(three);
    const label = told.areas.find((area) => area.name === 'Label') as Area;
    const fresh = carryOut(startHistory(old), 'replaceAreas', {
      areas: [...old.areas, { id: 'label', name: 'Label', role: 'feature', feature: true, outline: label.outline }],
      heirs: {},
    }).lesson;
    const { mixes, steps, lesson } = redo(fresh);
    expect(lessonFaults(lesson)).toEqual([]);
    expect(lesson.steps.some((step) => step.areaIds.includes('label'))).toBe(true);
    expect(steps.fresh.every((step) => step.areaIds.includes('label') || step.areaIds.length === 0)).toBe(true);
    expect(mixes.kept.length + mixes.changed.length).toBeGreaterThan(0);
    expect(lesson.steps.map((step) => step.say)).toContain('Start with the shoulder of the jar.');
    expect(lesson.steps.map((step) => step.id)).toContain('own');
    // It is one act, and undone as one.
    const taken = carryOut(startHistory(old), 'takeRedone', {
      areas: lesson.areas,
      heirs: {},
      subjectAreaId: lesson.subjectAreaId ?? null,
      tubes: lesson.tubes,
      mixes: lesson.mixes,
      draft: { stages: lesson.stages, steps: lesson.steps, passages: lesson.passages, leftOut: lesson.leftOut },
    });
    expect(lessonFaults(taken.lesson)).toEqual([]);
    expect(planLesson(taken.lesson).plan.endMin).toBeCloseTo(planLesson(lesson).plan.endMin, 6);
  });
  it('a thing that was dropped stays dropped: nothing is painted of it, and it can come back', () => {
    let now = startHistory(old);
    const jar = old.areas.find((area) => area.name === 'Jar') as Area;
    now = carryOut(now, 'addThing', { thing: { id: 'thing', name: 'jar', fate: 'kept' }, areaIds: [jar.id] });
    now = carryOut(now, 'setFate', { id: 'thing', fate: 'dropped' });
    const { lesson } = redo(now.lesson);
    expect(lessonFaults(lesson)).toEqual([]);
    expect(lesson.areas.map((area) => area.id)).toEqual(now.lesson.areas.map((area) => area.id));
    expect(
      lesson.steps.filter((step) => step.kind === 'paint' && step.id !== 'own').some((step) => step.areaIds.includes(jar.id)),
    ).toBe(false);
  });
  it('an area that goes takes its steps and its own mixes with it', () => {
    const jar = old.areas.find((area) => area.name === 'Jar') as Area;
    const alone = carryOut(startHistory(old), 'replaceAreas', { areas: [jar], heirs: {} }).lesson;
    const { mixes, steps, lesson } = redo(alone);
    expect(lessonFaults(lesson)).toEqual([]);
    expect(steps.gone.some((step) => step.title.startsWith('Wall'))).toBe(true);
    expect(mixes.gone.length).toBeGreaterThan(0);
  });

  describe('but for what is refused', () => {
    const withLabel = () => {
      const label = begin(three).areas.find((area) => area.name === 'Label') as Area;
      const areas: Area[] = [
        ...old.areas,
        { id: 'label', name: 'Label', role: 'feature', feature: true, outline: label.outline },
      ];
      return redo(carryOut(startHistory(old), 'replaceAreas', { areas, heirs: {} }).lesson);
    };
    it('nothing refused leaves it as it is', () => {
      const redone = withLabel();
      expect(withRefused(old, redone, new Set())).toEqual(redone.lesson);
    });
    it('a new mix that is refused does not come; the steps that wanted it take the nearest one', () => {
      const taken = old.mixes.find((one) => one.areaId !== undefined) as Lesson['mixes'][number];
      const short = carryOut(startHistory(old), 'removeMix', { id: taken.id }).lesson;
      const redone = toEnd(redoLesson(short, short, reference, ids));
      const [mix] = redone.mixes.fresh;
      expect(mix).toBeDefined();
      const wanted = redone.lesson.steps.filter((step) => step.mixIds.includes(mix?.id ?? ''));
      const lesson = withRefused(short, redone, new Set([mix?.id ?? '']));
      expect(wanted.length).toBeGreaterThan(0);
      expect(lessonFaults(lesson)).toEqual([]);
      expect(lesson.mixes.map((one) => one.id)).not.toContain(mix?.id);
      for (const { id } of wanted) expect(lesson.steps.find((step) => step.id === id)?.mixIds.length).toBeGreaterThan(0);
    });
    it('a new step that is refused does not come', () => {
      const redone = withLabel();
      const [step] = redone.steps.fresh;
      const lesson = withRefused(old, redone, new Set([step?.id ?? '']));
      expect(lessonFaults(lesson)).toEqual([]);
      expect(lesson.steps).toHaveLength(redone.lesson.steps.length - 1);
    });
    it('mixes and steps that were to go stay, each after what it stood after', () => {
      const jar = old.areas.find((area) => area.name === 'Jar') as Area;
      const redone = redo(carryOut(startHistory(old), 'replaceAreas', { areas: [jar], heirs: {} }).lesson);
      const wall = redone.steps.gone.find((step) => step.title.startsWith('Wall')) as Lesson['steps'][number];
      const mix = redone.mixes.gone[0] as Lesson['mixes'][number];
      const lesson = withRefused(old, redone, new Set([wall.id, mix.id]));
      expect(lessonFaults(lesson)).toEqual([]);
      const at = (of: Lesson, id: string) => of.steps.findIndex((step) => step.id === id);
      expect(at(lesson, wall.id)).toBeGreaterThan(-1);
      const before = old.steps.slice(0, at(old, wall.id)).filter((step) => at(lesson, step.id) >= 0);
      for (const step of before) expect(at(lesson, step.id)).toBeLessThan(at(lesson, wall.id));
      expect(lesson.mixes.find((one) => one.id === mix.id)?.recipe).toEqual(mix.recipe);
    });
    it('a change that is refused leaves the step with the words it had', () => {
      const redone = withLabel();
      for (const { from } of redone.steps.changed) {
        const lesson = withRefused(old, redone, new Set([from.id]));
        expect(lessonFaults(lesson)).toEqual([]);
        const step = lesson.steps.find((one) => one.id === from.id);
        expect(step?.say).toBe(from.say);
        expect(step?.title).toBe(from.title);
      }
    });
  });
});

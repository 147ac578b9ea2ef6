import { describe, expect, it } from '@jest/globals';
import type { Area, Lab, Lesson, Outline } from '@viaticum/contract';
import { carryOut, startHistory, undo } from '../document/index.js';
import { demoLesson, schoolLesson, seeded, smallLesson, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';

const W = 400;
const box = (x: number, y: number, w: number, h: number): Outline => [
  [
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
  ],
];

/** A lesson drawn by chance: areas side by side in a row of columns, some in two coats, in colours from dark to pale. */
function drawnLesson(seed: number): Lesson {
  const random = seeded(seed * 7919 + 13);
  for (let i = 0; i < 7; i++) random();
  const count = 3 + Math.floor(random() * 4);
  const width = W / count;
  const areas: Area[] = Array.from({ length: count }, (_, i) => ({
    id: `a${i}`,
    name: `area ${i}`,
    outline: box(i * width, 0, width, 300),
  }));
  const mixes = Array.from({ length: count * 2 }, (_, i) => ({
    id: `m${i}`,
    name: `mix ${i}`,
    recipe: [],
    targetLab: [10 + random() * 85, random() * 60 - 30, random() * 60 - 30] as Lab,
  }));
  const order = areas.map((area) => ({ area, key: random() })).sort((a, b) => a.key - b.key);
  const steps = order.flatMap(({ area }, k) => {
    const own = areas.indexOf(area);
    const first = testStep(`s${k}`, {
      areaIds: [area.id],
      mixIds: [`m${own * 2}`],
      needs: 'auto',
      doMin: 2 + Math.round(random() * 6),
    });
    if (random() < 0.5) return [first];
    return [
      first,
      testStep(`t${k}`, { areaIds: [area.id], mixIds: [`m${own * 2 + 1}`], needs: 'auto', coverShare: 0.3, doMin: 3 }),
    ];
  });
  return { ...smallLesson(steps), support: { ...smallLesson([]).support, widthMm: W + 300, heightMm: 300 }, areas, mixes };
}

const seeds = Array.from({ length: process.env.VIATICUM_SOAK ? 500 : 40 }, (_, k) => k + 1);
const end = (lesson: Lesson): number => planLesson(lesson).plan.endMin;

describe('lessons drawn by chance', () => {
  it('no contact, no wait: an area moved far away from all others touches none of them', () => {
    for (const seed of seeds) {
      const lesson = drawnLesson(seed);
      const far = {
        ...lesson,
        areas: lesson.areas.map((area, i) => (i === 0 ? { ...area, outline: box(W + 150, 0, 60, 300) } : area)),
      };
      const met = planLesson(far).contacts.filter((one) => (one.areaId === 'a0') !== (one.ownAreaId === 'a0'));
      expect([seed, met]).toEqual([seed, []]);
    }
  });

  it('more tolerance, a higher limit and thin first coats never make a plan longer', () => {
    for (const seed of seeds) {
      const lesson = drawnLesson(seed);
      const own = end(lesson);
      for (const planning of [
        { ...lesson.planning, toleranceMin: 6 },
        { ...lesson.planning, harmLimit: 20 },
      ])
        expect([seed, end({ ...lesson, planning }) <= own + 1e-6]).toEqual([seed, true]);
      const thin = {
        ...lesson,
        steps: lesson.steps.map((step) => (step.id.startsWith('s') ? { ...step, load: 'thin' as const } : step)),
      };
      expect([seed, end(thin) <= own + 1e-6]).toEqual([seed, true]);
    }
  });

  it('every pause names a contact; waived, it is shorter or gone; taken back, the lesson is as it was', () => {
    let pauses = 0;
    for (const seed of seeds) {
      const lesson = drawnLesson(seed);
      const planned = planLesson(lesson);
      for (const [i, item] of planned.plan.items.entries()) {
        const next = planned.plan.items[i + 1]?.stepId;
        if (item.kind !== 'pause' || !next) continue;
        pauses++;
        const held = planned.contacts.filter((one) => one.toStepId === next && one.waitMin > 0);
        expect([seed, held.length > 0]).toEqual([seed, true]);
        expect(item.reason).toMatch(/takes? \d+ min|takes? \d+ h/);
        const waived = carryOut(startHistory(lesson), 'waiveContact', {
          contacts: held.map(({ fromStepId, toStepId, areaId }) => ({ fromStepId, toStepId, areaId })),
        });
        const after = planLesson(waived.lesson).plan;
        const at = after.items.findIndex((one) => one.stepId === next);
        const left =
          after.items[at - 1]?.kind === 'pause' ? (after.items[at - 1]?.endMin ?? 0) - (after.items[at - 1]?.startMin ?? 0) : 0;
        expect([seed, left < item.endMin - item.startMin - 1e-6]).toEqual([seed, true]);
        expect(JSON.stringify(undo(waived).lesson)).toBe(JSON.stringify(lesson));
      }
    }
    expect(pauses).toBeGreaterThan(seeds.length / 4);
  });

  it('the canvas turned left to right asks for the same', () => {
    for (const seed of seeds) {
      const lesson = drawnLesson(seed);
      const { widthMm } = lesson.support;
      const flipped = {
        ...lesson,
        areas: lesson.areas.map((area) => ({
          ...area,
          outline: area.outline.map((part) =>
            part.map((ring) => ring.map(([x, y]): [number, number] => [widthMm - x, y]).reverse()),
          ),
        })),
      };
      const told = (one: Lesson) =>
        planLesson(one)
          .contacts.map(({ id, ownAreaId, kind, waitMin }) => `${id}/${ownAreaId}/${kind}/${waitMin.toFixed(3)}`)
          .sort();
      expect([seed, told(flipped)]).toEqual([seed, told(lesson)]);
    }
  });

  it('a wet school waits for no paint, whatever the lesson', () => {
    const wet = (lesson: Lesson): Lesson => ({
      ...lesson,
      school: { ...lesson.school, layers: 'one-wet-session' },
      steps: lesson.steps.map((step) => (step.kind === 'paint' ? { ...step, needs: 'auto' } : step)),
    });
    for (const seed of seeds) expect([seed, planLesson(wet(drawnLesson(seed))).plan.waitMin]).toEqual([seed, 0]);
    for (const lesson of [demoLesson(), demoLesson('kettle'), schoolLesson()]) {
      const waits = planLesson(wet(lesson)).plan.items.filter((item) => item.kind === 'pause');
      // What cannot be done wet, a tracing, may wait; paint does not.
      const kinds = new Map(lesson.steps.map((step) => [step.id, step.kind]));
      const items = planLesson(wet(lesson)).plan.items;
      expect(waits.filter((item) => kinds.get(items[items.indexOf(item) + 1]?.stepId ?? '') === 'paint')).toEqual([]);
    }
  });
});

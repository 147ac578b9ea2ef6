import { describe, expect, it } from '@jest/globals';
import { brushOf } from '../brush/index.js';
import { demoLesson } from '../fixtures/index.js';
import { draftLesson, proposeStep } from './index.js';

const fresh = () => {
  let ids = 0;
  return () => `n${ids++}`;
};

const names = ['balloons', 'kettle'] as const;

describe('what a step on an area is proposed with', () => {
  it('is what the draft of the school lays first on that area', () => {
    for (const name of names) {
      const lesson = { ...demoLesson(name), steps: [] };
      const drafted = draftLesson(lesson, fresh()).steps.map(({ step }) => step);
      for (const area of lesson.areas) {
        const first = drafted.find((step) => step.kind === 'paint' && step.areaIds.includes(area.id));
        const proposed = proposeStep(lesson, area.id);
        if (!first || !proposed) {
          expect([name, area.id, Boolean(first)]).toEqual([name, area.id, Boolean(proposed)]);
          continue;
        }
        expect(proposed.fields.brushId).toBe(first.brushId);
        expect(proposed.fields.technique).toBe(first.technique);
        expect(proposed.why.join(' ')).toMatch(/\w+\./);
      }
    }
  });
  it('is the next coat where the area is painted already, by a brush that is no wider', () => {
    const lesson = { ...demoLesson('kettle'), steps: [] };
    const drafted = draftLesson(lesson, fresh()).steps.map(({ step }) => step);
    const coats = (areaId: string) => drafted.filter((step) => step.kind === 'paint' && step.areaIds.includes(areaId));
    const area = lesson.areas.find((one) => coats(one.id).length > 1);
    if (!area) throw new Error('the demo lesson has an area of several coats');
    const painted = coats(area.id).slice(0, 1);
    const bare = proposeStep(lesson, area.id);
    const next = proposeStep({ ...lesson, steps: painted }, area.id);
    expect(bare?.fields.mixIds.length).toBeGreaterThan(0);
    expect(next?.why.at(-1)).not.toBe(bare?.why.at(-1));
    const width = (id: string | undefined) => brushOf(id)?.widthMm ?? 0;
    expect(width(next?.fields.brushId)).toBeLessThanOrEqual(width(bare?.fields.brushId));
    // The step itself does not count as laid before it.
    expect(proposeStep({ ...lesson, steps: painted }, area.id, painted[0]?.id)).toEqual(bare);
  });
  it('is nothing for an area that nobody sees', () => {
    expect(proposeStep(demoLesson('kettle'), 'no-such-area')).toBeNull();
  });
});

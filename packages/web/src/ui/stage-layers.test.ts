import { describe, expect, it } from '@jest/globals';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { wholeSheet } from '@viaticum/core/student-sheet';
import { labelPlaces } from './label-places.js';
import { wetnessAt } from './stage-layers.js';

describe('labels of what is wet', () => {
  const lesson = demoLesson('balloons');
  const { plan } = planLesson(lesson);
  const { sheet } = wholeSheet(lesson);
  const labels = (minute: number) => wetnessAt(sheet, plan.coats, minute, true).flatMap(({ label }) => label ?? []);

  it('a toned canvas is one thing that is wet, not ten', () => {
    const ground = plan.coats.find((coat) => coat.stepId === lesson.steps[0]?.id);
    if (!ground) throw new Error('the first step tones the canvas');
    expect(labels(ground.laidToMin + 0.2)).toEqual(['whole canvas workable']);
  });
  it('later each wet area has its own, and a dry canvas none', () => {
    const sky = plan.coats.find((coat) => coat.stepId === lesson.steps[2]?.id);
    if (!sky) throw new Error('the third step paints the sky');
    expect(labels(sky.laidToMin)).toContain('sky workable');
    expect(labels(plan.endMin + 60 * 24)).toEqual([]);
  });
  it('none lies on another, in the order of their places', () => {
    const placed = labelPlaces([{ y: 50 }, { y: 10 }, { y: 12 }, { y: 14 }, { y: 95 }, { y: 96 }], 100, 8);
    expect(placed.map(({ y }) => y)).toEqual([10, 18, 26, 50, 95]);
  });
});

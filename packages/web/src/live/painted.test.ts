import { describe, expect, it } from '@jest/globals';
import { demoLesson } from '@viaticum/core/fixtures';
import { wholeSheet } from '@viaticum/core/student-sheet';
import { doneAt, pictureAfter } from './painted.js';

const { sheet, plan } = wholeSheet(demoLesson());
const ids = Object.keys(sheet.steps);
const leaving = ids.filter((id) => (sheet.steps[id]?.layers.length ?? 0) > 0);

describe('which stage picture shows a canvas', () => {
  it('that of the last step that left a trace, whatever else was looked at between', () => {
    expect(pictureAfter(sheet, new Set())).toBeNull();
    expect(pictureAfter(sheet, new Set(leaving.slice(0, 4)))).toBe(leaving[3]);
    const idle = ids.filter((id) => !leaving.includes(id));
    expect(idle.length).toBeGreaterThan(0);
    expect(pictureAfter(sheet, new Set([...leaving.slice(0, 2), ...idle]))).toBe(leaving[1]);
    expect(pictureAfter(sheet, new Set(ids))).toBe(leaving.at(-1));
  });
  it('none where something was left out', () => {
    expect(pictureAfter(sheet, new Set(leaving.slice(1, 3)))).toBeUndefined();
    expect(pictureAfter(sheet, new Set([leaving[0] as string, leaving[2] as string]))).toBeUndefined();
  });
  it('at an item of the plan: with its own step or before it', () => {
    const index = plan.items.findIndex((item) => item.stepId === leaving[2]);
    expect(pictureAfter(sheet, doneAt(plan, index, true))).toBe(leaving[2]);
    expect(pictureAfter(sheet, doneAt(plan, index, false))).toBe(leaving[1]);
    expect(doneAt(plan, 0, false).size).toBe(0);
  });
});

import { describe, expect, it } from '@jest/globals';
import { newStudio } from '@viaticum/contract';
import { demoLesson } from '../fixtures/index.js';
import { planOf } from '../plan/index.js';
import { courseKit, courseLineInWords } from './course.js';
import { kitPaint, paintKey } from './paint.js';
import { groupOf } from './parts.js';
import { kitBrushes, kitThings } from './things.js';

const lessons = [demoLesson('kettle'), demoLesson('wool')];
const kit = courseKit(lessons, newStudio);
const line = (key: string) => kit.lines.find((one) => one.key === key);
const yieldOf = (amount: string): number =>
  amount
    .replace(' ml', '')
    .split(' + ')
    .reduce((sum, part) => sum + part.split(' × ').reduce((product, n) => product * Number(n), 1), 0);

describe('what a course needs', () => {
  it('one lesson needs what it needs alone', () => {
    const [one] = lessons as [(typeof lessons)[0]];
    const alone = courseKit([one], newStudio);
    const planned = planOf(one);
    const paint = kitPaint(one, planned.plan, newStudio);
    expect(alone.lines.filter(({ shelf }) => shelf === 'paint').map(({ name }) => name)).toEqual(
      paint.tubes.map(({ name }) => name),
    );
    for (const { key, buy } of paint.tubes)
      expect(yieldOf(alone.lines.find((two) => two.key === `paint ${key}`)?.amount ?? '')).toBe(
        buy.sizes.reduce((sum, ml) => sum + ml, 0),
      );
    expect(alone.lines.length).toBe(
      paint.tubes.length + kitBrushes(one, planned).brushes.length + kitThings(one, planned, newStudio.sinks).length,
    );
  });
  it('paint is enough for all lessons together, and costs no more than bought for each', () => {
    const paints = new Set(lessons.flatMap((lesson) => lesson.tubes.map(paintKey)));
    const prices = [...paints].flatMap((paint) =>
      [37, 75, 150, 250].map((sizeMl) => ({ paint, sizeMl, priceMinor: Math.round(100 * sizeMl ** 0.8) })),
    );
    const studio = { ...newStudio, prices };
    const need = new Map<string, { ml: number; cost: number }>();
    for (const lesson of lessons)
      for (const one of kitPaint(lesson, planOf(lesson).plan, studio).tubes) {
        const was = need.get(one.key) ?? { ml: 0, cost: 0 };
        need.set(one.key, { ml: was.ml + one.groupMl, cost: was.cost + one.buy.costMinor });
      }
    expect(need.size).toBeGreaterThan(3);
    const together = courseKit(lessons, studio);
    for (const [key, { ml, cost }] of need) {
      const bought = together.lines.find((one) => one.key === `paint ${key}`);
      expect([key, yieldOf(bought?.amount ?? '0') >= ml, (bought?.costMinor ?? Number.NaN) <= cost]).toEqual([key, true, true]);
    }
    expect(together.unpriced).toBe(0);
    expect(together.costMinor).toBe(together.lines.reduce((sum, { costMinor }) => sum + (costMinor ?? 0), 0));
  });
  it('what the studio has is not bought again', () => {
    const tube = lessons[0]?.tubes[0] as (typeof lessons)[0]['tubes'][0];
    const stocked = courseKit(lessons, { ...newStudio, stock: [{ paint: paintKey(tube), ml: 5000 }] as never });
    expect(stocked.lines.find(({ key }) => key === `paint ${paintKey(tube)}`)?.amount).toBe('in the cupboard');
  });
  it('tools serve every lesson: as many as the one that needs most; canvases and towels are for each', () => {
    const counts = (key: string) =>
      lessons.map((lesson) => kitThings(lesson, planOf(lesson), newStudio.sinks).find((one) => one.key === key)?.count ?? 0);
    expect(line('easel')?.amount).toBe(String(Math.max(...counts('easel'))));
    expect(line('towels')?.amount).toBe(String(counts('towels').reduce((sum, n) => sum + n, 0)));
    const supports = kit.lines.filter(({ key }) => key.startsWith('support'));
    expect(supports.reduce((sum, { amount }) => sum + Number(amount), 0)).toBe(counts('support').reduce((sum, n) => sum + n, 0));
    expect(kit.heads).toBe(groupOf(lessons[0] as (typeof lessons)[0]).heads);
  });
  it('each line says which lessons need it, in the order of a shop’s shelves', () => {
    const order = ['paint', 'mediums', 'brushes', 'supports', 'paper', 'sundries'];
    const shelves = kit.lines.map(({ shelf }) => order.indexOf(shelf));
    expect(shelves).toEqual([...shelves].sort((a, b) => a - b));
    expect(line('easel')?.of).toEqual([0, 1]);
    for (const { of } of kit.lines) expect([of.length > 0, of.every((at) => at === 0 || at === 1)]).toEqual([true, true]);
  });
  it('says a line as it is read out; nothing for no lessons', () => {
    expect(courseLineInWords({ shelf: 'brushes', name: '2 in flat', amount: '13' } as never)).toBe('13 × 2 in flat');
    expect(courseLineInWords({ shelf: 'paint', name: 'titanium white', amount: '2 × 75 ml' } as never)).toBe(
      'titanium white, 2 × 75 ml',
    );
    expect(courseKit([], newStudio)).toMatchObject({ heads: 0, lines: [], costMinor: 0 });
  });
});

import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { type ClassCases, demoLesson, judgeClass, shownOf, simulatedClass } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';

const given = JSON.parse(readFileSync(new URL('../fixtures/class-cases/given.json', import.meta.url), 'utf8')) as ClassCases;

describe('scripted classes', () => {
  it.each(given.cases.map((one) => [one.id, one.title, one] as const))('%s %s', (_, __, one) => {
    const judged = judgeClass(given, one);
    expect(judged.filter(({ held }) => held !== null).length).toBeGreaterThan(0);
    expect(judged.filter(({ held }) => held === false).map(({ what, value }) => `${what}: ${value}`)).toEqual([]);
  });
});

describe('simulated classes of fourteen who press, forget, say nothing, come late and get stuck', () => {
  const { plan } = planLesson(demoLesson());
  const found = shownOf(Array.from({ length: 4 }, (_, k) => simulatedClass(plan, 500 + 91 * k)));
  it('their steps are known, and how far they are behind', () => {
    expect(found.stepRight).toBeGreaterThan(0.9);
    expect(found.lateOffMin).toBeLessThan(0.5);
  });
  it('who is stuck without a hand is found, and few stand in the list who need nobody', () => {
    expect(found.stuck).toBeGreaterThan(5);
    expect(found.stuckFound).toBe(found.stuck);
    expect(found.wronglyMinAnHour).toBeLessThan(20);
  });
});

import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { judgePractice, type PracticeCase } from '../fixtures/index.js';

const casesOf = (name: string) =>
  (JSON.parse(readFileSync(new URL(`../fixtures/${name}.json`, import.meta.url), 'utf8')) as { cases: PracticeCase[] }).cases;
const cases = [...casesOf('practice-cases'), ...casesOf('practice-own-cases')];

describe('lessons as they are painted (common practice, no published source)', () => {
  it.each(cases.filter((one) => one.zones || one.problem || one.expect.rungs).map((one) => [one.id, one.title, one] as const))(
    '%s %s',
    (_, __, one) => {
      const { held } = judgePractice(one);
      expect(held.length).toBeGreaterThan(0);
      expect(held.filter((entry) => !entry.held).map(({ what, value }) => `${what}: ${value}`)).toEqual([]);
    },
    60_000,
  );
});

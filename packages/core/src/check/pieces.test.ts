import { expect, test } from '@jest/globals';
import { demoLesson } from '../fixtures/index.js';
import { planOf } from '../plan/index.js';
import { findings, rules, workOutFindings } from './index.js';

test('findings worked out rule by rule are those of one look, and are not looked for again', () => {
  const lesson = demoLesson('balloons');
  const plan = planOf(lesson);
  const whole = findings(structuredClone(lesson), plan);
  const looked: string[] = [];
  const [rule] = rules.filter((one) => one.id === 'too-wet');
  if (!rule) throw new Error('no such rule');
  const { look } = rule;
  rule.look = (...args) => {
    looked.push(rule.id);
    return look(...args);
  };
  try {
    let pieces = 0;
    for (const _ of workOutFindings(lesson, plan)) pieces++;
    expect(pieces).toBe(rules.length);
    expect(findings(lesson, plan)).toEqual(whole);
    expect(looked).toEqual(['too-wet']);
  } finally {
    rule.look = look;
  }
});

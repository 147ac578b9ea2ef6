import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { smallLesson, testMark, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { findings } from './index.js';

const found = (lesson: Lesson, rule: string) => findings(lesson, planLesson(lesson)).filter((one) => one.rule === rule);
/** The lesson after its finding's own fix. */
const fixed = (lesson: Lesson, rule: string): Lesson => {
  const fix = found(lesson, rule)[0]?.fix;
  if (!fix) throw new Error(`${rule} offers nothing`);
  return carryOut(startHistory(lesson), fix.command, fix.args as never).lesson;
};

describe('what a practised instructor would notice (common practice, no published source)', () => {
  const gesso = testStep('gesso', { kind: 'prepare', areaIds: [], wholeCanvas: true, technique: 'gesso', doMin: 10 });

  it('gesso in class is offered to be laid at home; a thin wash is not', () => {
    const lesson = smallLesson([gesso, testStep('sky', { needs: 'touchDry' })]);
    expect(found(lesson, 'preparation-in-class')[0]?.words).toMatch(/^gesso takes .* Prepared the day before/);
    expect(found(fixed(lesson, 'preparation-in-class'), 'preparation-in-class')).toEqual([]);
    const wash = smallLesson([{ ...gesso, id: 'wash', technique: 'wash', doMin: 4 }, testStep('sky', { needs: 'auto' })]);
    expect(found(wash, 'preparation-in-class')).toEqual([]);
  });

  it('a lesson longer than was asked for says so, in its minutes', () => {
    const lesson = {
      ...smallLesson([testStep('sky', { doMin: 50 }), testStep('hill', { areaIds: ['b'], doMin: 30 })]),
      wantedMin: 60,
    };
    expect(found(lesson, 'too-long')[0]?.words).toBe('It lasts 1 h 20, where 1 h 00 was asked for.');
    expect(found({ ...lesson, wantedMin: 80 }, 'too-long')).toEqual([]);
  });

  it('four hundred hairs are laid with a rake, forty are drawn', () => {
    const hairs = (count: number) => ({
      ...smallLesson([testStep('fur', { areaIds: [], markIds: ['fur'] })]),
      marks: [testMark('fur', 'a', { kind: 'hairs' as const, count, lengthMm: 8, widthMm: 0.5 })],
    });
    expect(found(hairs(400), 'hairs-singly')[0]?.words).toMatch(/^400 hairs singly take \d+ min; a rake lays them in \d min\.$/);
    expect(fixed(hairs(400), 'hairs-singly').marks[0]?.tool).toBe('rake');
    expect(found(hairs(40), 'hairs-singly')).toEqual([]);
  });

  it('a reflection in the step of its thing is named', () => {
    const lesson = smallLesson([testStep('both', { areaIds: ['a', 'b'] })]);
    const mirrored = { ...lesson, areas: lesson.areas.map((area) => (area.id === 'b' ? { ...area, twinOfId: 'a' } : area)) };
    expect(found(mirrored, 'mirror-with-thing')[0]?.words).toBe('both paints the sky and its reflection at once.');
    expect(found(lesson, 'mirror-with-thing')).toEqual([]);
  });

  it('three things that may be left out want a look before them', () => {
    const optional = ['x', 'y', 'z'].map((id) => testStep(id, { mayBeLeftOut: true }));
    const lesson = smallLesson([testStep('sky', {}), ...optional]);
    expect(found(lesson, 'no-stop-test')).toHaveLength(1);
    const look = testStep('look', { kind: 'look', areaIds: [], mixIds: [] });
    expect(found(smallLesson([testStep('sky', {}), look, ...optional]), 'no-stop-test')).toEqual([]);
  });
});

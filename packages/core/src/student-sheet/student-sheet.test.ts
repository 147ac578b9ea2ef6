import { describe, expect, it } from '@jest/globals';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { wholeSheet } from './index.js';

const lesson = demoLesson();
const { sheet, plan } = wholeSheet(lesson);

describe('the sheet of a phone', () => {
  it('holds the plan that is taught', () => {
    expect(plan).toEqual(planLesson(lesson).plan);
    expect(Object.keys(sheet.steps)).toEqual(lesson.steps.map((step) => step.id));
  });
  it('says where each mix lies, warm to the left and cool to the right', () => {
    const places = new Map(
      Object.values(sheet.steps).flatMap((step) => step.mixes.map((mix) => [mix.name, mix.place ?? ''] as const)),
    );
    expect([...places.values()].every((place) => /left|right|middle/.test(place))).toBe(true);
    const at = (name: RegExp) => [...places].find(([one]) => name.test(one))?.[1] ?? '';
    expect(at(/red/)).toMatch(/left/);
    expect(at(/high sky/)).toMatch(/right/);
  });
  it('words a blend for mist, retarder or a damp brush, with this room’s minutes; a tracing for its paper', () => {
    const blend = lesson.steps.find((step) => step.technique === 'blend');
    const ways = sheet.ways?.[blend?.id ?? ''] ?? [];
    expect(ways.map((one) => one.helper)).toEqual(['mist', 'retarder', 'damp-brush']);
    // This blend takes longer than its paint stays workable, so it is misted at steady times.
    expect(ways[0]?.words).toMatch(/every \d+(\.5)? min/);
    const minutes = (text: string | undefined) => Number(/(\d+) min/.exec(text ?? '')?.[1]);
    expect(minutes(ways[1]?.words)).toBeGreaterThan(minutes(ways[2]?.words));
    const transfer = lesson.steps.find((step) => step.kind === 'transfer');
    expect(sheet.ways?.[transfer?.id ?? '']?.map((one) => one.helper)).toEqual(['transfer-paper', 'graphite']);
    expect(Object.keys(sheet.ways ?? {})).toHaveLength(
      lesson.steps.filter((step) => step.kind === 'transfer' || step.technique === 'blend').length,
    );
  });
  it('a blend that is done in time is not misted without need', () => {
    const damp = wholeSheet({ ...lesson, room: { ...lesson.room, airC: 14, humidity: 0.85 } }).sheet;
    const blend = lesson.steps.find((step) => step.technique === 'blend')?.id ?? '';
    expect(damp.ways?.[blend]?.[0]?.words).toMatch(/only if it begins to drag/);
  });
  it('names the steps that may be left out, with their minutes and weight', () => {
    const later = lesson.steps
      .filter((step) => step.kind === 'paint' && step.areaIds.length > 0 && step.mixIds.length > 0)
      .slice(-2);
    const marked = {
      ...lesson,
      steps: lesson.steps.map((step) => (later.includes(step) ? { ...step, mayBeLeftOut: true } : step)),
    };
    const facts = wholeSheet(marked).sheet.leaveOut ?? {};
    expect(Object.keys(facts)).toEqual(later.map((step) => step.id));
    for (const { minutes, weight } of Object.values(facts)) {
      expect(minutes).toBeGreaterThan(0);
      expect(weight).toBeGreaterThan(0);
    }
  });
  it('where none is marked, what goes over a coat of its own may be left out: never the ground, nor the first coat of an area', () => {
    const facts = sheet.leaveOut ?? {};
    expect(Object.keys(facts).length).toBeGreaterThan(0);
    const [ground] = lesson.steps;
    expect(facts[ground?.id ?? '']).toBeUndefined();
    for (const area of lesson.areas) {
      const first = lesson.steps.find((step) => step.kind === 'paint' && step.areaIds.includes(area.id));
      expect(facts[first?.id ?? '']).toBeUndefined();
    }
  });
  it('gives brushes in inches and in millimetres', () => {
    const step = Object.values(sheet.steps).find((one) => one.brush?.includes('2 in'));
    expect([step?.brush, step?.brushMetric]).toEqual(['2 in flat', '51 mm flat']);
  });
});

import { describe, expect, it } from '@jest/globals';
import type { Lab, Lesson, Mix, Step } from '@viaticum/contract';
import { smallLesson, testMark, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { ageOfShare, askedOf, harmOf, marksMeet, movingShare, paintOfColour, pickedUp } from './index.js';

const mix = (id: string, lab: Lab): Mix => ({ id, name: id, recipe: [], targetLab: lab });
const mixes = [
  mix('dark', [26, 2, -8]),
  mix('glow', [86, 4, 38]),
  mix('bay', [48, 2, -14]),
  mix('ricks', [22, 4, 10]),
  mix('dawn', [78, 14, 14]),
  mix('bank', [30, -8, 14]),
  mix('terraces', [46, -14, 20]),
];
/** A sky `a` with a hill `b` before it, each painted once, the hill second. */
const lessonOf = (steps: Step[], change: Partial<Lesson> = {}): Lesson => ({ ...smallLesson(steps), mixes, ...change });
const pair = (first: string, second: string, change: Partial<Step> = {}) => [
  testStep('one', { mixIds: [first] }),
  testStep('two', { areaIds: ['b'], mixIds: [second], needs: 'auto', ...change }),
];
const contactsIn = (lesson: Lesson) => planLesson(lesson).contacts;
const waited = (lesson: Lesson) => planLesson(lesson).plan.waitMin;

describe('would it hurt', () => {
  // The worked examples of the design: films alike, cut in beside (15 in a hundred), colours of which only the target is known.
  it.each([
    ['dark beside a wet glow', 'glow', 'dark', 0, 1.5],
    ['bay beside a glow', 'glow', 'bay', 1, 3],
    ['near bank over terraces', 'terraces', 'bank', 0, 1.5],
    ['pale dawn beside wet ricks', 'ricks', 'dawn', 27, 37],
  ])('%s', (_, wet, own, least, most) => {
    const lab = (id: string) => paintOfColour(mixes.find((one) => one.id === id)?.targetLab as Lab);
    const harm = harmOf(lab(wet), lab(own), pickedUp(0.15, 1, 40, 40));
    expect(harm).toBeGreaterThanOrEqual(least);
    expect(harm).toBeLessThanOrEqual(most);
  });
  it('a stroke takes up more from a thick film than from a thin one, and never more than half', () => {
    expect(pickedUp(0.15, 1, 80, 40)).toBeGreaterThan(pickedUp(0.15, 1, 40, 40));
    expect(pickedUp(0.15, 1, 40, 40)).toBeCloseTo(0.15, 9);
    expect(pickedUp(0.5, 1, 400, 10)).toBe(0.5);
    expect(pickedUp(0.5, 0, 400, 10)).toBe(0);
  });
  it('what still moves falls from all to a fifth to nothing, and its age is found again', () => {
    const ladder = { openMin: 6, paintOverMin: 20, touchDryMin: 26 };
    expect([0, 6, 20, 26, 40].map((age) => movingShare(ladder, age))).toEqual([1, 1, 0.2, 0, 0]);
    for (const age of [7, 12, 19, 21, 25]) expect(ageOfShare(ladder, movingShare(ladder, age))).toBeCloseTo(age, 6);
    expect(ageOfShare(ladder, 1)).toBe(0);
    expect(ageOfShare(ladder, 0)).toBe(26);
  });
});

describe('which rung for which act', () => {
  const rung = (step: Partial<Step>, kind: 'over' | 'edge' = 'over', wish: 'clean' | 'may-soften' = 'clean') =>
    askedOf(testStep('s', { needs: 'auto', ...step }), kind, wish, false);
  it('opaque paint asks for paint-over, less where it may soften; glazes, scumbles and lines for touch-dry by nature', () => {
    expect(rung({})).toEqual({ need: 'paintOver', byNature: false });
    expect(rung({}, 'over', 'may-soften')).toEqual({ need: 'damp', byNature: false });
    expect(rung({}, 'edge', 'may-soften')).toEqual({ need: 'any', byNature: false });
    expect(rung({ technique: 'dry-brush' })).toEqual({ need: 'paintOver', byNature: true });
    for (const technique of ['glaze', 'wash', 'scumble'] as const)
      expect(rung({ technique })).toEqual({ need: 'touchDry', byNature: true });
    expect(rung({ kind: 'transfer' })).toEqual({ need: 'touchDry', byNature: true });
  });
  it('what the instructor typed is asked of paint that the step lies on, harm or none', () => {
    expect(rung({ needs: 'firm' })).toEqual({ need: 'firm', byNature: true });
    expect(rung({ needs: 'touchDry' }, 'edge')).toEqual({ need: 'touchDry', byNature: false });
  });
});

describe('a lesson waits only where a painter waits', () => {
  it('dark beside wet pale goes on; pale beside wet dark waits, and says why', () => {
    expect(waited(lessonOf(pair('glow', 'dark')))).toBe(0);
    const hurt = lessonOf(pair('ricks', 'dawn'));
    const { plan } = planLesson(hurt);
    expect(plan.waitMin).toBeGreaterThan(2);
    const pause = plan.items.find((item) => item.kind === 'pause');
    expect(pause?.title).toBe('Wait for the edge of the sky');
    expect(pause?.reason).toMatch(
      /^The sky takes \d+ min from when it is laid to be dry enough to paint over\. Going on now, the dawn would take up some of the ricks along \d+ cm, about 4 mm wide, and turn darker and greyer\.$/,
    );
  });
  it('where the border may soften nobody waits for it', () => {
    const lesson = lessonOf(pair('ricks', 'dawn'));
    const soft = lesson.areas.map((area) =>
      area.id === 'b' ? { ...area, edges: [{ with: 'a', kind: 'soft' as const }] } : area,
    );
    expect(waited({ ...lesson, areas: soft })).toBe(0);
    const wished = soft.map((area) => ({ ...area, edges: area.edges?.map((edge) => ({ ...edge, wish: 'clean' as const })) }));
    expect(waited({ ...lesson, areas: wished as Lesson['areas'] })).toBe(waited(lesson));
  });
  it('no contact, no wait: areas that nowhere meet, and touches that keep away from the border', () => {
    const apart = lessonOf(pair('ricks', 'dawn'));
    const far = apart.areas.map((area) =>
      area.id === 'a'
        ? {
            ...area,
            outline: [
              [
                [
                  [0, 0],
                  [200, 0],
                  [200, 20],
                  [0, 20],
                ],
              ],
            ] as Lesson['areas'][number]['outline'],
          }
        : area,
    );
    expect(waited({ ...apart, areas: far })).toBe(0);
    expect(waited(lessonOf(pair('ricks', 'dawn', { coverShare: 0.3 })))).toBe(0);
  });
  it('what a later coat hides is waited for by nobody', () => {
    const [one, two] = pair('ricks', 'dawn') as [Step, Step];
    const cover = testStep('three', { areaIds: ['b'], mixIds: ['dawn'], needs: 'auto' });
    const contacts = contactsIn(lessonOf([one, two, cover]));
    expect(contacts.filter((one) => one.toStepId === 'two')).toEqual([]);
    // The second coat of the same colour is there to cover: it lies on dry paint.
    expect(contacts.find((one) => one.fromStepId === 'two')).toMatchObject({
      toStepId: 'three',
      need: 'paintOver',
      byNature: true,
    });
  });
  it('showing, mixing and the order of the parts are credited; caution takes no tolerance', () => {
    const wait = (change: Partial<Step>, rest: Partial<Lesson> = {}) =>
      contactsIn(lessonOf(pair('ricks', 'dawn', change), rest)).find((one) => one.toStepId === 'two')?.waitMin as number;
    expect(wait({ showMin: 2 })).toBeCloseTo(wait({ showMin: 0 }) - 2, 6);
    expect(wait({ laying: 'edges-last', brushId: 'round-8' })).toBeLessThanOrEqual(wait({ brushId: 'round-8' }));
    const exact = lessonOf(pair('ricks', 'dawn')).planning;
    expect(wait({}, { planning: { ...exact, toleranceMin: 0 } })).toBeGreaterThan(wait({}));
    const { school } = lessonOf([]);
    expect(wait({ showMin: 3 }, { school: { ...school, teaching: 'paint-along' } })).toBeCloseTo(wait({ showMin: 0 }), 6);
  });
  it('what a dryer does is said at the pause; without seats known not everybody is taken to hold one', () => {
    const [one, two] = pair('ricks', 'dawn') as [Step, Step];
    const dried = (seats?: number) =>
      planLesson(
        lessonOf(
          [
            { ...one, doMin: 2, dryer: true },
            { ...two, showMin: 0 },
          ],
          {
            room: { ...lessonOf([]).room, dryers: { count: 2, watts: 1200 }, ...(seats ? { seats } : {}) },
            planning: { pins: [], toleranceMin: 0 },
          },
        ),
      ).plan;
    const pause = dried(16).items.find((item) => item.kind === 'pause');
    expect(pause?.title).toBe('Dry the sky with the dryers');
    expect(pause?.reason).toMatch(
      /^With the dryers, in turns, the sky is dry enough to paint over for everybody after \d+ min; by itself after \d+ min\.$/,
    );
    expect(dried(16).waitMin).toBeGreaterThan(dried().waitMin);
    expect(dried().waitMin).toBeGreaterThan(dried(2).waitMin);
  });
  it('a wet school waits for no paint', () => {
    const steps = [
      ...pair('ricks', 'dawn'),
      testStep('three', { areaIds: ['a'], mixIds: ['dawn'], needs: 'auto', technique: 'scumble' }),
      testStep('four', { areaIds: ['b'], mixIds: ['ricks'], needs: 'auto', technique: 'glaze' }),
    ];
    const { school } = lessonOf([]);
    expect(waited(lessonOf(steps))).toBeGreaterThan(0);
    expect(waited(lessonOf(steps, { school: { ...school, layers: 'one-wet-session' } }))).toBe(0);
  });
  it('a waived contact waits no more, stays listed, and taken back it is as before', () => {
    const lesson = lessonOf(pair('ricks', 'dawn'));
    const waived = { ...lesson, planning: { ...lesson.planning, waived: [{ fromStepId: 'one', toStepId: 'two' }] } };
    expect(waited(waived)).toBe(0);
    expect(contactsIn(waived).find((one) => one.toStepId === 'two')).toMatchObject({ waived: true });
    expect(JSON.stringify(planLesson({ ...waived, planning: lesson.planning }).plan)).toBe(
      JSON.stringify(planLesson(lesson).plan),
    );
  });
  it('paint that goes over wet paint which nobody waits for is one film with it, and dries later', () => {
    const over = (needs: Step['needs']) =>
      planLesson(lessonOf([testStep('one', { mixIds: ['glow'] }), testStep('two', { mixIds: ['dark'], needs, showMin: 0 })]))
        .laid[1];
    expect(over('auto')?.ownShare).toBeLessThan(0.7);
    expect(over('touchDry')?.ownShare).toBe(1);
    expect(over('auto')?.drying.touchDryMin).toBeGreaterThan(over('touchDry')?.drying.touchDryMin as number);
  });
});

describe('marks that lie round a point', () => {
  const round = (id: string, radiusMm: number, rest = {}) =>
    testMark(id, 'a', { count: 16, round: { at: [100, 120], radiusMm }, ...rest });
  const spokes = round('spokes', 10, { kind: 'lines', lengthMm: 60, widthMm: 1.2 });
  it('never touch where their gap is wider than the hand strays', () => {
    const rim = round('rim', 78, { kind: 'dots', widthMm: 4, lengthMm: 4 });
    expect(marksMeet([spokes], [rim], 'beginner')).toBe(false);
    expect(marksMeet([spokes], [round('tips', 70, { kind: 'dots', widthMm: 4, lengthMm: 4 })], 'beginner')).toBe(true);
    const between = { at: [100, 120] as [number, number], radiusMm: 50, turnDeg: 11.25 };
    expect(marksMeet([spokes], [round('inner', 50, { kind: 'dots', widthMm: 3, lengthMm: 3, round: between })], 'beginner')).toBe(
      false,
    );
    expect(marksMeet([spokes], [testMark('strewn', 'a')], 'experienced')).toBe(true);
    expect(marksMeet([spokes], [testMark('elsewhere', 'b')], 'experienced')).toBe(false);
  });
  it('a step waits for those that it touches, and for no others', () => {
    const marks = [
      spokes,
      round('rim', 78, { kind: 'dots', widthMm: 4, lengthMm: 4 }),
      round('drops', 30, { kind: 'dots', widthMm: 6 }),
    ];
    const step = (id: string) =>
      testStep(id, { areaIds: [], markIds: [id], mixIds: ['dark'], technique: 'loaded', needs: 'auto' });
    const contacts = contactsIn(lessonOf([step('spokes'), step('rim'), step('drops')], { marks }));
    expect(contacts.map((one) => `${one.toStepId} on ${one.fromStepId}`)).toEqual(['drops on spokes']);
  });
});

import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { type CommandArgs, type CommandName, carryOut, startHistory } from '../lesson/index.js';
import { planLesson } from '../plan/index.js';
import { demoLesson, smallLesson, testStep } from '../plan/plan.fixture.js';
import { findings, rules } from './index.js';

const quiet = () => smallLesson([testStep('one', { zoneIds: ['a', 'b'] })]);
const found = (lesson: Lesson) => findings(lesson, planLesson(lesson));

/** The small lesson with ultramarine beside white: a blue, a pale blue, a near black, and heaps in between. */
const coloured = (steps: Lesson['steps']): Lesson => ({
  ...smallLesson(steps),
  tubes: [
    { id: 'w', pigment: 'PW6', grade: 'artist', finish: 'satin' },
    { id: 'b', pigment: 'PB29', grade: 'artist', finish: 'satin' },
    { id: 'u', pigment: 'PBr7-BU', grade: 'artist', finish: 'satin' },
  ],
  mixes: [
    { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
    {
      id: 'blue',
      name: 'blue',
      recipe: [
        { tubeId: 'w', parts: 2 },
        { tubeId: 'b', parts: 1 },
      ],
    },
    {
      id: 'pale',
      name: 'pale blue',
      recipe: [
        { tubeId: 'w', parts: 8 },
        { tubeId: 'b', parts: 1 },
      ],
    },
    {
      id: 'dark',
      name: 'dark',
      recipe: [
        { tubeId: 'b', parts: 1 },
        { tubeId: 'u', parts: 1 },
      ],
    },
    ...[1, 2, 3, 4].map((parts) => ({
      id: `h${parts}`,
      name: `heap ${parts}`,
      recipe: [
        { tubeId: 'w', parts: parts + 2 },
        { tubeId: 'u', parts: 1 },
      ],
    })),
  ],
});

/** For each rule a lesson in which it fires. */
const firing: Record<string, () => Lesson> = {
  'blend-outlasts': () => smallLesson([testStep('one', { zoneIds: ['a', 'b'], technique: 'blend', doMin: 12 })]),
  'window-missed': () =>
    smallLesson([
      testStep('one', { zoneIds: ['a', 'b'] }),
      testStep('long', { kind: 'look', mixIds: [], doMin: 20 }),
      testStep('two', { needs: 'wet' }),
    ]),
  contradiction: () => ({
    ...smallLesson([testStep('one', { zoneIds: ['a', 'b'] }), testStep('two', { needs: 'paintOver' })]),
    planning: { pins: [{ stepId: 'two', startMin: 5 }] },
  }),
  'too-wet': () =>
    smallLesson([
      testStep('one', { zoneIds: ['a', 'b'] }),
      testStep('two', { zoneIds: ['a'], needs: 'any', technique: 'scumble' }),
    ]),
  'against-order': () =>
    smallLesson([testStep('front', { zoneIds: ['b'] }), testStep('behind', { zoneIds: ['a'], needs: 'paintOver' })]),
  'lost-drawing': () =>
    smallLesson([
      testStep('lines', { kind: 'transfer', technique: undefined as never, mixIds: [], zoneIds: [] }),
      testStep('tone', { kind: 'prepare', technique: 'block-in', zoneIds: [] }),
    ]),
  'line-on-ground': () => ({
    ...coloured([
      testStep('tone', { kind: 'prepare', technique: 'wash', zoneIds: [], mixIds: ['blue'] }),
      testStep('lines', { kind: 'transfer', technique: undefined as never, mixIds: [], zoneIds: [], needs: 'touchDry' }),
    ]),
  }),
  'white-early': () => ({
    ...smallLesson([testStep('one', { zoneIds: ['a', 'b'] })]),
    stages: [
      { id: 'st', name: 'first' },
      { id: 'end', name: 'last' },
    ],
  }),
  'no-headroom': () =>
    smallLesson([
      testStep('one', { zoneIds: ['a', 'b'] }),
      testStep('two', { zoneIds: ['a'], technique: 'loaded', coverShare: 0.1, needs: 'touchDry' }),
    ]),
  'water-change': () => ({
    ...coloured([testStep('one', { zoneIds: ['a', 'b'], mixIds: ['m', 'dark', 'blue', 'h1', 'h2', 'h3', 'h4'] })]),
  }),
  'fine-brush': () => smallLesson([testStep('one', { zoneIds: ['a', 'b'], technique: 'blend', doMin: 2, brushId: 'round-2' })]),
  'bare-white': () =>
    smallLesson([
      testStep('one', { zoneIds: ['a'] }),
      testStep('two', { zoneIds: ['a'], technique: 'loaded', coverShare: 0.1, needs: 'touchDry' }),
      testStep('three', { zoneIds: ['b'], needs: 'paintOver' }),
    ]),
  'far-to-near': () =>
    coloured([
      testStep('far', { zoneIds: ['a'], mixIds: ['blue'] }),
      testStep('near', { zoneIds: ['b'], mixIds: ['pale'], needs: 'paintOver' }),
    ]),
  'lonely-hue': () =>
    coloured([
      testStep('tone', { kind: 'prepare', technique: 'wash', zoneIds: [], mixIds: ['m'] }),
      testStep('sky', { zoneIds: ['a'], mixIds: ['blue'], needs: 'paintOver' }),
      testStep('hill', { zoneIds: ['b'], mixIds: ['m'], needs: 'paintOver' }),
    ]),
  'bright-light': () => ({ ...quiet(), room: { ...quiet().room, outdoors: true, sunWPerM2: 500 } }),
  'mist-runs': () =>
    smallLesson([testStep('one', { zoneIds: ['a', 'b'], technique: 'dry-brush', medium: 'mist', mistEveryMin: 0.5, doMin: 10 })]),
  'light-ends': () => ({ ...quiet(), room: { ...quiet().room, startAtMin: 1200, lightUntilMin: 1202 } }),
  'session-too-long': () => ({
    ...smallLesson([testStep('one', { zoneIds: ['a', 'b'], doMin: 40 })]),
    planning: { pins: [], sessions: { most: 2, limitMin: 30 } },
  }),
  'dryer-load': () => ({
    ...quiet(),
    room: { ...quiet().room, dryers: { count: 6, watts: 1800 }, circuits: { count: 2, amps: 16, volts: 230 } },
  }),
  'unpainted-zone': () => smallLesson([testStep('one', { zoneIds: ['a'] })]),
  unmixed: () => ({ ...quiet(), mixes: [{ id: 'm', name: 'white', recipe: [] }], tubes: [] }),
  'long-stretch': () => smallLesson([testStep('one', { zoneIds: ['a', 'b'], doMin: 80 })]),
  'unused-mix': () => ({
    ...quiet(),
    mixes: [...quiet().mixes, { id: 'n', name: 'spare', recipe: [{ tubeId: 'w', parts: 1 }] }],
  }),
  'unused-tube': () => ({
    ...quiet(),
    tubes: [...quiet().tubes, { id: 'x', pigment: 'PB29', grade: 'artist', finish: 'satin' }],
  }),
  'near-twin': () => ({
    ...quiet(),
    mixes: [...quiet().mixes, { id: 'n', name: 'other white', recipe: [{ tubeId: 'w', parts: 2 }] }],
    steps: quiet().steps.map((step) => ({ ...step, mixIds: [...step.mixIds, 'n'] })),
  }),
  'tube-not-brought': () => ({ ...quiet(), tubes: quiet().tubes.map((tube) => ({ ...tube, students: false })) }),
  'no-colour': () => smallLesson([testStep('bare', { kind: 'paint', technique: 'block-in', mixIds: [], zoneIds: ['a', 'b'] })]),
  'too-much-water': () => ({ ...quiet(), mixes: quiet().mixes.map((mix) => ({ ...mix, waterShareOfMix: 0.6 })) }),
  'permission-unset': () => ({
    ...quiet(),
    references: [
      {
        id: 'r',
        pictureSha256: 'a'.repeat(64),
        widthPx: 9,
        heightPx: 9,
        role: 'whole',
        permission: { kind: 'unset' },
        placement: { mmPerPx: 1, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
      },
    ],
  }),
};

describe('rules', () => {
  it('every rule has a lesson in which it fires', () => {
    expect(Object.keys(firing).sort()).toEqual(rules.map((rule) => rule.id).sort());
  });

  it('all are silent on a lesson without faults', () => {
    expect(found(quiet())).toEqual([]);
  });

  it.each(Object.entries(firing))('%s fires, with a reason, and its mend silences it', (id, lesson) => {
    const all = found(lesson());
    const [finding] = all.filter((one) => one.rule === id);
    expect(finding).toBeDefined();
    expect(finding?.words).toMatch(/\.$/);
    expect(finding?.reason).toMatch(/^(Physics|Common practice|School|Your own|The room|Rule of thumb)/);
    if (!finding?.mend) return;
    const mended = carryOut(
      startHistory(lesson()),
      finding.mend.command as CommandName,
      finding.mend.args as CommandArgs<CommandName>,
    );
    const left = found(mended.lesson).filter((one) => one.id === finding.id);
    // Retarder may not be enough on a very long blend; it must at least lengthen the working time.
    if (id === 'blend-outlasts') expect(left.every((one) => one.words !== finding.words)).toBe(true);
    else expect(left).toEqual([]);
  });

  it('dryers: 6 of 1 800 W need more than two circuits of 16 A at 230 V carry for long; 2 do not', () => {
    const lesson = (firing['dryer-load'] as () => Lesson)();
    // 230 V · 16 A · 0.8 = 2 944 W: one dryer each.
    expect(found(lesson)[0]?.words).toContain('run 2 at a time');
    expect(found({ ...lesson, room: { ...lesson.room, dryers: { count: 2, watts: 1800 } } })).toEqual([]);
    const used = smallLesson([testStep('one', { zoneIds: ['a', 'b'], dryer: true })]);
    expect(found(used)[0]?.words).toContain('the room has none');
  });

  it('a finding set aside stays known, with the word why, after the others', () => {
    const lesson = {
      ...(firing['unpainted-zone'] as () => Lesson)(),
      setAside: [{ finding: 'unpainted-zone/b', why: 'left bare on purpose' }],
    };
    expect(found(lesson)).toMatchObject([{ id: 'unpainted-zone/b', setAside: 'left bare on purpose' }]);
  });

  it('says of the demo lesson that the sky’s blend is too long; and mildly where its author departs from the school', () => {
    expect(found(demoLesson()).map((one) => [one.id, one.serious])).toEqual([
      ['blend-outlasts/s3/sky', true],
      ['against-order/fields/trees', false],
      ['no-headroom/s17/stripes', false],
    ]);
  });
});

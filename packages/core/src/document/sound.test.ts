import { describe, expect, it } from '@jest/globals';
import { Lesson, limits } from '@viaticum/contract';
import { Ajv } from 'ajv';
import fc from 'fast-check';
import { mixesWithin } from '../derived/index.js';
import { demoLesson, smallLesson, testMark, testStep } from '../fixtures/lessons.js';
import { argumentsOf, drawing, sortedText as text } from './arguments.fixture.js';
import {
  CommandError,
  type CommandName,
  carryOut,
  carryOutAll,
  commands,
  type History,
  lessonFaults,
  redo,
  startHistory,
  undo,
  upgradeLesson,
} from './index.js';

const isValid = new Ajv({ strict: false, allErrors: true }).compile(Lesson);
const names = Object.keys(commands) as CommandName[];
const RUNS = Number(process.env.VIATICUM_SOAK ?? 1) * 3;

describe('any sequence of three hundred commands', () => {
  it('leaves a document that the contract takes and that has no fault, survives being saved and read, and is undone to the last byte', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 31 }), fc.boolean(), (seed, small) => {
        const draw = drawing(seed);
        const start = small ? smallLesson([testStep('one', {}), testStep('two', {})]) : demoLesson();
        let history = startHistory(start);
        let last = '';
        for (let i = 0; i < 300; i++) {
          const name = draw.pick(names);
          // There is nothing to copy then.
          if (history.lesson.steps.length === 0 && name === 'insertSteps') continue;
          try {
            const next = carryOut(history, name, argumentsOf[name]({ ...draw, lesson: history.lesson }) as never);
            if (next !== history) last = name;
            history = next;
          } catch (error) {
            // Nothing to choose from is no command.
            if (!(error instanceof CommandError) && !(error instanceof TypeError && String(error).includes("'id'"))) throw error;
          }
          const faults = lessonFaults(history.lesson);
          expect([last, faults]).toEqual([last, []]);
        }
        const { lesson } = history;
        expect([isValid(lesson), isValid.errors]).toEqual([true, null]);
        expect(text(upgradeLesson(JSON.parse(JSON.stringify(lesson))))).toBe(text(lesson));
        while (history.past.length > 0) history = undo(history);
        expect(text(history.lesson)).toBe(text(start));
      }),
      { numRuns: RUNS, seed: 1, endOnFailure: true },
    );
  }, 240_000);
});

describe('what the server would refuse is refused here, with a sentence at its place, and nothing changes', () => {
  const many = <T>(count: number, make: (k: number) => T): T[] => Array.from({ length: count }, (_, k) => make(k));
  const refused = (history: History, name: CommandName, args: unknown, words: RegExp, place: RegExp) => {
    let thrown: unknown = null;
    try {
      carryOut(history, name, args as never);
    } catch (error) {
      thrown = error;
    }
    expect(thrown).toBeInstanceOf(CommandError);
    expect((thrown as CommandError).message).toMatch(words);
    expect((thrown as CommandError).place).toMatch(place);
  };
  const full = startHistory(smallLesson(many(limits.steps, (k) => testStep(`s${k}`, {}))));

  it('a 401st step, added, split, divided, copied or put in', () => {
    const words = /A lesson holds 400 steps at most\. Join some, or take one away first\./;
    refused(full, 'addStep', { step: testStep('more', {}) }, words, /^\/steps$/);
    refused(full, 'splitStep', { id: 's0', newId: 'more' }, words, /^\/steps$/);
    refused(full, 'divideStep', { id: 's0', parts: 2, places: [], doMin: 5, ids: ['more'] }, words, /^\/steps$/);
    refused(full, 'copySteps', { ids: ['s0'], newIds: ['more'] }, words, /^\/steps$/);
    refused(full, 'insertSteps', { steps: [testStep('more', {})], afterId: null }, words, /^\/steps$/);
    expect(carryOut(full, 'removeStep', { id: 's0' }).lesson.steps).toHaveLength(limits.steps - 1);
  });
  it('one more area, mix, tube, stage or mark than a lesson holds, and a ninth tube in a mix', () => {
    const small = smallLesson([testStep('one', {})]);
    const [area, mix, tube] = [small.areas[0], small.mixes[0], small.tubes[0]] as const;
    const crowded = startHistory({
      ...small,
      areas: many(limits.areas, (k) => ({ ...(area as NonNullable<typeof area>), id: k === 0 ? 'a' : `z${k}` })),
      mixes: many(limits.mixes, (k) => ({ ...(mix as NonNullable<typeof mix>), id: k === 0 ? 'm' : `m${k}` })),
      tubes: many(limits.tubes, (k) => ({ ...(tube as NonNullable<typeof tube>), id: k === 0 ? 'w' : `t${k}` })),
      stages: many(limits.stages, (k) => ({ id: k === 0 ? 'st' : `st${k}`, name: `stage ${k}` })),
      marks: many(limits.marks, (k) => testMark(`k${k}`, 'a')),
    });
    refused(crowded, 'addArea', { area: { ...area, id: 'more' } }, /60 areas at most/, /^\/areas$/);
    refused(crowded, 'addMix', { mix: { ...mix, id: 'more' } }, /200 mixes at most/, /^\/mixes$/);
    refused(crowded, 'addTube', { tube: { ...tube, id: 'more' } }, /60 tubes at most/, /^\/tubes$/);
    refused(crowded, 'addStage', { stage: { id: 'more', name: 'more' } }, /60 stages at most/, /^\/stages$/);
    refused(crowded, 'addMark', { mark: testMark('more', 'a') }, /200 marks at most/, /^\/marks$/);
    const recipe = many(limits.recipe + 1, (k) => ({ tubeId: k === 0 ? 'w' : `t${k}`, parts: 1 }));
    refused(crowded, 'setRecipe', { id: 'm', recipe }, /A mix holds 8 tubes at most/, /^\/mixes\/0\/recipe$/);
  });
  it('a margin that no canvas has, a name that nobody reads, a text too long, a field that nobody knows', () => {
    const history = startHistory(smallLesson([testStep('one', {})]));
    refused(history, 'setSupport', { support: { marginMm: 501 } }, /margin lies between 0 and 50 cm/, /marginMm$/);
    refused(history, 'editStep', { id: 'one', step: { say: 'x'.repeat(20_001) } }, /20 000 letters/, /^\/steps\/0\/say$/);
    refused(history, 'editStep', { id: 'one', step: { colour: 'red' } }, /./, /^\/steps\/0/);
    refused(history, 'setLevel', { level: 'master' }, /./, /^\/level$/);
  });
  it('blanks at the ends of a title are none of it', () => {
    const history = carryOut(startHistory(smallLesson([testStep('one', {})])), 'editStep', {
      id: 'one',
      step: { title: '  The sky ' },
    });
    expect(history.lesson.steps[0]?.title).toBe('The sky');
  });
});

describe('what names a thing that goes', () => {
  it('a variant and a mix follow an area that is joined, and forget a tube that is taken away', () => {
    const lesson = smallLesson([testStep('one', { areaIds: ['a'] })]);
    const before = startHistory({
      ...lesson,
      subjectAreaId: 'a',
      mixes: lesson.mixes.map((mix) => ({ ...mix, areaId: 'a', alsoAreaIds: ['a'] })),
      variants: [
        { id: 'v', name: 'short', withoutTubeIds: ['w'], changes: [{ stepId: 'one', step: { areaIds: ['a'], mixIds: ['m'] } }] },
      ],
    });
    const joined = carryOut(before, 'mergeAreas', { id: 'a', into: 'b' }).lesson;
    expect(joined.mixes[0]).toMatchObject({ areaId: 'b', alsoAreaIds: ['b'] });
    expect(joined.variants[0]?.changes[0]?.step.areaIds).toEqual(['b']);
    expect(joined.subjectAreaId).toBe('b');
    const gone = carryOut(before, 'removeArea', { id: 'a' }).lesson;
    expect(gone.mixes[0]).not.toHaveProperty('areaId');
    expect(carryOut(before, 'removeTube', { id: 'w' }).lesson.variants[0]?.withoutTubeIds).toEqual([]);
    expect(carryOut(before, 'removeMix', { id: 'm' }).lesson.variants[0]?.changes[0]?.step.mixIds).toEqual([]);
  });
  it('what is counted is in one part only of a step that is divided or split, and its photograph with the last', () => {
    const lesson = smallLesson([testStep('one', { markIds: ['k'], photoSha256: 'a'.repeat(64) })]);
    const before = startHistory({ ...lesson, marks: [testMark('k', 'a')] });
    const divided = carryOut(before, 'divideStep', {
      id: 'one',
      parts: 3,
      places: ['here', 'there'],
      doMin: 9,
      ids: ['two', 'three'],
    }).lesson;
    expect(divided.steps.map((step) => [step.markIds, step.photoSha256 !== undefined])).toEqual([
      [['k'], false],
      [[], false],
      [[], true],
    ]);
    const split = carryOut(before, 'splitStep', { id: 'one', newId: 'two' }).lesson;
    expect(split.steps.map((step) => [step.markIds, step.photoSha256 !== undefined])).toEqual([
      [['k'], false],
      [[], true],
    ]);
  });
  it('a step split and joined again is as it was; so is what was done as one change and taken back', () => {
    const words = 'Begin at the top. Go on to the middle, slowly.\nStop at the hills. Look from afar.';
    const step = testStep('one', { areaIds: ['a', 'b'], say: words, doMin: 7, showMin: 3, photoSha256: 'a'.repeat(64) });
    const before = startHistory(smallLesson([step, testStep('two', {})]));
    const split = carryOut(before, 'splitStep', { id: 'one', newId: 'half' });
    expect(split.lesson.steps).toHaveLength(3);
    expect(text(carryOut(split, 'joinSteps', { ids: ['one', 'half'] }).lesson)).toBe(text(before.lesson));
    const both = carryOutAll(before, [
      ['orderSteps', { ids: ['two', 'one'] }],
      ['setPlanning', { cautious: true }],
    ]);
    expect([both.past.length, both.lesson.steps[0]?.id, both.lesson.planning.cautious]).toEqual([1, 'two', true]);
    expect(text(undo(both).lesson)).toBe(text(before.lesson));
    expect(() =>
      carryOutAll(before, [
        ['setPlanning', { cautious: true }],
        ['removeStep', { id: 'gone' }],
      ]),
    ).toThrow(/no longer/);
    expect(carryOutAll(before, [])).toBe(before);
    // What is typed in one go is taken back as one.
    let typing = before;
    for (const title of ['T', 'Th', 'The']) typing = carryOutAll(typing, [['setTitle', { title }]], 'burst 1');
    typing = carryOutAll(typing, [['setTitle', { title: 'other' }]], 'burst 2');
    expect(typing.past).toHaveLength(2);
    expect(undo(typing).lesson.title).toBe('The');
    expect(text(undo(undo(typing)).lesson)).toBe(text(before.lesson));
    expect(redo(undo(undo(typing))).lesson.title).toBe('The');
  });
  it('a let-down mix stands on all that it is mixed from, however deep', () => {
    const lesson = smallLesson([]);
    const mix = (id: string, mixes: string[], letDown = false) => ({
      id,
      name: id,
      recipe: [],
      ...(letDown && { letDown }),
      mixedFrom: mixes.map((mixId) => ({ mixId, parts: 1 })),
    });
    const mixes = [mix('top', ['middle'], true), mix('middle', ['base']), mix('base', ['top']), mix('other', [])];
    expect(mixesWithin({ ...lesson, mixes }, (one) => one.letDown === true).map((one) => one.id)).toEqual([
      'top',
      'middle',
      'base',
    ]);
  });
});

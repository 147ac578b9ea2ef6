import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { demoLesson, smallLesson, testMark, testStep } from '../fixtures/lessons.js';
import { argumentsOf, drawing, sortedText as text } from './arguments.fixture.js';
import {
  type CommandArgs,
  CommandError,
  type CommandName,
  carryOut,
  commands,
  emptyDrawing,
  emptyLesson,
  redo,
  startHistory,
  undo,
  upgradeLesson,
} from './index.js';

const names = Object.keys(commands) as CommandName[];

describe('undo and redo', () => {
  it('every command has a way to draw arguments', () => {
    expect(Object.keys(argumentsOf).sort()).toEqual([...names].sort());
  });

  it.each([1, 2, 3, 4, 5, 6])('any sequence of 200 commands is undone and redone exactly (seed %d)', (seed) => {
    const draw = drawing(seed);
    const start = demoLesson();
    let history = startHistory(start);
    const carriedOut = new Set<string>();
    const seen = [text(start)];
    for (let i = 0; i < 200; i++) {
      const name = draw.pick(names);
      try {
        const args = argumentsOf[name]({ ...draw, lesson: history.lesson });
        const next = carryOut(history, name, args as never);
        if (next !== history) {
          carriedOut.add(name);
          seen.push(text(next.lesson));
        }
        history = next;
      } catch (error) {
        if (!(error instanceof CommandError) && !(error instanceof TypeError && String(error).includes("'id'"))) throw error;
        expect(text(history.lesson)).toBe(seen.at(-1));
      }
    }
    expect(carriedOut.size).toBeGreaterThan(15);
    for (let i = seen.length - 2; i >= 0; i--) {
      history = undo(history);
      expect(text(history.lesson)).toBe(seen[i]);
    }
    expect(undo(history)).toBe(history);
    expect(history.lesson).toEqual(start);
    for (let i = 1; i < seen.length; i++) history = redo(history);
    expect(text(history.lesson)).toBe(seen.at(-1));
    expect(redo(history)).toBe(history);
  });

  it('a new change forgets what was undone; one without effect leaves no trace', () => {
    const one = carryOut(startHistory(smallLesson([])), 'setTitle', { title: 'one' });
    const two = carryOut(undo(one), 'setTitle', { title: 'two' });
    expect(redo(two).lesson.title).toBe('two');
    expect(carryOut(two, 'setTitle', { title: 'two' })).toBe(two);
  });
});

describe('what commands do to the rest of the lesson', () => {
  it('taking an area, a mix or a tube away takes it out of steps and recipes', () => {
    let history = startHistory(smallLesson([testStep('one', { areaIds: ['a', 'b'] })]));
    history = carryOut(history, 'removeArea', { id: 'a' });
    expect(history.lesson.steps[0]?.areaIds).toEqual(['b']);
    history = carryOut(history, 'removeTube', { id: 'w' });
    expect(history.lesson.mixes[0]?.recipe).toEqual([]);
    history = carryOut(history, 'removeMix', { id: 'm' });
    expect(history.lesson.steps[0]?.mixIds).toEqual([]);
  });

  it('a step moved among those of another stage joins it, and stages stay together', () => {
    let history = startHistory(smallLesson([testStep('one', {}), testStep('two', {})]));
    history = carryOut(history, 'addStage', { stage: { id: 'late', name: 'late' } });
    history = carryOut(history, 'addStep', { step: testStep('three', { stageId: 'late' }), at: 0 });
    expect(history.lesson.steps.map((step) => step.id)).toEqual(['one', 'two', 'three']);
    history = carryOut(history, 'moveStep', { id: 'one', to: 2 });
    expect(history.lesson.steps.map((step) => [step.id, step.stageId])).toEqual([
      ['two', 'st'],
      ['three', 'late'],
      ['one', 'late'],
    ]);
  });
});

describe('what cannot be done is refused with a sentence, and nothing changes', () => {
  const lesson = smallLesson([testStep('one', {})]);
  const refused = <N extends CommandName>(name: N, args: CommandArgs<N>, words: RegExp) => {
    const history = startHistory(lesson);
    expect(() => carryOut(history, name, args)).toThrow(words);
    expect(history.lesson).toBe(lesson);
  };
  it('a crossing outline', () =>
    refused(
      'setOutline',
      {
        id: 'a',
        outline: [
          [
            [
              [0, 0],
              [20, 10],
              [20, 0],
              [0, 30],
            ],
          ],
        ],
      },
      /crosses itself/,
    ));
  it('a recipe with negative, broken or doubled parts', () => {
    refused('setRecipe', { id: 'm', recipe: [{ tubeId: 'w', parts: -2 }] }, /above 0/);
    refused('setRecipe', { id: 'm', recipe: [{ tubeId: 'w', parts: 1.5 }] }, /whole parts/);
    refused(
      'setRecipe',
      {
        id: 'm',
        recipe: [
          { tubeId: 'w', parts: 1 },
          { tubeId: 'w', parts: 2 },
        ],
      },
      /each tube once/,
    );
    refused('setRecipe', { id: 'm', recipe: [{ tubeId: 'gone', parts: 1 }] }, /no longer in the lesson/);
  });
  it('a negative duration', () => refused('editStep', { id: 'one', step: { doMin: -3 } }, /negative/));
  it('humidity 140 % and NaN', () => {
    refused('setRoom', { room: { humidity: 1.4 } }, /between 0 and 100 %/);
    refused('setRoom', { room: { humidity: Number.NaN } }, /between 0 and 100 %/);
  });
  it('rooms and plans that cannot be', () => {
    refused('setRoom', { room: { airC: -30 } }, /−20 and 60/);
    refused('setRoom', { room: { seats: 0 } }, /seats/);
    refused('setRoom', { room: { dryers: { count: 2, watts: 3 } } }, /label/);
    refused('setRoom', { room: { circuits: { count: 1, amps: 0, volts: 230 } } }, /breaker/);
    refused('pinStep', { id: 'one', startMin: Number.NaN }, /pinned/);
    refused('pinStep', { id: 'gone', startMin: 3 }, /no longer/);
    refused('pinOrder', { firstId: 'one', thenId: 'one' }, /before itself/);
    refused('setPlanning', { breaks: { lengthMin: 0, everyMin: 60 } }, /break lasts/);
    refused('setPlanning', { sessions: { most: 1, limitMin: 60 } }, /between 2 and 12/);
    refused('setPlanning', { slackShare: 3 }, /Slack/);
    refused('divideStep', { id: 'one', parts: 1, places: [], doMin: 4, ids: [] }, /parted/);
  });
  it('a step taken away takes its pins with it', () => {
    let history = startHistory(smallLesson([testStep('one', {}), testStep('two', {})]));
    history = carryOut(history, 'pinStep', { id: 'one', startMin: 5.1 });
    history = carryOut(history, 'pinOrder', { firstId: 'one', thenId: 'two' });
    history = carryOut(history, 'setPlanning', { cutsBefore: ['one'] });
    expect(history.lesson.planning.pins).toEqual([
      { stepId: 'one', startMin: 5 },
      { firstId: 'one', thenId: 'two' },
    ]);
    expect(carryOut(history, 'removeStep', { id: 'one' }).lesson.planning).toEqual({ pins: [], cutsBefore: [] });
  });
  it('a canvas of nothing', () => refused('setSupport', { support: { widthMm: 0 } }, /between 1 cm and 5 m/));
  it('an empty name', () => refused('renameArea', { id: 'a', name: '   ' }, /name/));
  it('an unknown tube', () => refused('addTube', { tube: { id: 'x', pigment: 'PX9', grade: 'artist' } }, /PX9/));
  it('a mix mixed from itself, by way of another', () => {
    let history = startHistory(smallLesson([]));
    history = carryOut(history, 'addMixes', {
      mixes: [{ id: 'deep', name: 'deep', recipe: [], mixedFrom: [{ mixId: 'm', parts: 1 }] }],
    });
    expect(() => carryOut(history, 'setRecipe', { id: 'm', recipe: [], mixedFrom: [{ mixId: 'deep', parts: 1 }] })).toThrow(
      /itself mixed from this one/,
    );
    expect(() => carryOut(history, 'setRecipe', { id: 'm', recipe: [], mixedFrom: [{ mixId: 'm', parts: 1 }] })).toThrow(
      /part of itself/,
    );
    expect(() => carryOut(history, 'removeMix', { id: 'm' })).toThrow(/“deep” is mixed from this one/);
    expect(() => carryOut(history, 'joinMixes', { keep: 'deep', drop: 'm' })).toThrow(/mixed from the other/);
  });
  it('an impossible sample of a tube of one’s own', () =>
    refused(
      'addTube',
      { tube: { id: 'x', pigment: 'PB29', grade: 'artist', own: { name: 'mine', masstoneLab: [140, 0, 0] } } },
      /between 0 and 100/,
    ));
  it('a stage with steps, and the last stage', () => refused('removeStage', { id: 'st' }, /still has steps/));
});

describe('whole steps', () => {
  const lesson: Lesson = {
    ...smallLesson([
      testStep('one', { say: 'First this. Then that. Last of all the edge.', areaIds: ['a', 'b'], doMin: 7 }),
      testStep('two', { say: 'Now the hill.', areaIds: ['b'], showMin: 1 }),
      testStep('look', { kind: 'look', mixIds: [], areaIds: [] }),
      testStep('end', { stageId: 'late' }),
    ]),
    stages: [
      { id: 'st', name: 'first' },
      { id: 'late', name: 'late' },
    ],
  };
  const done = <N extends CommandName>(name: N, args: CommandArgs<N>) => carryOut(startHistory(lesson), name, args).lesson;
  const ids = ({ steps }: Lesson) => steps.map((step) => step.id).join(' ');

  it('one is split after a sentence, its areas and minutes shared', () => {
    const [one, fresh] = done('splitStep', { id: 'one', newId: 'fresh' }).steps;
    expect([one?.say, fresh?.say]).toEqual(['First this. Then that. ', 'Last of all the edge.']);
    expect([one?.areaIds, fresh?.areaIds]).toEqual([['a'], ['b']]);
    expect((one?.doMin ?? 0) + (fresh?.doMin ?? 0)).toBe(7);
    expect(fresh?.id).toBe('fresh');
  });

  it('the second half of a blend goes on into wet paint; joined again it is as it was', () => {
    const blend = carryOut(startHistory(lesson), 'editStep', { id: 'two', step: { technique: 'blend', doMin: 8, showMin: 2 } });
    const split = carryOut(blend, 'splitStep', { id: 'two', newId: 'half' });
    expect(split.lesson.steps.find((step) => step.id === 'half')).toMatchObject({ needs: 'wet', partByPart: true, doMin: 4 });
    const joined = carryOut(split, 'joinSteps', { ids: ['two', 'half'] }).lesson;
    expect(joined.steps).toEqual(blend.lesson.steps);
  });

  it('further coats are steps of their own after the first, and go again when fewer are asked for', () => {
    const three = carryOut(startHistory(lesson), 'setCoats', { id: 'two', coats: 3, ids: ['c2', 'c3'] });
    expect(ids(three.lesson)).toBe('one two c2 c3 look end');
    expect(three.lesson.steps.filter((step) => step.coatOf === 'two').map((step) => step.title)).toEqual([
      'two, second coat',
      'two, third coat',
    ]);
    expect(ids(carryOut(three, 'setCoats', { id: 'two', coats: 2, ids: [] }).lesson)).toBe('one two c2 look end');
    expect(carryOut(three, 'removeStep', { id: 'two' }).lesson.steps.every((step) => step.coatOf === undefined)).toBe(true);
    expect(() => carryOut(three, 'setCoats', { id: 'c2', coats: 2, ids: ['x'] })).toThrow(/first coat/);
    expect(() => carryOut(three, 'setCoats', { id: 'two', coats: 9, ids: [] })).toThrow(/one to eight/);
  });

  it('what is left out comes back to where it stood, neighbours in their order, and can be let go for good', () => {
    const out = carryOut(startHistory(lesson), 'leaveOut', { ids: ['one', 'two'] });
    expect(ids(out.lesson)).toBe('look end');
    expect(out.lesson.leftOut.map(({ step, afterId }) => [step.id, afterId])).toEqual([
      ['one', undefined],
      ['two', undefined],
    ]);
    const back = carryOut(out, 'bringBack', { ids: ['two', 'one'] }).lesson;
    expect(back.leftOut).toEqual([]);
    expect(new Set(ids(back).split(' '))).toEqual(new Set(ids(lesson).split(' ')));
    const later = carryOut(carryOut(startHistory(lesson), 'leaveOut', { ids: ['two'] }), 'bringBack', { ids: ['two'] });
    expect(later.lesson.steps).toEqual(lesson.steps);
    expect(carryOut(out, 'forgetLeftOut', { ids: ['one'] }).lesson.leftOut).toHaveLength(1);
    expect(() => carryOut(startHistory(lesson), 'bringBack', { ids: ['two'] })).toThrow(/not left out/);
    // An area that goes takes what was left out on it alone along.
    expect(carryOut(out, 'removeArea', { id: 'b' }).lesson.leftOut.map(({ step }) => step.id)).toEqual(['one']);
  });

  it('another length is one change: what goes, what comes back, how long it is wanted', () => {
    const fitted = carryOut(startHistory(lesson), 'fitToLength', { minutes: 90, leaveOut: ['two'], bringBack: [] });
    expect([fitted.lesson.wantedMin, ids(fitted.lesson)]).toEqual([90, 'one look end']);
    expect(undo(fitted).lesson).toEqual(lesson);
    expect(() => carryOut(fitted, 'setWanted', { minutes: 5 })).toThrow(/between 10 minutes/);
  });

  it('two are joined: areas, words and minutes together; what named the second forgets it', () => {
    const pinned = carryOut(startHistory(lesson), 'pinStep', { id: 'two', startMin: 9 });
    const joined = carryOut(pinned, 'joinSteps', { ids: ['two', 'one'] }).lesson;
    expect(ids(joined)).toBe('one look end');
    expect(joined.steps[0]).toMatchObject({ areaIds: ['a', 'b'], doMin: 11, showMin: 1 });
    expect(joined.steps[0]?.say).toMatch(/edge\.\nNow the hill\.$/);
    expect(joined.planning.pins).toEqual([]);
    expect(() => done('joinSteps', { ids: ['one', 'look'] })).toThrow(/one kind/);
    expect(() => done('joinSteps', { ids: ['one'] })).toThrow(/at least two/);
  });

  it('several are moved together, and change the stage at its rim', () => {
    expect(ids(done('moveSteps', { ids: ['one', 'two'], by: 1 }))).toBe('look one two end');
    expect(ids(done('moveSteps', { ids: ['two', 'look'], by: -1 }))).toBe('two look one end');
    const over = done('moveSteps', { ids: ['look'], by: 1 });
    expect(ids(over)).toBe('one two look end');
    expect(over.steps[2]?.stageId).toBe('late');
    const back = done('moveSteps', { ids: ['end'], by: -1 });
    expect([ids(back), back.steps[3]?.stageId]).toEqual(['one two look end', 'st']);
    expect(ids(done('moveSteps', { ids: ['one'], by: -1 }))).toBe(ids(lesson));
  });

  it('copies stand after the last of them; what is brought from another lesson drops what is not here', () => {
    expect(ids(done('copySteps', { ids: ['one', 'look'], newIds: ['x', 'y'] }))).toBe('one two look x y end');
    const brought = done('insertSteps', {
      steps: [testStep('far', { areaIds: ['elsewhere', 'a'], mixIds: ['no'] })],
      afterId: 'one',
    });
    expect(ids(brought)).toBe('one far two look end');
    expect(brought.steps[1]).toMatchObject({ areaIds: ['a'], mixIds: [], stageId: 'st' });
  });

  it('marks go with their area; a step that is gone takes its sample along', () => {
    let history = carryOut(startHistory(lesson), 'addMark', { mark: testMark('tufts', 'b'), stepId: 'two' });
    expect(history.lesson.steps[1]?.markIds).toEqual(['tufts']);
    history = carryOut(history, 'addSample', { sample: { id: 's', name: 'half way', afterStepId: 'two' } });
    const without = carryOut(history, 'removeArea', { id: 'b' }).lesson;
    expect([without.marks, without.steps[1]?.markIds]).toEqual([[], []]);
    expect(carryOut(history, 'removeStep', { id: 'two' }).lesson.samples).toEqual([]);
    expect(() => carryOut(history, 'editMark', { id: 'tufts', mark: { count: 0 } })).toThrow(/2 000 marks/);
  });
});

describe('the last look', () => {
  const signed = smallLesson([testStep('one', {}), testStep('look', { kind: 'look', areaIds: [], mixIds: [], role: 'last' })]);
  it('stays last: paint that is added goes before it, a correction after signing does not', () => {
    const added = carryOut(startHistory(signed), 'addStep', { step: testStep('two', {}) }).lesson;
    expect(added.steps.map((step) => step.id)).toEqual(['one', 'two', 'look']);
    const after = carryOut(startHistory(signed), 'addStep', { step: testStep('two', { role: 'after-sign' }) }).lesson;
    expect(after.steps.map((step) => step.id)).toEqual(['one', 'look', 'two']);
  });
});

describe('documents of earlier versions', () => {
  const later = { marks: [], samples: [], variants: [], drawing: emptyDrawing, finish: 'satin', passages: [] };
  // Frozen: as version 0 wrote it.
  const version0 = {
    schemaVersion: 0,
    title: 'Old',
    room: { name: 'attic', airC: 19, humidityPercent: 62, airSpeed: 0.1 },
    zones: [],
  };
  // Frozen: as version 1 wrote it.
  const version1 = {
    schemaVersion: 1,
    title: 'Older',
    room: { name: 'attic', airC: 19, humidity: 0.62, airSpeed: 0.1 },
    zones: [],
    setAside: [],
  };
  it('version 0 is lifted: humidity becomes a fraction, the list of set-aside findings appears', () => {
    expect(upgradeLesson(structuredClone(version0))).toEqual({
      schemaVersion: 12,
      leftOut: [],
      ...later,
      title: 'Old',
      room: { name: 'attic', airC: 19, humidity: 0.62, airSpeed: 0.1 },
      areas: [],
      setAside: [],
      things: [],
      overlapMm: 6,
      planning: { pins: [] },
      tubes: [],
    });
  });
  it('version 1 is lifted: no things yet, and the usual overlap', () => {
    const { zones: _, ...rest } = version1;
    expect(upgradeLesson(structuredClone(version1))).toEqual({
      ...rest,
      areas: [],
      schemaVersion: 12,
      leftOut: [],
      ...later,
      things: [],
      overlapMm: 6,
      planning: { pins: [] },
      tubes: [],
    });
  });
  // Frozen: as version 2 wrote it.
  const version2 = {
    ...version1,
    schemaVersion: 2,
    elements: [],
    overlapMm: 6,
    tubes: [{ id: 'w', pigment: 'PW6', grade: 'artist' }],
  };
  // Frozen: as version 3 wrote it.
  const version3 = { ...version2, schemaVersion: 3, steps: [] };
  it('versions 2 and 3 are lifted: the plan holds to nothing yet', () => {
    const { zones: _, elements: __, ...rest } = version3;
    const now = { ...rest, schemaVersion: 12, leftOut: [], areas: [], things: [], planning: { pins: [] }, ...later };
    const { steps: ___, ...withoutSteps } = now;
    expect(upgradeLesson(structuredClone(version2))).toEqual(withoutSteps);
    expect(upgradeLesson(structuredClone(version3))).toEqual(now);
  });
  // Frozen: parts of a lesson as version 6 wrote it.
  const version6 = {
    ...version3,
    schemaVersion: 6,
    planning: { pins: [{ stepId: 'gone', startMin: 4 }] },
    samples: [],
    variants: [],
    drawing: emptyDrawing,
    stages: [{ id: 'st', name: 'one' }],
    elements: [{ id: 'pot', name: 'pot', fate: 'kept' }],
    zones: [{ id: 'z', name: 'sky', elementId: 'pot', outline: [] }],
    subjectZoneId: 'z',
    marks: [{ id: 'm', name: 'tufts', zoneId: 'z' }],
    mixes: [
      { id: 'x', name: 'blue', zoneId: 'gone', alsoZoneIds: ['z', 'gone'], recipe: [], heaps: [{ mixId: 'y', parts: 1 }] },
      { id: 'y', name: 'grey', recipe: [] },
    ],
    steps: [
      { id: 'tone', stageId: 'st', kind: 'prepare', needs: 'any', zoneIds: [], markIds: [], mixIds: ['x'] },
      { id: 'sky', stageId: 'st', kind: 'paint', needs: 'paintOver', zoneIds: ['z'], markIds: [], mixIds: ['gone'] },
      { id: 'tufts', stageId: 'st', kind: 'paint', needs: 'paintOver', zoneIds: [], markIds: ['m'], mixIds: [] },
      { id: 'tea', stageId: 'st', kind: 'break', needs: 'any', zoneIds: [], markIds: [], mixIds: [] },
    ],
    setAside: [{ finding: 'unpainted-zone/z', why: 'left white' }],
  };
  it('version 6 is lifted: areas, things and mixes have their words, the whole canvas is said, and nothing names what is gone', () => {
    const now = upgradeLesson(structuredClone(version6));
    expect(now).toMatchObject({
      schemaVersion: 12,
      leftOut: [],
      things: [{ id: 'pot' }],
      areas: [{ id: 'z', thingId: 'pot' }],
      subjectAreaId: 'z',
      marks: [{ areaId: 'z' }],
      planning: { pins: [] },
      setAside: [{ finding: 'unpainted-area/z' }],
    });
    expect(now.mixes[0]).toEqual({
      id: 'x',
      name: 'blue',
      alsoAreaIds: ['z'],
      recipe: [],
      mixedFrom: [{ mixId: 'y', parts: 1 }],
    });
    expect(now.steps.map((step) => [step.id, step.areaIds, step.wholeCanvas, step.mixIds])).toEqual([
      ['tone', [], true, ['x']],
      ['sky', ['z'], undefined, []],
      ['tufts', [], undefined, []],
      ['tea', [], undefined, []],
    ]);
    expect(JSON.stringify(now)).not.toMatch(/[zZ]one|lement|heap/);
  });
  it('version 7 is lifted: the surface is the lesson’s, samples keep theirs, and mixes are marked as seen with the former paint', () => {
    // Frozen: parts of a lesson as version 7 wrote it.
    const version7 = {
      schemaVersion: 7,
      tubes: [
        { id: 'w', pigment: 'PW6', grade: 'artist', finish: 'matt' },
        { id: 'o', pigment: 'PB29', grade: 'artist', finish: 'gloss', own: { name: 'dusk', masstoneLab: [30, 5, -30] } },
      ],
      mixes: [{ id: 'm', name: 'pale', recipe: [{ tubeId: 'w', parts: 1 }] }],
    };
    expect(upgradeLesson(structuredClone(version7))).toMatchObject({
      finish: 'matt',
      formerPaint: true,
      tubes: [
        { id: 'w', pigment: 'PW6', grade: 'artist' },
        { id: 'o', own: { name: 'dusk', masstoneLab: [30, 5, -30], finish: 'gloss' } },
      ],
    });
    expect(upgradeLesson({ ...structuredClone(version7), mixes: [] })).not.toHaveProperty('formerPaint');
    expect(JSON.stringify(upgradeLesson(structuredClone(version7)).tubes[0])).not.toContain('finish');
  });
  it('version 9 is lifted: nothing was left out yet, and the school is as it was', () => {
    // Frozen: parts of a lesson as version 9 wrote it.
    const old = {
      schemaVersion: 9,
      title: 'Older',
      school: { order: 'part-by-part' },
      steps: [{ id: 's', areaIds: [], mixIds: [] }],
    };
    expect(upgradeLesson(structuredClone(old))).toEqual({
      ...old,
      schemaVersion: 12,
      leftOut: [],
      school: { order: 'part-by-part', sweep: 'far-to-near', loading: 'one', reference: 'in-sight' },
    });
  });

  it('version 8 is lifted: what a step needs follows from its work again, its last look is the last, and waiting is said to have changed', () => {
    // Frozen: parts of a lesson as version 8 wrote it.
    const step = (id: string, rest: object) => ({ id, kind: 'paint', title: id, areaIds: [], markIds: [], mixIds: [], ...rest });
    const version8 = {
      schemaVersion: 8,
      school: { order: 'background-first' },
      steps: [
        step('base', { technique: 'block-in', needs: 'paintOver' }),
        step('glaze', { technique: 'glaze', needs: 'touchDry' }),
        step('lights', { technique: 'loaded', needs: 'touchDry' }),
        step('shade', { technique: 'scumble', needs: 'wet', sharedEdgeLast: true }),
        step('look', { kind: 'look', title: 'Last look, then sign', needs: 'any' }),
      ],
      variants: [{ changes: [{ stepId: 'base', step: { needs: 'paintOver' } }] }],
    };
    const now = upgradeLesson(structuredClone(version8));
    expect(now).toMatchObject({ schemaVersion: 12, passages: [], formerWaits: true, school: { hardPart: 'as-they-come' } });
    expect(now.steps.map((one) => one.needs)).toEqual(['auto', 'auto', 'touchDry', 'wet', 'any']);
    expect(now.steps[3]).toMatchObject({ laying: 'edges-last' });
    expect(now.steps[3]).not.toHaveProperty('sharedEdgeLast');
    expect(now.steps[4]?.role).toBe('last');
    expect(now.variants[0]?.changes[0]?.step).toEqual({ needs: 'auto' });
    const quiet = { ...structuredClone(version8), steps: version8.steps.slice(3), variants: [] };
    expect(upgradeLesson(quiet)).not.toHaveProperty('formerWaits');
  });
  it('the present version passes unchanged', () => {
    const lesson = emptyLesson('x', { widthMm: 100, heightMm: 100, unit: 'cm' }, () => 's');
    expect(upgradeLesson(lesson)).toBe(lesson);
  });
  it('a newer one and a stranger are refused with a sentence', () => {
    expect(() => upgradeLesson({ schemaVersion: 99 })).toThrow(/newer Viaticum/);
    expect(() => upgradeLesson({ title: 'x' })).toThrow(/not a lesson/);
    expect(() => upgradeLesson({ schemaVersion: -1 })).toThrow(/cannot be read/);
  });
});

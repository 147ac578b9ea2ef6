import { describe, expect, test } from '@jest/globals';
import { carryOut, lessonFaults, startHistory, undo } from '../document/index.js';
import { demoLesson } from '../fixtures/lessons.js';
import { hear, stepsHeard } from '../hear/index.js';
import { planLesson } from '../plan/index.js';
import { hearingOf, plannedBeside, stepsOfHeard } from './index.js';

const vtt = (...lines: string[]) =>
  `WEBVTT\n\n${lines.map((line, i) => `00:${String(Math.floor((i * 12) / 60)).padStart(2, '0')}:${String((i * 12) % 60).padStart(2, '0')}.000 --> 00:${String(Math.floor((i * 12 + 6) / 60)).padStart(2, '0')}:${String((i * 12 + 6) % 60).padStart(2, '0')}.000\n${line}\n`).join('\n')}`;
let count = 0;
const newId = () => `heard${++count}`;

describe('steps heard, taken into a lesson', () => {
  const lesson = demoLesson('kettle');
  const source = vtt(
    'First I take the one inch flat and mix two parts ultramarine to one part white for the wall.',
    'Cover the wall, back and forth, all of it.',
    'Keep it thin, do not go over it twice.',
    'Now let that dry completely.',
    'Next the copper body. A little bit of burnt umber into yellow ochre, with the filbert.',
    'Block in the copper body, round and round.',
    'Leave it alone now.',
  );
  const heard = stepsHeard(hear(source, hearingOf(lesson)), 40);
  const taken = stepsOfHeard(lesson, heard, { titles: [], bitAs: 'touch', speed: 2, stageName: 'Heard' }, newId);

  test('areas, brushes and tubes are those of the lesson; what dries is waited for', () => {
    expect(taken.steps.map(({ brushId }) => brushId)).toEqual(['flat-1-in', 'filbert-8']);
    const named = (ids: readonly string[]) => ids.map((id) => lesson.areas.find((area) => area.id === id)?.name.toLowerCase());
    expect(named(taken.steps[0]?.areaIds ?? [])).toContain('wall');
    expect(named(taken.steps[1]?.areaIds ?? [])).toContain('copper body');
    expect(taken.steps.map(({ needs }) => needs)).toEqual(['auto', 'touchDry']);
    expect(taken.steps[0]?.watch).toMatch(/do not go over it twice/i);
    const words = taken.mixes.map(({ recipe }) =>
      recipe.map(({ tubeId, parts }) => `${lesson.tubes.find(({ id }) => id === tubeId)?.pigment} ${parts}`),
    );
    expect(words).toEqual([['PB29 2', 'PW6 1'], expect.arrayContaining([expect.stringMatching(/ touch$/)])]);
  });
  test('“a bit” can be a part to eight; the film’s speed makes minutes of its seconds', () => {
    const asParts = stepsOfHeard(
      lesson,
      heard,
      { titles: ['Wall', 'Copper'], bitAs: 'part', speed: 4, stageName: 'Heard' },
      newId,
    );
    expect(asParts.mixes[1]?.recipe.map(({ parts }) => parts).sort()).toEqual([1, 8]);
    expect(asParts.steps.map(({ title }) => title)).toEqual(['Wall', 'Copper']);
    expect(asParts.steps[0]?.doMin).toBeGreaterThan(taken.steps[0]?.doMin ?? 99);
  });
  test('an empty shelf is filled with the tubes that are named; a full one gets those that it lacks', () => {
    const bare = {
      ...lesson,
      tubes: [],
      mixes: [],
      steps: [],
      areas: [],
      support: { ...lesson.support, groundCoats: [] },
      stages: lesson.stages.slice(0, 1),
      drawing: { ...lesson.drawing, constructions: [], own: [], edits: [] },
      leftOut: [],
      marks: [],
      passages: [],
      samples: [],
      variants: [],
      things: [],
    };
    delete (bare as Partial<typeof bare>).subjectAreaId;
    const own = stepsHeard(hear(source, hearingOf(bare)), 40);
    const given = stepsOfHeard(bare, own, { titles: [], bitAs: 'touch', speed: 1, stageName: 'Heard' }, newId);
    expect(given.tubes.map(({ pigment }) => pigment).sort()).toEqual(['PB29', 'PBr7-BU', 'PW6', 'PY42']);
    expect(lessonFaults(carryOut(startHistory(bare), 'takeHeard', given).lesson)).toEqual([]);
    const cerulean = stepsHeard(
      hear(vtt('Mix some cerulean blue with the white and block in the wall with the flat brush.'), hearingOf(lesson)),
      40,
    );
    const more = stepsOfHeard(lesson, cerulean, { titles: [], bitAs: 'touch', speed: 1, stageName: 'Heard' }, newId);
    expect(more.tubes.map(({ pigment }) => pigment)).toEqual(['PB36']);
    expect(more.mixes[0]?.recipe).toEqual([]);
  });
  test('the steps of the lesson that are most like them stand beside, in its order', () => {
    const [wall, copper] = plannedBeside(
      lesson,
      heard.filter(({ kind }) => kind !== 'talk'),
    );
    const areas = (stepId: string | undefined) =>
      lesson.steps
        .find(({ id }) => id === stepId)
        ?.areaIds.map((id) => lesson.areas.find((area) => area.id === id)?.name.toLowerCase());
    expect(areas(wall?.stepId)).toContain('wall');
    expect(areas(copper?.stepId)).toContain('copper body');
    expect(wall?.minutes).toBeGreaterThan(0);
  });
  test('they enter by one act, are planned, and go by one', () => {
    const after = carryOut(startHistory(lesson), 'takeHeard', taken);
    expect(lessonFaults(after.lesson)).toEqual([]);
    expect(planLesson(after.lesson).plan.items.filter(({ kind }) => kind === 'step').length).toBeGreaterThan(
      lesson.steps.length - 2,
    );
    expect(undo(after).lesson).toEqual(lesson);
  });
});

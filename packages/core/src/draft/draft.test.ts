import { describe, expect, it } from '@jest/globals';
import { type Lesson, type School, schoolChoices } from '@viaticum/contract';
import { brokenBy, seeded } from '@viaticum/kernels/fixtures';
import { findings } from '../check/index.js';
import { looksOf, visibleOf } from '../derived/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { readingMinutes } from '../text/index.js';
import { areaFacts, asDrafted, type Draft, draftChanges, draftLesson, fitTo } from './index.js';

const counter = () => {
  let n = 0;
  return () => `d${++n}`;
};
/** Without steps, and without colours set for areas: mixes are told apart by their names. */
const bare = (lesson: Lesson): Lesson => ({
  ...lesson,
  areas: lesson.areas.map(({ targetLab: _, ...area }) => area),
  steps: [],
  stages: [{ id: 'st', name: 'x' }],
  planning: { pins: [] },
});
const demo = bare(demoLesson());
const school = (change: Partial<School>): Lesson => ({ ...demo, school: { ...demo.school, ...change } });
const draft = (lesson: Lesson): Draft => draftLesson(lesson, counter());
const painting = ({ steps }: Draft) => steps.map((one) => one.step).filter((step) => step.kind === 'paint');
const firstOf = (one: Draft, areaId: string) => painting(one).findIndex((step) => step.areaIds.includes(areaId));

/** Every area that is seen is painted, and every mix is used. */
const isWhole = (lesson: Lesson, one: Draft): string[] => {
  const steps = one.steps.map(({ step }) => step);
  const faults: string[] = [];
  for (const part of visibleOf(lesson))
    if (part.areaCm2 > 0 && !painting(one).some((step) => step.areaIds.includes(part.id)))
      faults.push(`${part.id} is not painted`);
  for (const mix of lesson.mixes) if (!steps.some((step) => step.mixIds.includes(mix.id))) faults.push(`${mix.id} is not used`);
  const stages = new Set(one.stages.map((stage) => stage.id));
  for (const step of steps) if (!stages.has(step.stageId)) faults.push(`${step.id} is in no stage`);
  if (new Set(steps.map((step) => step.id)).size !== steps.length) faults.push('two steps of one id');
  return faults;
};

describe('a lesson drafted from its areas and mixes', () => {
  const one = draft(demo);

  it('paints every area, uses every mix, gives every step words and reasons, and is the same each time', () => {
    expect(isWhole(demo, one)).toEqual([]);
    for (const { step, why } of one.steps) {
      expect([step.title, step.say.length > 20, why.length > 0]).toEqual([step.title, true, true]);
      expect(step.title.length).toBeLessThanOrEqual(120);
    }
    expect(draft(demo)).toEqual(one);
  });

  it('finds nothing serious in itself, stays in the room’s time and has its breaks', () => {
    const lesson = asDrafted(demo, one);
    expect(
      findings(lesson, planLesson(lesson))
        .filter((finding) => finding.serious)
        .map((finding) => finding.words),
    ).toEqual([]);
    expect(planLesson(lesson).plan.endMin).toBeGreaterThan(60);
    expect(planLesson(lesson).plan.endMin).toBeLessThan(420);
  });

  it.each(Object.entries(schoolChoices).flatMap(([choice, options]) => options.map((option) => [choice, option] as const)))(
    'school %s: %s paints every area and uses every mix',
    (choice, option) => {
      const lesson = school({ [choice]: option });
      expect(isWhole(lesson, draft(lesson))).toEqual([]);
    },
  );
});

describe('the draft follows the school', () => {
  it('background first: what lies behind is begun before what lies before it; subject first: the other way', () => {
    const withSubject = { ...demo, subjectAreaId: 'great' };
    const back = draft(withSubject);
    expect(firstOf(back, 'sky')).toBeLessThan(firstOf(back, 'great'));
    const subject = draft({ ...withSubject, school: { ...demo.school, order: 'subject-first' } });
    expect(firstOf(subject, 'great')).toBeLessThan(firstOf(subject, 'sky'));
  });

  it('dark to light: in every area no later coat is darker, and the lightest lights come last of all', () => {
    const looks = looksOf(demo);
    const light = (ids: string[]) => Math.min(...ids.map((id) => looks.get(id)?.colour?.lab[0] ?? 0));
    const steps = painting(draft(demo));
    for (const area of demo.areas) {
      const own = steps.filter((step) => step.areaIds.includes(area.id)).map((step) => light(step.mixIds));
      expect(own).toEqual([...own].sort((a, b) => a - b));
    }
    const lights = steps.findIndex((step) => step.technique === 'loaded');
    expect(steps.slice(lights).every((step) => step.technique === 'loaded')).toBe(true);
  });

  it('part by part finishes one area before the next; one wet session goes into the wet', () => {
    const parts = painting(draft(school({ order: 'part-by-part' }))).filter((step) => step.technique !== 'loaded');
    const sequence = parts.map((step) => step.areaIds[0]);
    expect(sequence.filter((id, i) => id !== sequence[i - 1])).toHaveLength(new Set(sequence).size);
    const wet = draft(school({ layers: 'one-wet-session' }));
    const into = painting(wet).filter((step) => step.needs === 'wet');
    for (const step of into) {
      const at = painting(wet).indexOf(step);
      expect(painting(wet)[at - 1]?.areaIds).toEqual(step.areaIds);
    }
  });

  it('a white ground is not toned; the drawing comes when the school says', () => {
    expect(draft(school({ ground: 'white' })).steps.some(({ step }) => step.kind === 'prepare')).toBe(false);
    const place = (drawWhen: School['drawWhen']) =>
      draft(school({ drawWhen }))
        .steps.filter(({ step }) => step.kind !== 'look')
        .findIndex(({ step }) => step.kind === 'transfer');
    expect(place('before-anything')).toBe(0);
    expect(place('after-ground')).toBe(1);
    expect(place('after-background')).toBeGreaterThan(place('after-ground'));
    expect(draft(school({ drawing: 'none' })).steps.some(({ step }) => step.kind === 'transfer' || step.kind === 'draw')).toBe(
      false,
    );
  });
});

describe('drafts from areas by chance', () => {
  // npm run soak runs ten times as many.
  const rounds = Number(process.env.VIATICUM_SOAK ?? 1);
  const drawn = (seed: number): Lesson => {
    const random = seeded(seed);
    for (let i = 0; i < 5; i++) random();
    const count = 1 + Math.floor(random() * 8);
    const areas: Lesson['areas'] = Array.from({ length: count }, (_, i) => {
      const [x, y] = [random() * 150, random() * 180];
      const [w, h] = i === 0 ? [200, 250] : [20 + random() * 120, 15 + random() * 120];
      const [left, top] = i === 0 ? [0, 0] : [x, y];
      return {
        id: `z${i}`,
        name: `part ${i}`,
        outline: [
          [
            [
              [left, top],
              [Math.min(200, left + w), top],
              [Math.min(200, left + w), Math.min(250, top + h)],
              [left, Math.min(250, top + h)],
            ],
          ],
        ],
        ...(random() < 0.4
          ? { targetLab: [20 + random() * 70, random() * 60 - 30, random() * 60 - 30] as [number, number, number] }
          : {}),
      };
    });
    const mixes: Lesson['mixes'] = Array.from({ length: Math.floor(random() * 10) }, (_, i) => ({
      id: `m${i}`,
      name: `mix ${i}`,
      recipe: [{ tubeId: 'w', parts: 1 + i }, ...(random() < 0.7 ? [{ tubeId: 'b', parts: 1 }] : [])],
      ...(random() < 0.5 ? { areaId: `z${Math.floor(random() * count)}` } : {}),
    }));
    const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
    const chosen = Object.fromEntries(
      Object.entries(schoolChoices).map(([choice, options]) => [choice, pick<string>(options)]),
    ) as School;
    return {
      ...smallLesson([]),
      level: pick(['beginner', 'improver', 'experienced'] as const),
      school: chosen,
      areas,
      mixes,
      tubes: [
        { id: 'w', pigment: 'PW6', grade: 'artist' },
        { id: 'b', pigment: 'PB29', grade: 'artist' },
      ],
    };
  };
  it('forget nothing, and their plans break no relation (independent checker)', () => {
    for (let seed = 1; seed <= 30 * rounds; seed++) {
      const lesson = drawn(seed * 7919);
      const one = draft(lesson);
      expect([seed, isWhole(lesson, one)]).toEqual([seed, []]);
      const plan = planLesson(asDrafted(lesson, one));
      expect([seed, brokenBy(plan.problem, plan.solution)]).toEqual([seed, []]);
      expect([seed, plan.contradictions.length]).toEqual([seed, 0]);
    }
  });
});

describe('lessons at the edge', () => {
  it('names that are alike, in other scripts or full of signs make no difference to what is painted', () => {
    const names = ['sky', 'sky', '🎈🎈', 'שמים כהים', 'x'.repeat(120), 'a <b>bold</b> hill'];
    const named = { ...demo, areas: demo.areas.map((area, i) => ({ ...area, name: names[i % names.length] as string })) };
    const one = draft(named);
    expect(isWhole(named, one)).toEqual([]);
    expect(one.steps.every(({ step }) => step.title.length <= 120 && step.title.trim() !== '')).toBe(true);
  });
  it('no areas, one area, an area without a mix, sixty areas and no tubes all have a draft', () => {
    expect(draft({ ...demo, areas: [] }).steps.every(({ step }) => step.kind !== 'paint')).toBe(true);
    const one = smallLesson([]);
    expect(isWhole({ ...one, areas: one.areas.slice(0, 1) }, draft({ ...one, areas: one.areas.slice(0, 1) }))).toEqual([]);
    expect(painting(draft({ ...one, mixes: [], tubes: [] }))).toHaveLength(2);
    const areas = Array.from({ length: 60 }, (_, i): Lesson['areas'][number] => ({
      id: `z${i}`,
      name: i % 2 ? 'twin' : 'ملون 🎈',
      outline: [
        [
          [
            [(i % 8) * 25, Math.floor(i / 8) * 30],
            [(i % 8) * 25 + 24, Math.floor(i / 8) * 30],
            [(i % 8) * 25 + 24, Math.floor(i / 8) * 30 + 29],
          ],
        ],
      ],
    }));
    const many = { ...one, areas, school: { ...one.school, order: 'part-by-part' as const } };
    const drafted = draft(many);
    expect(isWhole(many, drafted)).toEqual([]);
    expect(drafted.stages.length).toBeLessThanOrEqual(60);
    expect(drafted.steps.length).toBeLessThanOrEqual(400);
  });
});

describe('a draft beside what stands', () => {
  const standing = asDrafted(demo, draft(demo));

  it('an untouched draft differs in nothing', () => {
    expect(draftChanges(standing, draft(standing))).toEqual([]);
  });

  it('what the instructor wrote stays; what the school changes is told, one by one', () => {
    const own = {
      ...standing,
      steps: standing.steps.map((step, i) => (i === 2 ? { ...step, say: 'My own words.', doMin: 9 } : step)),
    };
    expect(draftChanges(own, draft(own))).toEqual([]);
    const glazes = { ...own, school: { ...own.school, layers: 'glazes' as const } };
    const changes = draftChanges(glazes, draft(glazes));
    expect(changes.length).toBeGreaterThan(0);
    for (const change of changes) {
      if (change.kind !== 'change') continue;
      expect(change.fields).not.toContain('doMin');
      if (change.step.id === own.steps[2]?.id) expect(change.fields).not.toContain('say');
    }
    const white = { ...standing, school: { ...standing.school, ground: 'white' as const } };
    expect(draftChanges(white, draft(white)).some((change) => change.kind === 'remove' && change.step.kind === 'prepare')).toBe(
      true,
    );
    const fewer = { ...standing, steps: standing.steps.filter((_, i) => i !== 3) };
    expect(draftChanges(fewer, draft(fewer)).filter((change) => change.kind === 'add').length).toBeGreaterThan(0);
  });
});

describe('fitting a length', () => {
  const standing = asDrafted(demo, draft(demo));
  const { endMin } = planLesson(standing).plan;

  it('leaves out what takes least from the picture for each minute, never a first coat, and ends in time where it can', () => {
    const { left, lesson, endMin: reached } = fitTo(standing, endMin - 15);
    expect(left.length).toBeGreaterThan(0);
    expect(reached).toBeLessThanOrEqual(endMin - 15);
    expect(planLesson(lesson).plan.endMin).toBeCloseTo(reached, 6);
    for (const area of demo.areas)
      if (areaFacts(demo).areas.some((one) => one.area.id === area.id))
        expect(lesson.steps.some((step) => step.areaIds.includes(area.id))).toBe(true);
    for (const one of left) expect(one.savedMin).toBeGreaterThan(0);
  });
  it('leaves nothing out where there is time, and says what it reaches where there never is', () => {
    expect(fitTo(standing, endMin + 1).left).toEqual([]);
    const least = fitTo(standing, 1);
    expect(least.endMin).toBeGreaterThan(1);
    expect(fitTo(smallLesson([testStep('one', {})]), 1)).toMatchObject({ left: [], endMin: 4 });
  });
});

describe('reading time', () => {
  it('is 130 words a minute', () => {
    expect(readingMinutes(Array.from({ length: 65 }, () => 'word').join(' '))).toBeCloseTo(0.5, 9);
    expect(readingMinutes('  ')).toBe(0);
  });
});

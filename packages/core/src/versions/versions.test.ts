import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { carryOut, lessonFaults, startHistory } from '../document/index.js';
import { demoLesson, seeded } from '../fixtures/index.js';
import { differences, mergeLessons, thinned } from './index.js';

const base = demoLesson();
const changed = (from: Lesson, change: (draft: Lesson) => void): Lesson => {
  const draft = JSON.parse(JSON.stringify(from));
  change(draft);
  return draft;
};
const said = (to: Lesson, from = base) => differences(from, to).map((one) => one.said);

describe('differences', () => {
  it('of a lesson and itself are none', () => {
    expect(differences(base, JSON.parse(JSON.stringify(base)))).toEqual([]);
  });
  it('of a mix are parts of tubes, as they are said at the palette', () => {
    const mix = base.mixes.find(({ recipe }) => recipe.filter(({ parts }) => typeof parts === 'number').length >= 2);
    const at = base.mixes.indexOf(mix as Lesson['mixes'][0]);
    const more = changed(base, (draft) => {
      const part = draft.mixes[at]?.recipe.find(({ parts }) => typeof parts === 'number');
      if (part) part.parts = (part.parts as number) + 1;
    });
    expect(said(more)).toEqual([expect.stringMatching(new RegExp(`^${mix?.name}: 1 part [a-z ]+ more$`))]);
    expect(said(base, more)).toEqual([expect.stringMatching(/: 1 part [a-z ]+ less$/)]);
    const gone = changed(base, (draft) => void draft.mixes[at]?.recipe.pop());
    expect(said(gone)).toEqual([expect.stringMatching(/: without [a-z ]+$/)]);
    expect(said(base, gone)).toEqual([expect.stringMatching(/ with it$/)]);
    const touch = changed(base, (draft) => {
      const part = draft.mixes[at]?.recipe.find(({ parts }) => typeof parts === 'number');
      if (part) part.parts = '2 touches';
    });
    expect(said(touch)).toEqual([expect.stringMatching(/: 2 touches of [a-z ]+, was \d+$/)]);
  });
  it('of steps name the one that was moved, and no other', () => {
    const moved = changed(base, (draft) => {
      const [step] = draft.steps.splice(5, 1);
      if (step) draft.steps.splice(4, 0, step);
    });
    const lines = said(moved);
    expect(lines).toHaveLength(1);
    expect(lines[0]).toMatch(/^step [56] “.*” stands before “.*”, was number [56]$/);
    const last = changed(base, (draft) => void draft.steps.push(draft.steps.shift() as Lesson['steps'][0]));
    expect(said(last)).toEqual([`step ${base.steps.length} “${base.steps[0]?.title}” stands at the end, was number 1`]);
  });
  it('of a step say its minutes and words; of what came and went that it did', () => {
    const other = changed(base, (draft) => {
      const [step] = draft.steps;
      if (step) Object.assign(step, { doMin: 9, say: 'Loosely.' });
      draft.title = 'Balloons at dusk';
      draft.steps.pop();
    });
    expect(said(other)).toEqual([
      `called “Balloons at dusk”, was “${base.title}”`,
      expect.stringMatching(/^step 1 “.*”: 9 min to do, was .*, other words$/),
      `step “${base.steps.at(-1)?.title}” is gone`,
    ]);
  });
  it('leave no field of the document out: whatever is changed, something is said', () => {
    for (const field of Object.keys(base) as (keyof Lesson)[]) {
      if (field === 'schemaVersion') continue;
      const value = base[field];
      const other = { ...base, [field]: Array.isArray(value) ? value.slice(1) : `${JSON.stringify(value)}?` } as Lesson;
      if (Array.isArray(value) && value.length === 0) continue;
      if (['support', 'room', 'units', 'level'].includes(field)) continue;
      expect([field, differences(base, other).some((one) => one.field === field)]).toEqual([field, true]);
    }
    const twice = changed(base, (draft) => {
      draft.support.widthMm *= 2;
      draft.room.airC += 3;
      draft.level = 'experienced';
      draft.units = 'cm';
    });
    expect(said(twice)).toEqual([
      expect.stringMatching(/^canvas of .* cm, was .* in$/),
      expect.stringMatching(/^for the experienced, was for \w+s$/),
      expect.stringMatching(/^room/),
      'in centimetres',
    ]);
  });
});

describe('two versions of one lesson', () => {
  const named = (title: string) => carryOut(startHistory(base), 'setTitle', { title }).lesson;
  const mixed = changed(base, (draft) => {
    const mix = draft.mixes[2];
    if (mix) mix.name = 'another name';
  });

  it('whose changes lie apart become one, whoever is asked first', () => {
    const mine = named('Mine');
    const both = mergeLessons(base, mine, mixed);
    expect(both).toMatchObject({ clashes: [], fault: null });
    expect([both.lesson.title, both.lesson.mixes[2]?.name]).toEqual(['Mine', 'another name']);
    expect(mergeLessons(base, mixed, mine).lesson).toEqual(both.lesson);
  });
  it('that changed one part in two ways clash there, and one side is taken', () => {
    const [mine, theirs] = [named('Mine'), named('Theirs')];
    const at = (side: 'mine' | 'theirs') => mergeLessons(base, mine, theirs, () => side);
    expect(at('mine').clashes).toEqual([{ path: 'title', part: 'title' }]);
    expect([at('mine').lesson.title, at('theirs').lesson.title]).toEqual(['Mine', 'Theirs']);
    // The same change twice is no clash.
    expect(mergeLessons(base, mine, named('Mine')).clashes).toEqual([]);
  });
  it('may both add steps and one may move some: each stands where it was put', () => {
    const step = (id: string) => ({ ...(base.steps[1] as Lesson['steps'][0]), id, title: id });
    const mine = changed(base, (draft) => void draft.steps.splice(3, 0, step('mine')));
    const theirs = changed(base, (draft) => {
      draft.steps.splice(7, 0, step('theirs'));
      draft.steps.push(draft.steps.shift() as Lesson['steps'][0]);
    });
    const { lesson, clashes } = mergeLessons(base, mine, theirs);
    expect(clashes).toEqual([]);
    const ids = lesson.steps.map(({ id }) => id);
    expect(ids[ids.indexOf('mine') - 1]).toBe(base.steps[2]?.id);
    expect(ids[ids.indexOf('theirs') - 1]).toBe(base.steps[6]?.id);
    expect(ids.at(-1)).toBe(base.steps[0]?.id);
    expect(new Set(ids).size).toBe(base.steps.length + 2);
  });
  it('one of which took away what the other changed clash; the one that is taken is whole', () => {
    const id = base.steps[4]?.id as string;
    const mine = changed(base, (draft) => void draft.steps.splice(4, 1));
    const theirs = changed(base, (draft) => Object.assign(draft.steps[4] as object, { doMin: 42 }));
    const at = (side: 'mine' | 'theirs') => mergeLessons(base, mine, theirs, () => side);
    expect(at('mine').clashes).toEqual([{ path: `steps/${id}`, part: id }]);
    expect(at('mine').lesson.steps.some((one) => one.id === id)).toBe(false);
    expect(at('theirs').lesson.steps[4]).toMatchObject({ id, doMin: 42 });
  });
  it('one of which uses what the other took away are told apart by a fault', () => {
    const [mix] = base.mixes;
    const mine = changed(base, (draft) => {
      draft.mixes = draft.mixes.filter(({ id }) => id !== mix?.id);
      for (const step of draft.steps) step.mixIds = step.mixIds.filter((id) => id !== mix?.id);
      for (const passage of draft.passages) passage.places = passage.places.filter(({ mixId }) => mixId !== mix?.id);
    });
    const theirs = changed(base, (draft) => void draft.steps.at(-1)?.mixIds.push(mix?.id as string));
    const { clashes, fault } = mergeLessons(base, mine, theirs);
    expect(clashes).toEqual([]);
    expect(fault).toMatch(/\.$/);
  });
  it('at random: parts of one hand only are all there, and both orders of merging agree where nothing clashes', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = seeded(seed);
      const pick = (count: number) => Math.floor(random() * count);
      const edit = (side: string, lesson: Lesson) =>
        changed(lesson, (draft) => {
          for (let n = 0; n < 4; n++) {
            const what = pick(4);
            const step = draft.steps[pick(draft.steps.length)] as Lesson['steps'][0];
            if (what === 0) step.say = `${side} ${n}`;
            else if (what === 1) (draft.mixes[pick(draft.mixes.length)] as Lesson['mixes'][0]).name = `${side} ${n}`;
            else if (what === 2) draft.steps.splice(pick(draft.steps.length), 0, { ...step, id: `${side}${n}` });
            else (draft.areas[pick(draft.areas.length)] as Lesson['areas'][0]).name = `${side} ${n}`;
          }
        });
      const [mine, theirs] = [edit('m', base), edit('t', base)];
      const one = mergeLessons(base, mine, theirs);
      expect(lessonFaults(one.lesson)).toEqual([]);
      for (const list of ['steps', 'mixes', 'areas'] as const)
        for (const [side, other] of [
          [mine, theirs],
          [theirs, mine],
        ] as const)
          for (const part of side[list]) {
            const was = base[list].find(({ id }) => id === part.id);
            const there = other[list].find(({ id }) => id === part.id);
            const alone = JSON.stringify(was) !== JSON.stringify(part) && JSON.stringify(was) === JSON.stringify(there);
            if (alone)
              expect([seed, one.clashes, one.lesson[list].find(({ id }) => id === part.id)]).toEqual([seed, one.clashes, part]);
          }
      const swapped = mergeLessons(base, theirs, mine, () => 'theirs').lesson;
      const sorted = (lesson: Lesson) => ({ ...lesson, steps: [...lesson.steps].sort((a, b) => a.id.localeCompare(b.id)) });
      expect(sorted(swapped)).toEqual(sorted(one.lesson));
    }
  });
});

describe('automatic versions', () => {
  const MINUTE = 60_000;
  it('are thinned by age: one a minute, one an hour, one a day', () => {
    const now = Date.UTC(2026, 5, 20, 12, 0, 0);
    // Saved every twenty seconds for three days.
    let left = Array.from({ length: 3 * 24 * 180 }, (_, k) => ({ id: k, atMs: now - k * 20_000 }));
    const gone = new Set(thinned(left, now));
    left = left.filter(({ id }) => !gone.has(id));
    const between = (fromMin: number, toMin: number) =>
      left.filter(({ atMs }) => now - atMs >= fromMin * MINUTE && now - atMs < toMin * MINUTE).length;
    expect(between(0, 60)).toBe(61);
    expect(between(60, 24 * 60)).toBe(24);
    expect(between(24 * 60, 3 * 24 * 60)).toBe(3);
    // What was thinned once stays as it is.
    expect(thinned(left, now)).toEqual([]);
  });
  it('saved as they come and thinned again and again never lose the newest, and grow by hours, not by saves', () => {
    const random = seeded(4);
    let list: { id: number; atMs: number }[] = [];
    let now = Date.UTC(2026, 0, 1);
    for (let id = 0; id < 3000; id++) {
      now += random() * 4 * MINUTE;
      list.push({ id, atMs: now });
      const gone = new Set(thinned(list, now));
      expect(gone.has(id)).toBe(false);
      list = list.filter((one) => !gone.has(one.id));
    }
    expect(list.at(-1)?.id).toBe(2999);
    expect(list.length).toBeLessThan(60 + 26 + 6);
  });
});

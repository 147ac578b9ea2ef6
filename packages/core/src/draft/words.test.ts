import { describe, expect, it } from '@jest/globals';
import { areaRoles, type Lesson, type Level, type Surface, surfaceKinds } from '@viaticum/contract';
import { schoolLesson, seeded } from '../fixtures/index.js';
import { draftInTime, schoolOf } from './index.js';

/** A lesson of things by chance: areas in bands, each with a role, some with a surface, each with mixes of its own. */
function drawn(seed: number): Lesson {
  const random = seeded(seed);
  for (let i = 0; i < 5; i++) random();
  const base = schoolLesson();
  const count = 3 + Math.floor(random() * 6);
  const { widthMm, heightMm } = base.support;
  const nouns = ['hill', 'boat', 'barn', 'pond', 'path', 'gate', 'crow', 'lamp', 'roof', 'oak'];
  const areas: Lesson['areas'] = Array.from({ length: count }, (_, i) => {
    const top = (heightMm * i) / count;
    const role = i === count - 1 ? 'subject' : (areaRoles[Math.floor(random() * areaRoles.length)] as (typeof areaRoles)[number]);
    const surface = random() < 0.5 ? (surfaceKinds[Math.floor(random() * surfaceKinds.length)] as Surface) : undefined;
    return {
      id: `z${i}`,
      name: `${['far', 'old', 'near', 'low', 'red'][Math.floor(random() * 5)]} ${nouns[i] as string}`,
      role,
      ...(surface ? { surface } : {}),
      ...(role === 'feature' ? { feature: true as const } : {}),
      outline: [
        [
          [
            [0, top],
            [widthMm, top],
            [widthMm, heightMm],
            [0, heightMm],
          ],
        ],
      ],
    };
  });
  const tubes = base.tubes;
  const mixes: Lesson['mixes'] = areas.flatMap((area) =>
    Array.from({ length: 1 + Math.floor(random() * 4) }, (_, k) => ({
      id: `${area.id}m${k}`,
      name: `${area.name} ${['deep', 'middle', 'light', 'pale'][k] as string}`,
      areaId: area.id,
      recipe: base.mixes[(k + Math.floor(random() * base.mixes.length)) % base.mixes.length]?.recipe ?? [],
    })),
  );
  const schools = ['layers', 'subject', 'wet', 'parts'] as const;
  return {
    ...base,
    areas,
    tubes,
    mixes,
    marks: [],
    things: [],
    subjectAreaId: `z${count - 1}`,
    level: (['beginner', 'improver', 'experienced'] as const satisfies readonly Level[])[seed % 3] as Level,
    school: schoolOf(schools[seed % schools.length] as (typeof schools)[number]),
    wantedMin: 300,
  };
}
/** The sentences of a step's words, without the one that names its colours and its brush. */
const sentencesOf = ({ say, watch, checkpoint, finish, mixIds }: Lesson['steps'][number]): string[] => {
  const own = mixIds.length > 0 ? say.replace(/^(Straight on, while it is wet\. )?[^.]*\. /, '') : say;
  return [own, watch, checkpoint, finish].flatMap((text) => text.match(/[^.?!]+[.?!]/g) ?? []).map((one) => one.trim());
};
/** What is said for safety's sake, or of every pause alike. */
const SAFETY = /^(Drops on your neighbours|Change the water|Rinse the brush|While it dries)/;

describe('the words of twenty drafts', () => {
  it.each(Array.from({ length: 20 }, (_, i) => i + 1))('no sentence is said of two steps (draft %d)', (seed) => {
    let count = 0;
    const lesson = draftInTime(drawn(seed), () => `d${++count}`);
    const paint = lesson.steps.filter((step) => step.kind === 'paint');
    expect(paint.length).toBeGreaterThan(2);
    const told = new Map<string, string[]>();
    for (const step of paint)
      for (const sentence of new Set(sentencesOf(step)))
        if (!SAFETY.test(sentence)) told.set(sentence, [...(told.get(sentence) ?? []), step.title]);
    expect([...told].filter(([, titles]) => titles.length > 1)).toEqual([]);
  });
});

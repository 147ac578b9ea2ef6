import { describe, expect, it } from '@jest/globals';
import { ID_PATTERN, Lesson, type Lesson as LessonType } from '@viaticum/contract';
import { demoLesson } from '../fixtures/lessons.js';
import { carryOut, lessonFaults, startHistory, stepsUsing, undo } from './index.js';
import { danglingReferences, fittingStep, heldBy, letGo, letGoOfMissing, references } from './references.js';

type Shape = { pattern?: string; type?: string; properties?: Record<string, Shape>; items?: Shape; anyOf?: Shape[] };
/** Every place of a schema that holds an id, as the paths of the table say it. */
function idPaths(shape: Shape, path: string): string[] {
  if (shape.pattern === ID_PATTERN) return [path];
  if (shape.anyOf) return shape.anyOf.flatMap((one) => idPaths(one, path));
  if (shape.items) return idPaths(shape.items, shape.items.pattern === ID_PATTERN ? path : `${path}.*`);
  return Object.entries(shape.properties ?? {}).flatMap(([key, inner]) => idPaths(inner, path ? `${path}.${key}` : key));
}
/** Ids that name nothing of the lesson: its entries' own, and brushes, which are in a table of their own. */
const namesNothing = /(^|\.)(id|brushId)$/;

it('the table knows every field of a lesson that names something in it', () => {
  const inSchema = new Set(idPaths(Lesson as unknown as Shape, '').filter((path) => !namesNothing.test(path)));
  expect([...inSchema].sort()).toEqual(references.map((one) => one.path).sort());
});

const demos = (['balloons', 'kettle', 'star'] as const).map((name) => demoLesson(name));
const named = ['areas', 'tubes', 'mixes', 'steps', 'marks', 'things', 'references'] as const;

describe.each(demos)('$title', (lesson) => {
  it('taken out and let go, nothing names it any more; what may not go is held by a name', () => {
    for (const to of named)
      for (const { id } of lesson[to]) {
        if (heldBy(lesson, to, id) !== null) {
          expect(to).toBe('mixes');
          continue;
        }
        const copy = structuredClone(lesson) as LessonType;
        (copy[to] as { id: string }[]) = copy[to].filter((one) => one.id !== id) as never;
        letGo(copy, to, id);
        expect([to, id, lessonFaults(copy)]).toEqual([to, id, []]);
      }
  });
  it('joined, the other takes its place wherever it was named', () => {
    const [gone, heir] = lesson.mixes.filter((mix) => lesson.steps.some((step) => step.mixIds.includes(mix.id)));
    const copy = structuredClone(lesson) as LessonType;
    copy.mixes = copy.mixes.filter((mix) => mix.id !== gone?.id);
    letGo(copy, 'mixes', gone?.id as string, [heir?.id as string]);
    expect(danglingReferences(copy)).toEqual([]);
    for (const [i, step] of lesson.steps.entries())
      expect(copy.steps[i]?.mixIds.includes(heir?.id as string)).toBe(
        step.mixIds.some((id) => id === gone?.id || id === heir?.id),
      );
  });
});

describe('what stays behind', () => {
  const lesson = demoLesson('kettle');
  it('is said, field by field, and cleaned from old documents', () => {
    const broken = structuredClone(lesson) as LessonType;
    broken.subjectAreaId = 'nowhere';
    (broken.steps[3] as LessonType['steps'][number]).mixIds.push('nowhere');
    broken.planning.pins.push({ stepId: 'nowhere', startMin: 4 });
    broken.variants.push({ id: 'v', name: 'left-handed', changes: [{ stepId: 'nowhere', step: {} }] });
    expect(danglingReferences(broken)).toEqual([
      'The lesson: it names an area that is not in the lesson.',
      `${broken.steps[3]?.title}: it names a mix that is not in the lesson.`,
      'The lesson: it names a step that is not in the lesson.',
      'left-handed: it names a step that is not in the lesson.',
    ]);
    letGoOfMissing(broken);
    expect(danglingReferences(broken)).toEqual([]);
    expect(broken.variants[0]?.changes).toEqual([]);
    expect(broken.planning.pins).toEqual([]);
  });
  it('a step brought from another lesson keeps what this lesson has', () => {
    const step = {
      ...(lesson.steps[2] as LessonType['steps'][number]),
      areaIds: ['kettle', 'moon'],
      mixIds: ['m-copper', 'x'],
      markIds: ['y'],
    };
    expect(fittingStep(lesson, step)).toMatchObject({ areaIds: ['kettle'], mixIds: ['m-copper'], markIds: [] });
    expect(step.areaIds).toEqual(['kettle', 'moon']);
  });
});

describe('an area that goes', () => {
  const lesson = demoLesson('kettle');
  it('leaves its steps on nothing, never on the whole canvas', () => {
    const alone = lesson.steps.find((step) => step.areaIds.length === 1 && !step.wholeCanvas);
    const area = alone?.areaIds[0] as string;
    const gone = carryOut(startHistory(lesson), 'removeArea', { id: area });
    const after = gone.lesson.steps.find((step) => step.id === alone?.id);
    expect([after?.areaIds, after?.wholeCanvas]).toEqual([[], undefined]);
    expect(undo(gone).lesson).toEqual(lesson);
  });
  it('is asked about by the steps that use it; a tube by those that use a mix of it', () => {
    expect(stepsUsing(lesson, 'areas', 'kettle').map((step) => step.id)).toEqual(
      lesson.steps.filter((step) => step.areaIds.includes('kettle')).map((step) => step.id),
    );
    const [tube] = lesson.tubes;
    const mixes = lesson.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === tube?.id)).map((mix) => mix.id);
    expect(stepsUsing(lesson, 'tubes', tube?.id as string).map((step) => step.id)).toEqual(
      lesson.steps.filter((step) => step.mixIds.some((id) => mixes.includes(id))).map((step) => step.id),
    );
    expect(stepsUsing(lesson, 'areas', 'nowhere')).toEqual([]);
  });
});

it('areas and the whole canvas: the one that was said last counts', () => {
  const lesson = demoLesson('kettle');
  const id = lesson.steps.find((step) => step.areaIds.length > 0)?.id as string;
  const whole = carryOut(startHistory(lesson), 'editStep', { id, step: { wholeCanvas: true } });
  const at = (one: typeof whole) => one.lesson.steps.find((step) => step.id === id);
  expect([at(whole)?.areaIds, at(whole)?.wholeCanvas]).toEqual([[], true]);
  const back = carryOut(whole, 'editStep', { id, step: { areaIds: ['kettle'] } });
  expect([at(back)?.areaIds, at(back)?.wholeCanvas]).toEqual([['kettle'], undefined]);
});

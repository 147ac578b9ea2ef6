import type { Lesson, Mark, Mix, Step } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { bordersBetween, isOnlyMarks, looksOf, marksOf, toolOf } from '../derived/index.js';
import { inItsLanguage, lineWords, paintingWords } from '../text/index.js';
import { capital } from '../units/index.js';
import type { AreaFacts } from './facts.js';
import { empty } from './shape.js';

/** The marks of an area that lie on it alone, or those that cross others: a mirror that lies on it, or whatever is there where they are drawn one by one. */
export function marksOn(lesson: Lesson, { area }: AreaFacts, all: readonly AreaFacts[], which: 'own' | 'crossing'): Mark[] {
  const borders = bordersBetween(lesson).get(area.id);
  const carriesMirror = all.some((other) => other.area.twinOfId && (borders?.get(other.area.id) ?? 0) > 0);
  return lesson.marks.filter(
    (mark) => mark.areaId === area.id && (carriesMirror || mark.along !== undefined) === (which === 'crossing'),
  );
}

/** The mix that is most like a mark, or the lightest of its area where nothing is said of it. */
function mixOf(lesson: Lesson, facts: AreaFacts, { targetLab }: Mark): Mix | undefined {
  if (!targetLab) return facts.mixes.at(-1)?.mix;
  const looks = looksOf(lesson);
  const off = (mix: Mix) => {
    const lab = looks.get(mix.id)?.colour?.lab ?? mix.targetLab;
    return lab ? deltaE00(lab, targetLab) : Number.POSITIVE_INFINITY;
  };
  return [...lesson.mixes].sort((one, other) => off(one) - off(other))[0];
}

/** The step that lays a mark, with what its tool asks for. */
export function markStep(lesson: Lesson, facts: AreaFacts, mark: Mark): Omit<Step, 'id' | 'stageId'> {
  const mix = mixOf(lesson, facts, mark);
  const tool = toolOf(mark);
  const step = {
    ...empty,
    kind: 'paint' as const,
    technique: tool === 'flick' ? ('spatter' as const) : ('loaded' as const),
    markIds: [mark.id],
    mixIds: mix ? [mix.id] : [],
    needs: 'auto' as const,
    brushId: tool === 'rake' ? 'flat-1-in' : tool === 'liner' || mark.widthMm < 2 ? 'rigger-2' : 'round-4',
  };
  if (mark.along) return { ...step, ...inItsLanguage(lesson, () => lineWords(lesson, mark, step)), mayBeLeftOut: true };
  const words = inItsLanguage(lesson, () => paintingWords(lesson, { ...step, areaIds: [facts.area.id] }));
  return { ...step, ...words, title: capital(mark.name).slice(0, 120), mayBeLeftOut: true };
}

/** Whether a step lays hairs and nothing else. */
export const isHairPass = (lesson: Lesson, step: Step): boolean =>
  isOnlyMarks(step) && marksOf(lesson, step).every((mark) => mark.kind === 'hairs');

import type { Area, Lesson, StepPass } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { surfacePass } from '../surface/index.js';
import { visibleOf } from './areas.js';
import { furtherCoatGain } from './hiding.js';
import { looksOf } from './looks.js';

const IMPORTANCE = { subject: 3, feature: 5 };
/** Changes are seen more where one looks first (our judgement). */
function importance(lesson: Lesson, areaId: string): number {
  const area = lesson.areas.find((one) => one.id === areaId);
  if (area?.feature) return IMPORTANCE.feature;
  return area && isSubject(lesson, area) ? IMPORTANCE.subject : 1;
}

/** What is gone over for its own sake is what the picture is of; the same on a thing that stands beside it is only company. */
const OWN_PASS = 4;
const COMPANY = 0.35;
function passWorth(lesson: Lesson, areaId: string): number {
  if (areaId === lesson.subjectAreaId) return OWN_PASS;
  return lesson.areas.find((area) => area.id === areaId)?.role === 'made' ? COMPANY : 1;
}

/** Whether an area is what the picture is of, or lies on the same thing. */
export function isSubject({ areas, subjectAreaId }: Lesson, area: Area): boolean {
  const subject = areas.find((one) => one.id === subjectAreaId);
  return subject !== undefined && (area === subject || (area.thingId !== undefined && area.thingId === subject.thingId));
}

/** What a pass over a surface sets against what lies beneath (ΔE00, our judgement): lights make it, more than its own colour does. */
const PASS_DIFFERENCE: Record<StepPass, number> = { darks: 22, middles: 9, lights: 36 };

/** How much of the picture a step changes: the area it covers times the difference to the coat beneath, more where one looks first. */
export function weightOf(lesson: Lesson, stepId: string): number {
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  const step = lesson.steps[at];
  if (!step) return 0;
  const looks = looksOf(lesson);
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
  const colour = (ids: readonly string[]) => looks.get(ids[0] ?? '')?.colour?.lab ?? null;
  const own = colour(step.mixIds);
  const laid = lesson.steps.slice(0, at).filter((one) => one.id === step.coatOf || one.coatOf === step.coatOf).length;
  const again = step.coatOf === undefined ? 0 : furtherCoatGain(lesson, step, Math.max(1, laid));
  return step.areaIds.reduce((sum, id) => {
    const below = lesson.steps
      .slice(0, at)
      .reverse()
      .find((one) => one.areaIds.includes(id) && one.mixIds.length > 0);
    const under = below ? colour(below.mixIds) : null;
    const difference = step.pass
      ? (surfacePass(lesson.areas.find((area) => area.id === id)?.surface, step.pass)?.difference ?? PASS_DIFFERENCE[step.pass])
      : step.coatOf !== undefined
        ? again
        : own && under
          ? deltaE00(own, under)
          : 10;
    return (
      sum +
      (parts.get(id) ?? 0) *
        (step.coverShare ?? 1) *
        difference *
        importance(lesson, id) *
        (step.pass ? passWorth(lesson, id) : 1)
    );
  }, 0);
}

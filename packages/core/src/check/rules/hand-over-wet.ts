import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { insideTest, outlineBox } from '../../area/index.js';
import { brushOf } from '../../brush/index.js';
import { areaName, areasWorkedOn, laysPaint, marksOf, visibleOf } from '../../derived/index.js';
import { areaRung, rungWord } from '../../step/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** Brushes up to this width are held like a pen, with the hand leaning on the canvas (common practice, no published source). */
const LEANING_MM = 10;
/** Where the heel of the hand lies from the point of the brush: so far to its side, and so far below. */
const HAND = { acrossMm: 90, downMm: 70 };
/** This share of the hand's place must be wet. */
const SMEARED = 0.4;
const GRID = 5;

/** Fine work with the hand resting on paint that is still wet: the order against a right or left hand. */
export const handOverWet: Rule = {
  id: 'hand-over-wet',
  look: (lesson, { plan }) => {
    const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.outline]));
    const tests = new Map<string, ReturnType<typeof insideTest>>();
    const side = lesson.handed === 'left' ? -1 : 1;
    return lesson.steps.flatMap((step, at): Finding[] => {
      if (!laysPaint(step) || !isFine(lesson, step)) return [];
      const start = plan.items.find((item) => item.stepId === step.id)?.startMin ?? 0;
      const own = new Set(areasWorkedOn(lesson, step));
      const before = plan.coats.filter((coat) => coat.stepId !== step.id && coat.laidToMin <= start + 1e-9);
      const wet = [...parts.keys()].flatMap((id) => {
        const { rung, coat } = areaRung(before, id, start);
        return !own.has(id) && coat && (rung === 'workable' || rung === 'damp') ? [{ id, rung, by: coat.stepId }] : [];
      });
      for (const id of own) {
        const box = outlineBox(parts.get(id) ?? []);
        if (!box || box.width > 3 * HAND.acrossMm) continue;
        const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
        const places = Array.from({ length: GRID * GRID }, (_, i): [number, number] => [
          x + side * HAND.acrossMm * (((i % GRID) + 1) / GRID),
          y + HAND.downMm * ((Math.floor(i / GRID) + 0.5) / GRID),
        ]);
        const smeared = wet.find((one) => {
          const isOn = tests.get(one.id) ?? insideTest(parts.get(one.id) ?? []);
          tests.set(one.id, isOn);
          return places.filter(([px, py]) => isOn(px, py)).length >= SMEARED * places.length;
        });
        if (!smeared) continue;
        const wetAt = lesson.steps.findIndex((one) => one.id === smeared.by);
        return [
          {
            id: `hand-over-wet/${step.id}/${smeared.id}`,
            rule: 'hand-over-wet',
            about: step.title,
            words: say`A ${side > 0 ? say('right') : say('left')} hand rests on ${the(areaName(lesson, smeared.id))} here, which is still ${rungWord[smeared.rung]}.`,
            reason: say(
              'Physics: wet paint comes off on the hand. Work so that the hand moves away from what is wet, or use a rest.',
            ),
            serious: false,
            place: { station: 'steps', stepId: step.id, areaId: smeared.id },
            ...(wetAt >= 0 && wetAt < at && mayComeAt(lesson, step, wetAt)
              ? { fix: { words: say('Do this first'), command: 'moveStep' as const, args: { id: step.id, to: wetAt } } }
              : {}),
          },
        ];
      }
      return [];
    });
  },
};

/** Whether nothing between lies on the same areas or marks, so that a step may be done sooner. */
function mayComeAt(lesson: Lesson, step: Step, place: number): boolean {
  const own = new Set(areasWorkedOn(lesson, step));
  const between = lesson.steps.slice(place, lesson.steps.indexOf(step));
  return between.every((other) => other.kind === 'break' || !areasWorkedOn(lesson, other).some((id) => own.has(id)));
}

const isFine = (lesson: Lesson, step: Step): boolean => {
  const brush = brushOf(step.brushId);
  const isMarked = marksOf(lesson, step).some((mark) => mark.kind !== 'spatter' && mark.kind !== 'scatter');
  return isMarked || (brush !== null && brush.type !== 'knife' && brush.widthMm <= LEANING_MM);
};

import type { LessonPlan } from '@viaticum/core/plan';
import { type PointerEvent, useRef, useState } from 'react';
import type { Axis } from './axis.js';

const DRAG_PX = 5;

export type StepDrag = {
  /** A step is being dragged to a time (null: no longer). */
  onDrag: (to: { stepId: string; startMin: number } | null) => void;
  /** It was let go there. */
  onPin: (stepId: string, startMin: number) => void;
  /** It was pressed, not dragged. */
  onStep: (stepId: string) => void;
};

/**
 * The pointer on the section: pressed anywhere it moves the light; on a step it marks that step, or drags it to a time. `heldEnd` is the end
 * of the time shown while a step is dragged, so that it stands still under the hand however the plan grows.
 */
export function useStepDrag(plan: LessonPlan, width: number, { onDrag, onPin, onStep }: StepDrag) {
  const drag = useRef<{ stepId: string; grabMin: number; x: number; startMin: number | null } | null>(null);
  const [heldEnd, setHeldEnd] = useState<number | null>(null);
  const on = (axis: Axis, endMin: number, onMinute: (minute: number) => void) => {
    const minuteAt = (event: PointerEvent<SVGSVGElement>) => {
      const box = event.currentTarget.getBoundingClientRect();
      return axis.toMinute((event.clientX - box.left) * (width / box.width));
    };
    const light = (event: PointerEvent<SVGSVGElement>) =>
      onMinute(Math.min(Math.max(endMin, axis.toMin), Math.max(0, Math.round(minuteAt(event)))));
    return {
      onPointerDown(event: PointerEvent<SVGSVGElement>): void {
        event.currentTarget.setPointerCapture(event.pointerId);
        const stepId = (event.target as Element).closest('[data-step]')?.getAttribute('data-step');
        const start = plan.solution.items.find((item) => item.step === stepId)?.start;
        drag.current =
          stepId && start !== undefined ? { stepId, grabMin: minuteAt(event) - start, x: event.clientX, startMin: null } : null;
        if (drag.current) setHeldEnd(endMin);
        light(event);
      },
      onPointerMove(event: PointerEvent<SVGSVGElement>): void {
        if (event.buttons === 0) return;
        const held = drag.current;
        if (!held) {
          light(event);
          return;
        }
        if (held.startMin === null && Math.abs(event.clientX - held.x) < DRAG_PX) return;
        const startMin = Math.max(0, Math.round(minuteAt(event) - held.grabMin));
        if (startMin === held.startMin) return;
        held.startMin = startMin;
        onDrag({ stepId: held.stepId, startMin });
      },
      onPointerUp(): void {
        const held = drag.current;
        drag.current = null;
        setHeldEnd(null);
        if (!held) return;
        if (held.startMin === null) onStep(held.stepId);
        else onPin(held.stepId, held.startMin);
        onDrag(null);
      },
      onPointerCancel(): void {
        drag.current = null;
        setHeldEnd(null);
        onDrag(null);
      },
    };
  };
  return { heldEnd, on };
}

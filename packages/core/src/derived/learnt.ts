import type { Lesson, LoggedPaint, Room, Step } from '@viaticum/contract';

type Knows = Pick<Lesson, 'learnt'>;

/** How much longer, more or oftener than reckoned otherwise something is, as classes taught and the instructor took over; 1 where nothing was. */
export const learntFactor = ({ learnt }: Knows, key: string): number => learnt?.find((one) => one.key === key)?.factor ?? 1;

/** The paint of a step where it dries otherwise than the ordinary one. */
export function slowPaintOf({ paint, medium }: Pick<Step, 'paint' | 'medium'>): LoggedPaint | null {
  if (paint && paint !== 'ordinary') return paint;
  return medium === 'retarder' || medium === 'gel' ? medium : null;
}

/** How much longer a step's coats dry than those of others in the same air, by its technique and its paint. */
export function learntDrying(lesson: Knows, step: Pick<Step, 'technique' | 'paint' | 'medium'>): number {
  const paint = slowPaintOf(step);
  return (
    (step.technique ? learntFactor(lesson, `drying technique ${step.technique}`) : 1) *
    (paint ? learntFactor(lesson, `drying paint ${paint}`) : 1)
  );
}

/** The air in which a step's coats dry: the lesson's room, slower or quicker by what was learnt of its technique and paint. */
export function airForStep(lesson: Knows & { room: Room }, step: Pick<Step, 'technique' | 'paint' | 'medium'>): Room {
  const longer = learntDrying(lesson, step);
  return longer === 1 ? lesson.room : { ...lesson.room, calibration: (lesson.room.calibration ?? 1) / longer };
}

/** How much longer than the bare model says a step's coats are reckoned to dry, room and all. */
export const reckonedDrying = (lesson: Knows & { room: Room }, step: Pick<Step, 'technique' | 'paint' | 'medium'>): number =>
  learntDrying(lesson, step) / (lesson.room.calibration ?? 1);

/** How much longer than by the rates of the hand the work of a step takes, by its technique and the lesson's level. */
export const learntPace = (lesson: Knows & Pick<Lesson, 'level'>, technique: Step['technique']): number =>
  learntFactor(lesson, `pace level ${lesson.level}`) * (technique ? learntFactor(lesson, `pace technique ${technique}`) : 1);

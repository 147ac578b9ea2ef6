import '../language.js';
import { type FollowSheet, type Language, type Lesson, languageOf, type Plan, speak } from '@viaticum/contract';
import { type AirRows, airRows, type ClassState, inClimate, replanClass } from '@viaticum/core/class';
import { type Forecast, forecast } from '@viaticum/core/pace';
import { planLesson } from '@viaticum/core/plan';
import { wholeSheet } from '@viaticum/core/student-sheet';

/** What is worked out of a lesson, given as the text of its document. */
export type PlanJob = { text: string } & (
  | { kind: 'replan'; state: ClassState; now: number; quickest: boolean }
  | { kind: 'air'; plan: Plan; climate: ClassState['climate']; air: { airC: number; humidity: number; airSpeed: number } }
  | { kind: 'forecast'; students: number }
  | { kind: 'sheet'; language: Language | null }
  | { kind: 'plan' }
);
export type PlanJobAnswer = Forecast | { plan: Plan } | { air: AirRows } | { sheet: FollowSheet; plan: Plan };

export default function work({ text, ...job }: PlanJob): PlanJobAnswer {
  const lesson = JSON.parse(text) as Lesson;
  // A class is taught in the language of its lesson, unless another was chosen for it.
  speak(('language' in job ? job.language : null) ?? languageOf(lesson.language));
  switch (job.kind) {
    case 'replan':
      return { plan: replanClass(lesson, job.state, job.now, job.quickest) };
    case 'air':
      return { air: airRows(lesson, job.plan.coats, inClimate(lesson, job), inClimate(lesson, { ...job, climate: job.air })) };
    case 'forecast':
      return forecast(lesson, planLesson(lesson), job.students);
    case 'sheet':
      return wholeSheet(lesson);
    case 'plan':
      return { plan: planLesson(lesson).plan };
  }
}

import type { AloneSheet, Command, Language, Plan } from '@viaticum/contract';
import { type AirRows, type ClassState, isNewAir, notedAir, viewOf, type WorkedOut } from '@viaticum/core/class';
import type { Forecast } from '@viaticum/core/pace';
import type { LessonStore } from '../lessons/store.js';
import { pool } from '../work/pool.js';
import type { PlanJob, PlanJobAnswer } from './plan-worker.js';

const SHEETS_KEPT = 20;

/** What takes long about a lesson that is taught, worked out on threads of their own: plans, sheets, the air. */
export function workedOut(lessons: LessonStore) {
  const planning = pool<PlanJob, PlanJobAnswer>('classes/plan-worker.js', { queue: 60, perCaller: 6 });
  const sheets = new Map<string, Promise<AloneSheet>>();
  return {
    /** The plan that a class opens with. */
    plan: async (text: string, caller: string): Promise<Plan> =>
      ((await planning.ask({ kind: 'plan', text }, caller)) as { plan: Plan }).plan,

    /** All that a phone shows of a revision, in a language or in its own; the last ones are kept. */
    sheet(revisionId: number, language: Language | null = null): Promise<AloneSheet> {
      const key = `${revisionId} ${language}`;
      const known = sheets.get(key);
      if (known) return known;
      const work = lessons
        .revision(revisionId)
        .then(({ text }) => planning.ask({ kind: 'sheet', text, language }, `sheet ${revisionId}`) as Promise<AloneSheet>);
      work.catch(() => sheets.delete(key));
      sheets.set(key, work);
      const [oldest] = sheets.keys();
      if (sheets.size > SHEETS_KEPT && oldest !== undefined) sheets.delete(oldest);
      return work;
    },

    /** When a class of so many is to be expected to end. */
    forecast: async (text: string, students: number, caller: string): Promise<Forecast> =>
      (await planning.ask({ kind: 'forecast', text, students }, caller)) as Forecast,

    /** What a command needs that takes long. `taught` gives the text of the lesson; `caller` says who asks. */
    async forCommand(
      whole: ClassState,
      command: Command,
      now: number,
      taught: () => Promise<string>,
      caller: string,
    ): Promise<WorkedOut> {
      const state = viewOf(whole, 'group' in command ? command.group : undefined);
      if (command.type === 'replan') {
        if (command.from !== state.current?.index) return {};
        const job = {
          kind: 'replan',
          text: await taught(),
          state: { ...state },
          now,
          quickest: command.quickest === true,
        } as const;
        return (await planning.ask(job, caller)) as { plan: Plan };
      }
      if (command.type !== 'climate' || !state.plan || !isNewAir(state, command, now)) return {};
      const { plan, climate } = state;
      const job = { kind: 'air', text: await taught(), plan, climate, air: notedAir(state, command) } as const;
      return (await planning.ask(job, caller)) as { air: AirRows };
    },
    close: () => planning.close(),
  };
}
export type WorkedOutPlans = ReturnType<typeof workedOut>;

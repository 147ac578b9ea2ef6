import type { Lesson } from '@viaticum/contract';
import type { CommandArgs, CommandName } from '../document/index.js';
import type { LessonPlan } from '../plan/index.js';

/** A change that takes a finding away, as a command that can be undone. */
export type Fix = { words: string } & { [N in CommandName]: { command: N; args: CommandArgs<N> } }[CommandName];

export type Finding = {
  /** Stable while its cause stands: rule and place. */
  id: string;
  rule: string;
  /** What it is about, for the heading. */
  about: string;
  words: string;
  /** The physics, the school's choice, or common practice. */
  reason: string;
  serious: boolean;
  place: { stepId?: string; areaId?: string; tubeId?: string; mixId?: string; station: 'picture' | 'paints' | 'steps' | 'class' };
  fix?: Fix;
};

export type Rule = { id: string; look: (lesson: Lesson, plan: LessonPlan) => Finding[] };

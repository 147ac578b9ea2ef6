import '../language.js';
import { type ClassEvent, type ClassLog, type Language, type Lesson, speak } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import { type Logged, logOf, type Suggestion, suggestions } from '@viaticum/core/log';

/** A class to be logged, from the texts of its events and of the lesson that was taught; or what classes suggest for a lesson. */
export type LogJob =
  | { kind: 'log'; events: string; lesson: string }
  | { kind: 'suggest'; lesson: string; own: Logged[]; all: Logged[]; now: number; language: Language };
export type LogAnswer = { log: ClassLog | null } | { suggestions: Suggestion[] };

export default function work(job: LogJob): LogAnswer {
  if (job.kind === 'log') return { log: logOf(JSON.parse(job.events) as ClassEvent[], JSON.parse(job.lesson) as Lesson) };
  speak(job.language);
  return { suggestions: suggestions(upgradeLesson(JSON.parse(job.lesson)), job.own, job.all, job.now) };
}

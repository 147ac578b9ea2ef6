import '../language.js';
import {
  type ClassEvent,
  type ClassLog,
  type Language,
  type Lesson,
  type LoggedKind,
  type ShootNote,
  speak,
} from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import {
  type Calibration,
  calibrations,
  type GroupOff,
  groupResults,
  type Logged,
  logOf,
  logOfTakes,
  type Suggestion,
  suggestions,
} from '@viaticum/core/log';
import { logIn, type StoredLog } from './stored.js';

/** A class of the log as it is stored. */
export type LogRow = StoredLog & { id: string };
/** A class to be logged, from the texts of its events and of the lesson that was taught; or what classes suggest for a lesson. */
export type LogJob =
  | { kind: 'log'; events: string; lesson: string; of: LoggedKind }
  | { kind: 'takes'; lesson: string; notes: ShootNote[] }
  | { kind: 'suggest' | 'calibrate'; lesson: string; own: LogRow[]; all: LogRow[]; now: number; language: Language };
/** What classes teach of a lesson beside edits: factors, and how canvases of its groups came out. */
export type LearntAnswer = { calibrations: Calibration[]; results: GroupOff[] };
export type LogAnswer = { log: ClassLog | null } | { suggestions: Suggestion[] } | LearntAnswer;

/** Classes that were begun; of one that never was there is a row all the same. */
const logged = (rows: readonly LogRow[]): Logged[] =>
  rows.map((row) => ({ id: row.id, log: logIn(row) })).filter(({ log }) => log.items.length > 0);

export default function work(job: LogJob): LogAnswer {
  if (job.kind === 'log') return { log: logOf(JSON.parse(job.events) as ClassEvent[], JSON.parse(job.lesson) as Lesson, job.of) };
  if (job.kind === 'takes') return { log: logOfTakes(upgradeLesson(JSON.parse(job.lesson)), job.notes) };
  speak(job.language);
  const lesson = upgradeLesson(JSON.parse(job.lesson));
  if (job.kind === 'calibrate') {
    const results = logged(job.own).flatMap(({ log }) => log.results ?? []);
    return { calibrations: calibrations(lesson, logged(job.all), job.now), results: groupResults(results) };
  }
  const ofRoom = logged(job.all).filter(({ log }) => log.room === lesson.room.name);
  return { suggestions: suggestions(lesson, logged(job.own), ofRoom, job.now) };
}

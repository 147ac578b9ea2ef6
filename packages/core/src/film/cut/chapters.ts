import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { brushInMetric, brushOf } from '../../brush/index.js';
import { looksOf } from '../../derived/index.js';
import { shortTubeName } from '../../mix/index.js';
import { capital, clock, counted } from '../../units/index.js';
import type { Shot, Timeline } from './cuts.js';

/** A chapter of a cut, in seconds: a step, or what comes before and after them. */
export type Chapter = { stepId: string | null; title: string; from: number; to: number };

/** The chapters of a cut, one for each step in it; those shorter than `leastS` are joined to the one before. */
export function chaptersOf(lesson: Lesson, { shots, fps, frames, takes }: Timeline, leastS = 0): Chapter[] {
  const titleOf = new Map(lesson.steps.map(({ id, title }) => [id, title]));
  const ownerOf = (shot: Shot): string | null => {
    const take = takes.find(({ id }) => id === shot.takeId);
    return take && take.stepIds.length > 0 ? (shot.stepId ?? (take.stepIds[0] as string)) : null;
  };
  const found: Chapter[] = [];
  for (const shot of shots) {
    const stepId = ownerOf(shot);
    const last = found.at(-1);
    if (last && last.stepId === stepId) last.to = shot.to / fps;
    else {
      const title =
        stepId === null ? (shot.takeId === 'close' ? say('The finished picture') : say('Opening')) : (titleOf.get(stepId) ?? '');
      found.push({ stepId, title, from: shot.from / fps, to: shot.to / fps });
    }
  }
  const joined: Chapter[] = [];
  for (const one of found) {
    const last = joined.at(-1);
    const isShort = one.to - one.from < leastS;
    const isAfterShort = last !== undefined && last.to - last.from < leastS;
    if (!last || !(isShort || isAfterShort || last.stepId === one.stepId)) joined.push({ ...one });
    else {
      // The longer of the two names both.
      if (isAfterShort && one.to - one.from > last.to - last.from) Object.assign(last, { title: one.title, stepId: one.stepId });
      last.to = one.to;
    }
  }
  const first = joined[0];
  if (first) first.from = 0;
  const last = joined.at(-1);
  if (last) last.to = frames / fps;
  return joined;
}

/** Platforms for films ask for chapters of ten seconds at least. */
const LEAST_CHAPTER_S = 10;

/** What stands beside a film: what it is, chapters, palette, mixes with their parts, tools, drying, cautions. */
export function descriptionOf(lesson: Lesson, timeline: Timeline): string {
  const steps = lesson.steps.filter(({ id }) => timeline.takes.some(({ stepIds }) => stepIds.includes(id)));
  const looks = looksOf(lesson);
  const mixes = [...new Set(steps.flatMap(({ mixIds }) => mixIds))].flatMap((id) => looks.get(id) ?? []);
  const tubes = lesson.tubes.filter(({ id }) => mixes.some(({ mix }) => mix.recipe.some(({ tubeId }) => tubeId === id)));
  const brushes = [...new Set(steps.flatMap(({ brushId }) => brushOf(brushId) ?? []))].map(brushInMetric);
  const dried = timeline.shots.filter(({ kind }) => kind === 'dry');
  const dryMin = dried.reduce((sum, { dryMin = 0 }) => sum + dryMin, 0);
  const part = (title: string, lines: readonly string[]) => (lines.length > 0 ? [`\n${title}`, ...lines] : []);
  return [
    say`${lesson.title}: a lesson in acrylic, ${counted(steps.length, 'step')} in ${clock(timeline.frames / timeline.fps)}.`,
    '',
    ...chaptersOf(lesson, timeline, LEAST_CHAPTER_S).map(({ from, title }) => `${clock(Math.floor(from))} ${title}`),
    ...part(
      'Palette',
      tubes.map((tube) => `- ${capital(shortTubeName(tube))}`),
    ),
    ...part(
      'Mixes',
      mixes.map(({ mix, words }) => `- ${capital(mix.name)}: ${words}`),
    ),
    ...part(
      'Tools',
      brushes.map((one) => `- ${one}`),
    ),
    ...part(
      'Drying',
      dried.length > 0
        ? [
            say`The film hides ${counted(dried.length, 'pause')}, ${Math.round(dryMin)} min together, in which paint dried. Wait for yours until it is dry to the touch.`,
          ]
        : [],
    ),
    ...part(say('Take care'), [
      say(
        'Read the labels of your paints and mediums. Do not sand or spray paint without protection, and keep paint water out of the sink.',
      ),
    ]),
    '',
  ].join('\n');
}

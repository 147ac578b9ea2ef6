import {
  type AloneSheet,
  byId,
  type FollowSheet,
  type Helper,
  type Lesson,
  languageNow,
  type SheetStep,
  say,
  worded,
} from '@viaticum/contract';
import { followSheet, laysPaint, looksOf, weightOf } from '../derived/index.js';
import { paletteLayout } from '../mix/index.js';
import { type LessonPlan, planOf } from '../plan/index.js';
import { mistEvery, type StepMinutes, timesOf } from '../step/index.js';
import { minutesInWords } from '../units/index.js';

/**
 * All that a phone shows of a lesson: its sheet, where each mix lies on the palette, steps worded for what a student has, and what may
 * be left out with its weight in the picture. Pure; throws only on a room that cannot be.
 */
export function wholeSheet(lesson: Lesson): AloneSheet {
  const plan = planOf(lesson);
  const sheet = followSheet(lesson);
  const places = mixPlaces(lesson);
  const steps = byId(
    Object.entries(sheet.steps).map(([id, step]): [string, SheetStep] => [
      id,
      {
        ...step,
        mixes: step.mixes.map((mix) => ({ ...mix, ...(places.has(mix.id) && { place: places.get(mix.id) as string }) })),
      },
    ]),
  );
  return {
    sheet: {
      ...sheet,
      language: languageNow(),
      steps,
      units: lesson.units,
      leaveOut: leaveOutFacts(lesson, plan),
      ways: waysOf(lesson, plan),
    },
    plan: plan.plan,
  };
}

/** Where mixes lie on the palette, in words: warm to the left, cool to the right, as on the palette sheet. */
function mixPlaces(lesson: Lesson): Map<string, string> {
  const looks = [...looksOf(lesson).values()].filter((look) => look.colour);
  const { places, rows } = paletteLayout(looks.map((look) => (look.colour as NonNullable<typeof look.colour>).lab));
  const rowOf = (y: number): string => {
    const row = Math.min(rows - 1, Math.floor((y + 0.5 / rows) * rows - 0.45));
    if (rows === 2) return row === 0 ? say('far row, ') : say('near row, ');
    return rows > 2 ? say`row ${row + 1} from the far edge, ` : '';
  };
  return new Map(
    looks.map((look, i) => {
      const [x, y] = places[i] as [number, number];
      const across =
        x < 0.3
          ? say('left')
          : x < 0.45
            ? say('left of the middle')
            : x <= 0.55
              ? say('middle')
              : x <= 0.7
                ? say('right of the middle')
                : say('right');
      return [look.mix.id, `${rowOf(y)}${across}`];
    }),
  );
}

/** The steps that may be left out; where the lesson marks none, those that only go over areas which have their own coat already. */
export function leaveOutFacts(lesson: Lesson, plan: Pick<LessonPlan, 'minutes'>): NonNullable<FollowSheet['leaveOut']> {
  const marked = lesson.steps.filter((step) => step.mayBeLeftOut);
  const coated = new Set<string>();
  const later = lesson.steps.filter((step) => {
    const isLater = laysPaint(step) && step.areaIds.length > 0 && step.areaIds.every((id) => coated.has(id));
    if (laysPaint(step)) for (const id of step.areaIds) coated.add(id);
    return isLater;
  });
  return byId(
    (marked.length > 0 ? marked : later).map((step) => {
      const { doMin = 0 } = plan.minutes.get(step.id) ?? {};
      return [step.id, { minutes: Math.round(doMin * 10) / 10, weight: Math.round(weightOf(lesson, step.id)) }] as const;
    }),
  );
}

/** How to do a step with what one has: blends kept workable, tracings carried over. The first of the list is the easiest. */
function waysOf(lesson: Lesson, plan: LessonPlan): NonNullable<FollowSheet['ways']> {
  return byId(
    lesson.steps.flatMap((step) => {
      const ways = step.kind === 'transfer' ? tracing : step.technique === 'blend' ? blending(lesson, step.id, plan) : [];
      return ways.length > 0 ? [[step.id, ways] as const] : [];
    }),
  );
}

const tracing: { helper: Helper; words: string }[] = worded(
  [
    {
      helper: 'transfer-paper',
      words: 'Lay the transfer paper under the tracing, its dull side on the canvas, and go over the lines.',
    },
    { helper: 'graphite', words: 'Rub the back of the tracing with soft graphite, turn it over, and go over the lines.' },
  ],
  ['words'],
);

function blending(lesson: Lesson, stepId: string, plan: LessonPlan): { helper: Helper; words: string }[] {
  const coats = plan.laid.filter((one) => one.step.id === stepId);
  const { doMin } = plan.minutes.get(stepId) as StepMinutes;
  const shortest = coats.reduce<(typeof coats)[number] | undefined>(
    (least, one) => (!least || one.staying.openMin < least.staying.openMin ? one : least),
    undefined,
  );
  if (!shortest) return [];
  const { mist: _, ...plain } = shortest.coat;
  const open = (coat: typeof plain) => minutesInWords(Math.floor(timesOf(coat, lesson.room).openMin));
  const ways: { helper: Helper; words: string }[] = [];
  if (timesOf(plain, lesson.room).openMin < doMin) {
    const everyMin = mistEvery(plain, lesson.room, doMin);
    ways.push({ helper: 'mist', words: say`Mist it every ${everyMin} min, from an arm’s length, as long as you blend.` });
  } else ways.push({ helper: 'mist', words: say`It stays workable for ${open(plain)}. Mist only if it begins to drag.` });
  ways.push({
    helper: 'retarder',
    words: say`Stir a little retarder into the mixes, no more than its label says: workable for about ${open({ ...plain, retarder: true })}.`,
  });
  ways.push({
    helper: 'damp-brush',
    words: say`Keep a clean damp brush at hand and soften each part within ${open(plain)}; when it drags, stop.`,
  });
  return ways;
}

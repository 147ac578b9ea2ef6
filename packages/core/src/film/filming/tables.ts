import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { toCsv } from '../../format/index.js';
import type { ShootingList } from './list.js';
import type { TakeState } from './shooting.js';
import { cardGb, placeNames, type Take } from './takes.js';

/** The shooting list as a table. */
export const takesCsv = (
  lesson: Lesson,
  takes: readonly Take[],
  list: ShootingList,
  states: ReadonlyMap<string, TakeState>,
): string => {
  const byId = new Map(takes.map((take) => [take.id, take]));
  return toCsv(
    ['slate', 'filming', 'title', 'set-up', say('start state'), 'minutes', say('must see'), say('must say'), 'GB', 'done'],
    list.order.flatMap(({ takeId }, i) => {
      const take = byId.get(takeId);
      if (!take) return [];
      const start = lesson.steps.find(({ id }) => id === take.afterStepId);
      return [
        [
          take.slate,
          i + 1,
          take.title,
          placeNames[take.place],
          start ? say`after ${start.title}` : say('bare canvas'),
          Math.round((take.rawS / 60) * 10) / 10,
          take.mustSee.join('; '),
          take.mustSay.join('; '),
          Math.round(cardGb(take.rawS, lesson) * 100) / 100,
          states.get(takeId)?.goodS ? say('yes') : '',
        ],
      ];
    }),
  );
};

/** What was noted while filming, in order. */
export const shootCsv = (takes: readonly Take[], states: ReadonlyMap<string, TakeState>): string =>
  toCsv(
    ['at', 'slate', 'seconds', 'said'],
    takes
      .flatMap(({ id, slate }) => (states.get(id)?.runs ?? []).map((run) => ({ slate, ...run })))
      .sort((a, b) => a.startedAt - b.startedAt)
      .map(({ startedAt, slate, seconds, said }) => [
        new Date(startedAt).toISOString(),
        slate,
        Math.round(seconds * 10) / 10,
        said ?? '',
      ]),
  );

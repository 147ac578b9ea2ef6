import {
  type KitListName,
  type KitRow,
  type KitSheet,
  type Lesson,
  localeNow,
  type Studio,
  say,
  shelfNames,
} from '@viaticum/contract';
import { planLesson } from '../plan/index.js';
import { capital, minutesInWords } from '../units/index.js';
import { countedThing, kitLines, studioLines } from './bring.js';
import { cautionsFor } from './cautions.js';
import { kitPaint } from './paint.js';
import { groupOf } from './parts.js';
import { doneBy, type PrepTask, preparation } from './prepare.js';

const DAY = 24 * 60;
/** "Wednesday, 09:40" where the class has a date; else how many days before it, and the hour as if it began at two. */
export function taskTime({ startMin }: Pick<PrepTask, 'startMin'>, beginsAt: string | undefined): { day: string; clock: string } {
  const begins = beginsAt ? Date.parse(beginsAt) : Date.UTC(2000, 0, 1, 14);
  // To five minutes: nobody begins at 11:16.
  const at = new Date(begins + Math.floor(startMin / 5) * 5 * 60_000);
  const clock = `${String(at.getUTCHours()).padStart(2, '0')}:${String(at.getUTCMinutes()).padStart(2, '0')}`;
  if (beginsAt)
    return {
      day: new Intl.DateTimeFormat(localeNow(), { weekday: 'long', day: 'numeric', month: 'long', timeZone: 'UTC' }).format(at),
      clock,
    };
  const days = Math.floor(begins / 60_000 / DAY) - Math.floor(at.getTime() / 60_000 / DAY);
  return { day: days === 0 ? say('On the day') : days === 1 ? say('The day before') : say`${days} days before`, clock };
}

/** A lesson's lists as they are ticked on a phone: what to buy, what to prepare, what to pack; with the cautions that go on each. */
export function kitSheet(lesson: Lesson, studio: Studio): KitSheet {
  const planned = planLesson(lesson);
  const paint = kitPaint(lesson, planned.plan, studio);
  const lines = studioLines(kitLines(lesson, planned, paint, studio.sinks));
  const row = (list: KitListName, key: string, rest: Omit<KitRow, 'key'>): KitRow => ({ key: `${list}/${key}`, ...rest });
  const shopping = lines
    .filter(({ shelf, key, amount }) => key !== 'water' && !(shelf === 'paint' && amount === 'in the cupboard'))
    .map((line) =>
      row('shopping', line.key, {
        group: shelfNames[line.shelf],
        words: line.shelf === 'paint' ? `${capital(line.name)}, ${line.amount}` : countedThing(line, line.amount),
        ...(line.note && { about: line.note }),
        ...(line.costMinor !== null && { costMinor: line.costMinor }),
      }),
    );
  const preparing = preparation(
    lesson,
    studio,
    paint.mixes.map(({ premix }) => premix),
  ).map((task) => {
    const { day, clock } = taskTime(task, lesson.kit?.beginsAt);
    const about = [task.then, task.caution].filter(Boolean).join('. ');
    return row('preparing', task.key, {
      group: day,
      words: `${clock} ${task.what}`,
      about: [say`${minutesInWords(Math.max(1, task.minutes))} of work`, doneBy(task, studio.helpers), about]
        .filter(Boolean)
        .join('; '),
    });
  });
  const packing = lines.map((line) =>
    row('packing', line.key, {
      group: shelfNames[line.shelf],
      words: line.shelf === 'paint' ? capital(line.name) : countedThing(line, line.amount),
      ...(line.shelf === 'paint' && line.each && { about: say`${line.each} a head` }),
    }),
  );
  const batches = paint.mixes.flatMap(({ premix }) =>
    premix.batch
      ? [
          row('packing', `batch ${premix.mix.id}`, {
            group: say('Mixed ahead'),
            words: say`${premix.batch.portions} portions of ${premix.mix.name}`,
          }),
        ]
      : [],
  );
  const cautions = cautionsFor(lesson);
  const on = (where: 'shopping' | 'preparing' | 'class') =>
    cautions.filter((one) => one.on.includes(where)).map(({ words }) => words);
  return {
    title: lesson.title,
    heads: groupOf(lesson).heads,
    currency: studio.currency,
    lists: { shopping, preparing, packing: [...batches, ...packing] },
    cautions: { shopping: on('shopping'), preparing: on('preparing'), packing: on('class') },
  };
}

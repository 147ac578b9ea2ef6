import { coatTimes } from '@viaticum/core/coat';
import {
  boardMin,
  coatBoards,
  doneBy,
  groupParts,
  type PrepTask,
  preparation,
  rackM2,
  supportsInWords,
  taskTime,
} from '@viaticum/core/kit';
import { minutesInWords } from '@viaticum/core/units';
import { Button, DatePicker, Timeline } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { clockFields } from '../../ui/clock.js';
import { NumberField } from '../../ui/number-field.js';
import { saveFile } from '../../ui/save-file.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.before;

/** What is to be done before the class, day by day, and what so many boards take in the rack. */
export function Before({ kit }: { kit: Kit }) {
  const { lesson, studio, paint, saveStudio } = kit;
  const session = useSession();
  // As the clock on the wall says, like the beginning.
  const [now] = useState(() => Date.now() - new Date().getTimezoneOffset() * 60_000);
  const beginsAt = lesson.kit?.beginsAt;
  const tasks = preparation(
    lesson,
    studio,
    paint.mixes.map(({ premix }) => premix),
    now,
  );
  const days = new Map<string, PrepTask[]>();
  for (const task of tasks) {
    const { day } = taskTime(task, beginsAt);
    days.set(day, [...(days.get(day) ?? []), task]);
  }
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <div className={css.asked}>
        <span>
          {w.begins}
          {/* Kept as it is read on the wall: the hour of the place, whatever the zone of this machine. */}
          <DatePicker
            aria-label={w.begins}
            showTime={{ ...clockFields(), minuteStep: 5 }}
            format={`D MMM YYYY ${clockFields().format}`}
            value={beginsAt ? dayjs(beginsAt.slice(0, 16)) : null}
            onChange={(at) =>
              at
                ? session.do('editKit', { kit: { beginsAt: `${at.format('YYYY-MM-DDTHH:mm')}:00Z` } })
                : session.do('editKit', { kit: {}, clear: ['beginsAt'] })
            }
          />
        </span>
        <span>
          {w.helpers}
          <NumberField
            label={w.helpers}
            value={studio.helpers}
            onValue={(n) => {
              if (!Number.isInteger(n) || n < 1 || n > 20) return false;
              saveStudio({ helpers: n });
              return true;
            }}
          />
        </span>
        <span>
          {w.rack}
          <NumberField
            label={w.rack}
            value={studio.rack}
            onValue={(n) => {
              if (!Number.isInteger(n) || n < 0 || n > 1000) return false;
              saveStudio({ rack: n });
              return true;
            }}
          />
        </span>
        <Button onClick={() => void saveIcs(kit, tasks)} disabled={!beginsAt}>
          {w.ics}
        </Button>
      </div>
      {!beginsAt && <p className="small quiet">{w.noDate}</p>}
      <Boards kit={kit} />
      {[...days].map(([day, list]) => (
        <div key={day} className={css.day}>
          <h3>{day}</h3>
          <Timeline
            items={list.map((task) => ({
              color: 'gray',
              content: (
                <>
                  <b className="numbers">{taskTime(task, beginsAt).clock}</b> {task.what}
                  <br />
                  <span className="small quiet">
                    {[w.work(task.minutes), doneBy(task, studio.helpers), task.then].filter(Boolean).join('; ')}
                  </span>
                  {task.late && (
                    <>
                      <br />
                      <span className="small signal">{w.late}</span>
                    </>
                  )}
                  {task.caution && (
                    <>
                      <br />
                      <span className="small">{task.caution}</span>
                    </>
                  )}
                </>
              ),
            }))}
          />
        </div>
      ))}
    </section>
  );
}

/** What the boards of this class take in the rack, with two coats. */
function Boards({ kit: { lesson, studio } }: { kit: Kit }) {
  const parts = groupParts(lesson);
  const boards = parts.reduce((sum, part) => sum + part.heads + part.teaching, 0);
  // Places in the rack fit the largest.
  const [widthMm, heightMm] = (['widthMm', 'heightMm'] as const).map((side) =>
    Math.max(...parts.map((part) => part.lesson.support[side])),
  ) as [number, number];
  const touch = (absorbGPerM2: number) => coatTimes({ technique: 'gesso', absorbGPerM2 }, lesson.room).touchDryMin;
  const wait = [touch(15), touch(8)];
  if (!wait.every(Number.isFinite)) return null;
  const { endMin, waves } = coatBoards({
    boards,
    eachMin: boardMin(widthMm, heightMm),
    people: studio.helpers,
    waitMin: wait,
    ...(studio.rack > 0 && { places: studio.rack }),
  });
  return (
    <p>
      {w.boards(
        supportsInWords(lesson, boards),
        waves,
        minutesInWords(endMin),
        rackM2(studio.rack > 0 ? Math.min(studio.rack, boards) : boards, widthMm, heightMm).toFixed(1),
      )}
    </p>
  );
}

const saveIcs = async ({ lesson, studio }: Kit, tasks: readonly PrepTask[]) => {
  const { toIcs } = await import('@viaticum/core/format');
  // As it is read on the wall, in the zone of this machine.
  const begins = new Date(lesson.kit?.beginsAt?.slice(0, 16) ?? '').getTime();
  const entries = tasks.map((task) => ({
    id: `${task.key}-${begins}`,
    title: task.what,
    startMs: begins + task.startMin * 60_000,
    endMs: begins + Math.max(task.endMin, task.startMin + 1) * 60_000,
    place: '',
    words: [doneBy(task, studio.helpers), task.then, task.caution].filter(Boolean).join('. '),
  }));
  saveFile(
    `${lesson.title}, before the class.ics`,
    new Blob([toIcs(lesson.title, entries, Date.now())], { type: 'text/calendar' }),
  );
};

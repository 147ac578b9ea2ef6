import type { Lesson } from '@viaticum/contract';
import { planOf } from '@viaticum/core/plan';
import { minutesInWords, timeOfDay, waitInWords } from '@viaticum/core/units';
import { Button, Drawer } from 'antd';
import { clsx } from 'clsx';
import { useDeferredValue, useState } from 'react';
import { RefusalContext } from '../ui/refusal.js';
import { words } from '../words/words.js';
import { SessionContext, useLesson, useSession } from './context.js';
import css from './room-drawer.module.css';
import RoomFields from './room-fields.js';
import { trialSession } from './trial.js';

const w = words.room;
const DRAWER_PX = 760;

/** The room of the lesson, tried out: what it would change is seen while a value is turned; nothing holds until it is kept. */
export function RoomDrawer({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const lesson = useLesson();
  const [trial] = useState(() => trialSession(session.id, lesson));
  return (
    <SessionContext.Provider value={trial}>
      <RefusalContext.Provider value={trial}>
        <Tried before={lesson} onClose={onClose} onKeep={(room) => session.do('takeRoom', { room }) && onClose()} />
      </RefusalContext.Provider>
    </SessionContext.Provider>
  );
}

function Tried({ before, onClose, onKeep }: { before: Lesson; onClose: () => void; onKeep: (room: Lesson['room']) => void }) {
  const { room } = useLesson();
  const tried = useDeferredValue(room);
  const isChanged = JSON.stringify(room) !== JSON.stringify(before.room);
  return (
    <Drawer
      open
      size={DRAWER_PX}
      title={<h2 className="dialog-title">{w.title}</h2>}
      onClose={onClose}
      footer={
        <div className={css.roomFoot}>
          <span className="quiet small">{isChanged ? w.triedOut : w.asItIs}</span>
          <span>
            <Button onClick={onClose}>{w.leave}</Button>{' '}
            <Button type="primary" disabled={!isChanged} onClick={() => onKeep(room)}>
              {w.keep}
            </Button>
          </span>
        </div>
      }
    >
      <div className={css.roomColumns}>
        <RoomFields room={room} />
        <Changes before={before} after={{ ...before, room: tried }} />
      </div>
    </Drawer>
  );
}

/** What another room makes of the plan: its length, each pause, how long wet passages stay workable. */
function Changes({ before, after }: { before: Lesson; after: Lesson }) {
  const [was, now] = [planOf(before).plan, planOf(after).plan];
  const pausesOf = ({ items }: typeof was) => items.filter((item) => item.kind === 'pause');
  const lengthOf = ({ startMin, endMin }: { startMin: number; endMin: number }) => endMin - startMin;
  const earlier = new Map(pausesOf(was).map((item) => [item.title, lengthOf(item)]));
  const pauses = pausesOf(now).map((item) => ({
    at: item.startMin,
    title: item.title,
    was: earlier.get(item.title) ?? 0,
    now: lengthOf(item),
  }));
  const longest = Math.max(1, ...pauses.flatMap((one) => [one.was, one.now]));
  const gone = [...earlier.keys()].filter((title) => !pauses.some((one) => one.title === title));
  const blends = after.steps.flatMap((step) => {
    if (step.technique !== 'blend') return [];
    const open = (plan: typeof was) => plan.coats.find((coat) => coat.stepId === step.id)?.openMin ?? null;
    const [wasOpen, nowOpen] = [open(was), open(now)];
    return nowOpen === null ? [] : [{ step, wasOpen, nowOpen }];
  });
  const ends = (plan: typeof was) => timeOfDay((after.room.startAtMin ?? 0) + plan.endMin);
  const difference = Math.round(now.endMin - was.endMin);
  return (
    <section className={css.roomChanges} aria-live="polite" aria-label={w.changes}>
      <h3>{w.changes}</h3>
      <p>
        {now.never ? (
          <>
            <b className={clsx(css.roomLength, 'signal')}>{words.lesson.never}</b>{' '}
            <span className="quiet">{words.lesson.neverDries}</span>
          </>
        ) : difference === 0 ? (
          <>
            <b className={clsx(css.roomLength, 'numbers')}>{minutesInWords(now.endMin)}</b>{' '}
            <span className="quiet">{w.same}</span>
          </>
        ) : (
          <>
            <span className="quiet">{w.becomes(minutesInWords(was.endMin))}</span>{' '}
            <b className={clsx(css.roomLength, 'numbers')}>{minutesInWords(now.endMin)}</b>
          </>
        )}
      </p>
      <p className="quiet small">
        {difference !== 0 && !now.never && w.longer(minutesInWords(Math.abs(difference)), difference > 0)}
        {after.room.startAtMin !== undefined && !now.never && w.endsAt(ends(now))}
      </p>
      {pauses.length > 0 && !now.never && <h3>{w.pauses}</h3>}
      {now.never && <p>{w.neverEnough}</p>}
      <ul className={css.roomPauses} hidden={now.never === true}>
        {pauses.map((one) => (
          <li key={one.at}>
            <span>{one.title}</span>
            <span className="numbers">
              {Math.round(one.was) === Math.round(one.now) ? '' : `${Math.round(one.was)} → `}
              <b>{waitInWords(one.now)}</b>
            </span>
            <i className={css.was} style={{ width: `${(one.was / longest) * 100}%` }} />
            <i style={{ width: `${(one.now / longest) * 100}%` }} />
          </li>
        ))}
        {gone.map((title) => (
          <li key={title}>
            <span>{title}</span> <span className="quiet">{w.noPause}</span>
          </li>
        ))}
      </ul>
      {blends.length > 0 && <h3>{w.wet}</h3>}
      {blends.map(({ step, wasOpen, nowOpen }) => (
        <p key={step.id} className="small">
          {w.workable(step.title, waitInWords(nowOpen), wasOpen === null ? null : waitInWords(wasOpen))}
        </p>
      ))}
    </section>
  );
}

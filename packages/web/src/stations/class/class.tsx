import { useQuery } from '@tanstack/react-query';
import type { ClassAnswer } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { classesQuery, useOpenClass } from '../../api/queries.js';
import { useLesson, usePlan, useSession, useSnapshot } from '../../lesson/context.js';
import { dayAndTime } from '../../ui/clock.js';
import { words } from '../../words.js';
import { Invite } from './invite.js';
import './class.css';

const Pace = lazy(() => import('./pace.js').then((module) => ({ default: module.Pace })));

const w = words.class;

/** Opening a class from the lesson as it is saved now, and the classes opened before. */
export default function ClassStation() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const { save } = useSnapshot();
  const { data } = useQuery(classesQuery);
  const open = useOpenClass();
  const own = (data ?? []).filter((one) => one.lessonId === session.id);
  const pauses = plan.items.filter((item) => item.kind === 'pause').length;
  const isSaved = save.kind === 'saved';
  return (
    <div className="class-station">
      <section>
        <h2>{w.title}</h2>
        <p>{w.about(lesson.steps.length, minutesInWords(plan.endMin), pauses)}</p>
        <p className="quiet small">{w.none}</p>
        <button
          type="button"
          className="key main"
          disabled={lesson.steps.length === 0 || !isSaved || open.isPending}
          onClick={() => open.mutate(session.id)}
        >
          {w.open}
        </button>
        {lesson.steps.length === 0 && <p className="small quiet">{w.noSteps}</p>}
        {!isSaved && lesson.steps.length > 0 && <p className="small quiet">{w.unsaved}</p>}
        {open.error && (
          <p className="signal" role="alert">
            {open.error.message}
          </p>
        )}
      </section>
      {own.length > 0 && (
        <section>
          <h2>{w.opened}</h2>
          <ul className="class-list">
            {own.map((one, i) => (
              <Opened key={one.id} one={one} isNewest={i === 0} />
            ))}
          </ul>
        </section>
      )}
      {lesson.steps.length > 0 && <Invite />}
      <Suspense fallback={null}>
        <Pace />
      </Suspense>
    </div>
  );
}

function Opened({ one, isNewest }: { one: ClassAnswer; isNewest: boolean }) {
  const [address = ''] = one.addresses;
  const ended = one.state === 'ended';
  return (
    <li className={ended ? 'quiet' : ''}>
      {isNewest && !ended && (
        <img className="class-qr" src={`/api/classes/${one.code}/qr.svg`} alt={w.qr} width={132} height={132} />
      )}
      <div>
        <p className="small quiet">
          {dayAndTime(one.openedAt)}, {w.states[one.state]}
        </p>
        {!ended && (
          <>
            <p>
              {w.join} <b>{address.replace(/^https?:\/\//, '').replace(/\/[^/]+$/, '')}</b> {w.code}
            </p>
            <p className="class-code">{one.code}</p>
            {!one.reachable && isNewest && (
              <p className="small quiet">
                {w.loopback} <code>{w.loopbackLine}</code>
              </p>
            )}
            <Link className="key main" to={`/desk/${one.code}`}>
              {w.desk}
            </Link>
          </>
        )}
      </div>
    </li>
  );
}

import { useInfiniteQuery } from '@tanstack/react-query';
import type { ClassAnswer } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { Link, useNavigate } from 'react-router';
import { classesQuery, useBeginClass, useOpenPlanned } from '../../api/class-queries.js';
import { useLesson, usePlan, useSession, useSnapshot } from '../../lesson/context.js';
import { dayAndTime } from '../../ui/clock.js';
import { LinkKey } from '../../ui/link-key.js';
import { words } from '../../words/words.js';
import classCss from './class.module.css';
import css from './teach.module.css';
import { Where } from './where.js';

const w = words.class;

/** Opening a class from the lesson as it is saved now, and the classes opened before. */
export function Teach() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const { save } = useSnapshot();
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(classesQuery);
  const open = useBeginClass();
  const own = (data ?? []).filter((one) => one.lessonId === session.id);
  const newest = own.find((one) => one.state !== 'ended' && one.state !== 'planned');
  const pauses = plan.items.filter((item) => item.kind === 'pause').length;
  const isSaved = save.kind === 'saved';
  return (
    <>
      <section>
        <h2>{w.title}</h2>
        <p>{w.about(lesson.steps.length, minutesInWords(plan.endMin), pauses)}</p>
        <p className="quiet small">{w.none}</p>
        <Button
          type="primary"
          disabled={lesson.steps.length === 0 || !isSaved || open.isPending}
          onClick={() => open.mutate({ lessonId: session.id })}
        >
          {w.open}
        </Button>
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
          <ul className={classCss.classList} data-testid="class-list">
            {own.map((one) => (
              <Opened key={one.id} one={one} isNewest={one === newest} />
            ))}
          </ul>
        </section>
      )}
      {hasNextPage && (
        <Button loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          {w.older}
        </Button>
      )}
    </>
  );
}

export function Opened({ one, isNewest }: { one: ClassAnswer; isNewest: boolean }) {
  const openNow = useOpenPlanned();
  const navigate = useNavigate();
  const [address = ''] = one.addresses;
  const ended = one.state === 'ended';
  const planned = one.state === 'planned';
  return (
    <li className={clsx(ended && 'quiet')}>
      {isNewest && (
        <img
          className={css.classQr}
          src={`/api/classes/${one.code}/qr.svg?of=${encodeURIComponent(address)}`}
          alt={w.qr}
          width={132}
          height={132}
        />
      )}
      <div>
        <p className="small quiet">
          {dayAndTime(planned && one.invite ? one.invite.startsAt : one.openedAt)}, {w.states[one.state]}
          {one.rehearsal && `, ${w.rehearsed}`}
        </p>
        {!ended && (
          <>
            <p>
              {w.join} <b>{address.replace(/^https?:\/\//, '').replace(/\/[^/]+$/, '')}</b> {w.code}
            </p>
            <p className={css.classCode} data-testid="class-code">
              {one.code}
            </p>
            {isNewest && <Where one={one} />}
            {!one.reachable && isNewest && (
              <p className="small quiet">
                {w.loopback} <code>{w.loopbackLine}</code>
              </p>
            )}
          </>
        )}
        {planned ? (
          <Button
            type="primary"
            disabled={openNow.isPending}
            onClick={() => openNow.mutate(one.code, { onSuccess: () => navigate(`/desk/${one.code}`) })}
          >
            {w.openNow}
          </Button>
        ) : ended ? (
          <Link className="small" to={`/class/${one.code}`}>
            {w.record}
          </Link>
        ) : (
          <LinkKey type="primary" to={`/desk/${one.code}`}>
            {w.desk}
          </LinkKey>
        )}
        {openNow.error && (
          <p className="signal small" role="alert">
            {openNow.error.message}
          </p>
        )}
      </div>
    </li>
  );
}

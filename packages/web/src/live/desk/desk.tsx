import { useQuery } from '@tanstack/react-query';
import type { FollowSheet } from '@viaticum/contract';
import { currentItem, elapsedSeconds, planAsDried, secondsLeft, TAKE_BACK_MS } from '@viaticum/core/class';
import { clock, minutesInWords, waitInWords } from '@viaticum/core/units';
import { useCallback, useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { classQuery } from '../../api/queries.js';
import { clockTime } from '../../ui/clock.js';
import { RecipeBar } from '../../ui/swatch.js';
import { words } from '../../words.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { waitedFor } from '../drying.js';
import { useLive, useServerNow } from '../use-live.js';
import { useOpenClass } from '../use-open-class.js';
import { SeatPlan } from './seat-plan.js';
import './desk.css';

const w = words.desk;

/** The instructor's place in a running class: a glance from two metres, the rest when near. */
export default function Desk() {
  const { code = '' } = useParams();
  const { sheet, connection } = useOpenClass(code, 'desk');
  const answer = useQuery(classQuery(code));
  const fault = sheet.error ?? answer.error;
  if (fault) throw fault;
  if (!connection || !sheet.data) return <p className="desk-opening">{w.connecting}</p>;
  return (
    <Running
      connection={connection}
      sheet={sheet.data}
      code={code}
      address={answer.data?.addresses[0] ?? ''}
      lessonId={answer.data?.lessonId ?? ''}
    />
  );
}

function Running({
  connection,
  sheet,
  code,
  address,
  lessonId,
}: {
  connection: LiveConnection;
  sheet: FollowSheet;
  code: string;
  address: string;
  lessonId: string;
}) {
  const live = useLive(connection);
  const now = useServerNow(connection);
  if (!live.ready) return <p className="desk-opening">{w.connecting}</p>;
  return (
    <div className="desk">
      <Glance live={live} sheet={sheet} now={now} />
      <section className="desk-room" aria-label={w.easels(Object.keys(live.state.students).length)}>
        {!live.online && (
          <p className="desk-lost" role="status">
            {w.lost}
          </p>
        )}
        {live.refusal && (
          <p className="desk-lost" role="alert">
            {live.refusal}
            <button type="button" className="desk-key small" onClick={connection.clearRefusal}>
              {words.lesson.close}
            </button>
          </p>
        )}
        <SeatPlan
          live={live}
          sheet={sheet}
          now={now}
          onHelped={(studentId) => void connection.say({ type: 'handDown', studentId })}
        />
      </section>
      <Near connection={connection} live={live} sheet={sheet} now={now} code={code} address={address} lessonId={lessonId} />
      <Keys connection={connection} live={live} now={now} />
    </div>
  );
}

function Glance({ live, sheet, now }: { live: LiveSnapshot; sheet: FollowSheet; now: number }) {
  const { state } = live;
  const item = currentItem(state);
  const step = item?.stepId ? sheet.steps[item.stepId] : undefined;
  const students = Object.values(state.students);
  const done = item?.stepId ? students.filter((student) => student.doneAt[item.stepId as string] !== undefined).length : 0;
  const hands = students.filter((student) => student.hand).sort((a, b) => (a.hand?.at ?? 0) - (b.hand?.at ?? 0));
  const left = secondsLeft(state, now);
  const kind = step ? w.stepOf(step.number, sheet.stepCount) : item ? w.pause : w.before;
  const next = state.plan?.items[(state.current?.index ?? -1) + 1];
  return (
    <section className="desk-glance" aria-live="off">
      <p className="desk-quiet">{kind}</p>
      <h1>{item?.title ?? sheet.title}</h1>
      {item && (
        <p className={`desk-clock${left < 0 ? ' over' : ''}`} data-testid="clock">
          {left < 0 && <small>{w.over} </small>}
          {clock(Math.abs(left))}
        </p>
      )}
      <p className="desk-large">{step ? w.done(done, students.length) : item ? null : w.joined(students.length)}</p>
      {hands.length > 0 && (
        <p className="desk-large desk-hand">{hands.length === 1 ? w.hand(hands[0]?.firstName ?? '') : w.hands(hands.length)}</p>
      )}
      {item?.kind === 'pause' && item.meanwhile && (
        <p className="desk-say">
          {w.meanwhile}: {item.meanwhile}
        </p>
      )}
      {item?.reason && <p className="desk-quiet">{item.reason}</p>}
      {step?.mixes.map((mix) => (
        <RecipeBar key={mix.name} parts={mix.parts} words={`${mix.name}: ${mix.words}`} />
      ))}
      {step && step.lines.length > 0 && <p className="desk-say">{step.lines.join(' ')}</p>}
      {next && (
        <p className="desk-then">
          <span className="desk-quiet">
            {w.then}, {waitInWords(next.endMin - next.startMin)}
          </span>
          <br />
          {next.title}
        </p>
      )}
    </section>
  );
}

function Near({
  connection,
  live,
  sheet,
  now,
  code,
  address,
  lessonId,
}: {
  connection: LiveConnection;
  live: LiveSnapshot;
  sheet: FollowSheet;
  now: number;
  code: string;
  address: string;
  lessonId: string;
}) {
  const { state } = live;
  const plan = state.plan;
  const item = currentItem(state);
  const minutesBehind = item && state.current ? Math.round(elapsedSeconds(state, now) / 60 - (item.endMin - item.startMin)) : 0;
  const room = plan?.room;
  return (
    <aside className="desk-near">
      {room && (
        <section>
          <h2>{w.room}</h2>
          <p className="desk-figure">{words.room.button(room.name, room.airC, room.humidity)}</p>
        </section>
      )}
      <TouchTest connection={connection} live={live} sheet={sheet} />
      <section>
        <h2>{w.time}</h2>
        <p className="desk-figure numbers">{clockTime(now)}</p>
        {plan && <p className="desk-quiet">{w.planned(minutesInWords(plan.endMin))}</p>}
        {minutesBehind > 0 && <p className="desk-quiet">{w.behind(minutesInWords(minutesBehind))}</p>}
      </section>
      <section>
        <h2>{w.join}</h2>
        <p>{address.replace(/^https?:\/\//, '').replace(/\/[^/]+$/, '')}</p>
        <p className="desk-code">{code}</p>
        {!item && <img src={`/api/classes/${code}/qr.svg`} alt={words.class.qr} width={150} height={150} />}
      </section>
      <a className="desk-key small" href={`/wall/${code}`} target="_blank" rel="noreferrer">
        {w.wall}
      </a>
      <Link className="desk-key small" to={`/lesson/${lessonId}/class`}>
        {w.lesson}: {sheet.title}
      </Link>
    </aside>
  );
}

/** The coat that a pause waits for, touched: what is found corrects the drying of this class. */
function TouchTest({ connection, live, sheet }: { connection: LiveConnection; live: LiveSnapshot; sheet: FollowSheet }) {
  const { state } = live;
  const item = currentItem(state);
  const plan = planAsDried(state);
  const coat = item?.kind === 'pause' && plan ? waitedFor(plan, item) : null;
  if (!coat || state.phase === 'ended') return null;
  const touch = (dry: boolean) => void connection.say({ type: 'touchTest', zoneId: coat.zoneId, dry });
  const name = sheet.zones.find((zone) => zone.id === coat.zoneId)?.name ?? '';
  const percent = Math.round((state.dryFactor - 1) * 100);
  return (
    <section aria-label={w.touch}>
      <h2>{w.touch}</h2>
      <p className="desk-touch">
        <button type="button" className="desk-key small" onClick={() => touch(true)} aria-keyshortcuts="D">
          {w.isDry(name)} <kbd>D</kbd>
        </button>
        <button type="button" className="desk-key small" onClick={() => touch(false)}>
          {w.notYet}
        </button>
      </p>
      {state.touches.length > 0 && <p className="desk-quiet">{w.dries(percent, state.touches.length)}</p>}
    </section>
  );
}

function Keys({ connection, live, now }: { connection: LiveConnection; live: LiveSnapshot; now: number }) {
  const { state } = live;
  const [sure, setSure] = useState(false);
  const items = state.plan?.items ?? [];
  const at = state.current?.index ?? -1;
  const next = items[at + 1];
  const canTakeBack = state.current !== null && now - state.current.startedAt < TAKE_BACK_MS;
  const ended = state.phase === 'ended';
  const goOn = useCallback(() => void (next && connection.say({ type: 'goOn', from: at })), [connection, next, at]);
  const takeBack = useCallback(() => void connection.say({ type: 'takeBack' }), [connection]);
  const holdOrResume = useCallback(
    () => void connection.say({ type: state.phase === 'held' ? 'resume' : 'hold' }),
    [connection, state.phase],
  );
  const extend = useCallback(() => void connection.say({ type: 'extend', minutes: 1 }), [connection]);
  const running = state.phase === 'running' || state.phase === 'held';
  const item = currentItem(state);
  const waited = running && item?.kind === 'pause' && state.plan ? waitedFor(state.plan, item)?.zoneId : undefined;
  useEffect(() => {
    if (ended) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const does: Record<string, (() => void) | undefined> = {
        ArrowRight: goOn,
        PageDown: goOn,
        ArrowLeft: takeBack,
        PageUp: takeBack,
        h: running ? holdOrResume : undefined,
        e: running ? extend : undefined,
        d: waited ? () => void connection.say({ type: 'touchTest', zoneId: waited, dry: true }) : undefined,
      };
      const act = does[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [ended, running, waited, connection, goOn, takeBack, holdOrResume, extend]);
  if (ended) return <footer className="desk-keys desk-large">{w.ended}</footer>;
  return (
    <footer className="desk-keys">
      <button type="button" className="desk-key" disabled={!running} onClick={holdOrResume} aria-keyshortcuts="H">
        {state.phase === 'held' ? w.resume : w.hold} <kbd>H</kbd>
      </button>
      <button type="button" className="desk-key" disabled={!running} onClick={extend} aria-keyshortcuts="E">
        {w.extend} <kbd>E</kbd>
      </button>
      {canTakeBack ? (
        <button type="button" className="desk-key" onClick={takeBack} aria-keyshortcuts="ArrowLeft">
          {w.takeBack} <kbd>←</kbd>
        </button>
      ) : (
        <button
          type="button"
          className="desk-key"
          onClick={() => (sure ? void connection.say({ type: 'end' }) : setSure(true))}
          onBlur={() => setSure(false)}
        >
          {sure ? w.endSure : w.end}
        </button>
      )}
      <button type="button" className="desk-key main" disabled={!next} onClick={goOn} aria-keyshortcuts="ArrowRight PageDown">
        {next ? (at < 0 ? w.start(next.title) : w.goOn(next.title.charAt(0).toLowerCase() + next.title.slice(1))) : w.last}{' '}
        <kbd>→</kbd>
      </button>
    </footer>
  );
}

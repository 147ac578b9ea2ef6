import type { Command, FollowSheet, HandReason, PlanItem } from '@viaticum/contract';
import { currentItem, type Student, TAKE_BACK_MS } from '@viaticum/core/class';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { followWords as w } from '../../words/follow.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { useOfTime } from '../use-live.js';
import { Clock } from './clock.js';
import followCss from './follow.module.css';
import { Pause } from './pause.js';
import { type PhoneSettings, usePhoneSettings } from './phone-settings.js';
import css from './present.module.css';
import type { Settings as SettingsView } from './settings.js';
import { Strip } from './strip.js';
import { Work } from './work.js';

// Not needed at once: it comes when the step is shown.
const Settings = lazy(() =>
  import('./settings.js').then(
    (module) => ({ default: module.Settings }),
    // Without a network the step is what matters.
    (): { default: typeof SettingsView } => ({ default: () => <></> }),
  ),
);

const SAID_MS = 3 * 60_000;
const TREMBLE_MS = 70;

type Props = {
  connection: LiveConnection;
  live: LiveSnapshot;
  sheet: FollowSheet;
  student: Student;
  /** Painted alone: all may be looked at, and going on is the student's own. */
  isAlone?: boolean;
  /** The class has ended: its steps may be looked at, and nothing is said any more. */
  isOver?: boolean;
  /** A recipe from this student's own tubes is being looked for, for a moment or for longer. */
  lookingFor?: 'short' | 'long' | null;
};

/** One step a screen, with two large keys at the foot; looking back is free. */
export function Present({ connection, live, sheet, student, isAlone = false, isOver = false, lookingFor = null }: Props) {
  // Looking back ends with the present step.
  const [looking, setLooking] = useState<{ at: number; during: number } | null>(null);
  const [settings, setSettings] = usePhoneSettings(sheet.units);
  const { plan, current } = live.state;
  useWakeLock();
  const index = current?.index ?? 0;
  useTremble(index, settings);
  const shown = looking?.during === index ? looking.at : index;
  const lookAt = (at: number) => setLooking({ at, during: index });
  const item = plan?.items[shown];
  const present = currentItem(live.state);
  if (!plan || !item || !present) return null;
  const isPresent = shown === index && !isOver;
  const step = item.stepId ? sheet.steps[item.stepId] : undefined;
  const last = isAlone ? plan.items.length - 1 : index;
  const shared = { connection, item, sheet, live, student, isPresent };
  return (
    <main
      className={clsx(
        followCss.followPage,
        followCss.followStep,
        settings.large && followCss.large,
        settings.left && css.leftHand,
      )}
      data-testid="follow-page"
      data-large={settings.large || undefined}
      data-index={shown}
    >
      <header>
        <Button
          type="text"
          className={clsx('plain', css.followLook)}
          disabled={shown === 0}
          onClick={() => lookAt(Math.max(0, shown - 1))}
          aria-label={w.back}
        >
          ‹
        </Button>
        <span className={clsx(css.followPlace, 'numbers')}>{w.of(placeOf(plan.items, shown, sheet), sheet.stepCount)}</span>
        {shown < last && (
          <Button type="text" className={clsx('plain', css.followLook)} onClick={() => lookAt(shown + 1)} aria-label={w.step}>
            ›
          </Button>
        )}
        {isPresent ? (
          <Clock connection={connection} live={live} student={student} />
        ) : (
          !isOver && (
            <Button type="text" className={clsx('plain', css.followLook, css.words)} onClick={() => setLooking(null)}>
              {w.forward}
            </Button>
          )
        )}
      </header>
      <div className={css.followMessages}>
        {isPresent && <Said connection={connection} live={live} />}
        {live.state.phase === 'held' && isPresent && (
          <p className={followCss.followNote}>{item.kind === 'step' ? w.held : w.heldInPause}</p>
        )}
        {!live.online && !isAlone && !isOver && (
          <p className={followCss.followLost} role="status">
            {w.lost} {live.kept.length > 0 && w.keptCount(live.kept.length)}
          </p>
        )}
        {live.refusal && (
          <p className={clsx('signal', followCss.followNote)} role="alert">
            {live.refusal}
          </p>
        )}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard */}
      <section className={followCss.followWork} aria-label={item.title} tabIndex={0}>
        {item.kind !== 'step' ? (
          <Pause {...shared} />
        ) : step ? (
          <Work {...shared} step={step} settings={settings} looking={lookingFor} />
        ) : null}
        <Suspense fallback={null}>
          <Settings
            settings={settings}
            onChange={setSettings}
            own={isAlone || isOver ? null : { connection, student, tubes: sheet.tubes, ways: sheet.ways }}
          />
        </Suspense>
      </section>
      {!isAlone && !isOver && <Strip {...{ connection, live, sheet, student }} shownStepId={item.stepId} />}
      {isPresent &&
        (isAlone ? (
          <AloneKeys connection={connection} live={live} student={student} item={item} />
        ) : (
          <Keys connection={connection} live={live} student={student} item={item} />
        ))}
    </main>
  );
}

/** Which step of the lesson an item is at. */
const placeOf = (items: readonly PlanItem[], shown: number, sheet: FollowSheet): number =>
  Math.min(sheet.stepCount, items.slice(0, shown + 1).filter((one) => one.stepId && sheet.steps[one.stepId]).length);

/** What was said to all, for some minutes. */
function Said({ connection, live }: Pick<Props, 'connection' | 'live'>) {
  const said = live.state.said.at(-1);
  const isFresh = useOfTime(connection, (now) => said !== undefined && now - said.at < SAID_MS);
  if (!said || !isFresh) return null;
  return (
    <p className={css.followSaid} role="status">
      <b>{w.said}:</b> {said.text}
    </p>
  );
}

type KeysProps = { connection: LiveConnection; live: LiveSnapshot; student: Student; item: PlanItem };

function Keys({ connection, live, student, item }: KeysProps) {
  const [isAsking, setAsking] = useState(false);
  const studentId = student.id;
  const doneAt = item.stepId ? student.doneAt[item.stepId] : undefined;
  const undoSeconds = useOfTime(connection, (now) =>
    doneAt === undefined ? 0 : Math.max(0, Math.ceil((doneAt + TAKE_BACK_MS - now) / 1000)),
  );
  const stepId = item.stepId;
  const sending = useSending(connection, live, stepId);
  if (isAsking) {
    return (
      <fieldset className={css.followReasons}>
        <legend>{w.handWhat}</legend>
        {(Object.entries(w.reasons) as [HandReason, string][]).map(([reason, label]) => (
          <Button
            type="text"
            className={clsx('plain', followCss.bigKey)}
            key={reason}
            onClick={() => {
              void connection.say({ type: 'hand', studentId, reason });
              setAsking(false);
            }}
          >
            {label}
          </Button>
        ))}
        <Button type="text" className={clsx('plain', followCss.bigKey, followCss.bare)} onClick={() => setAsking(false)}>
          {w.cancel}
        </Button>
      </fieldset>
    );
  }
  return (
    <footer className={css.followKeys}>
      {student.hand ? (
        <Button
          type="text"
          className={clsx('plain', followCss.bigKey, followCss.handUp)}
          onClick={() => void connection.say({ type: 'handDown', studentId })}
        >
          {w.handUp}
          <small>{w.handDown}</small>
        </Button>
      ) : (
        <Button type="text" className={clsx('plain', followCss.bigKey)} onClick={() => setAsking(true)}>
          {w.hand}
        </Button>
      )}
      <LateDone connection={connection} live={live} student={student} item={item} />
      {stepId &&
        (doneAt === undefined ? (
          <Button
            type="text"
            className={clsx('plain', followCss.bigKey, followCss.main)}
            onClick={() => void connection.say({ type: 'done', studentId, stepId })}
          >
            {w.done}
          </Button>
        ) : undoSeconds > 0 ? (
          <Button
            type="text"
            className={clsx('plain', followCss.bigKey, sending === 'kept' && css.followKept)}
            onClick={() => void connection.say({ type: 'notYet', studentId, stepId })}
          >
            {w.undoIn(undoSeconds)}
            {sending && <small role="status">{w[sending]}</small>}
          </Button>
        ) : (
          <p className={clsx(css.followDone, sending === 'kept' && css.followKept)} role="status">
            {sending ? w[sending] : w.isDone}
          </p>
        ))}
    </footer>
  );
}

/** Whether a Done of this step waits for a network, or was sent a moment ago. */
function useSending(connection: LiveConnection, live: LiveSnapshot, stepId: string | undefined): 'kept' | 'sent' | null {
  const isOf = (command: Command) => 'stepId' in command && command.stepId === stepId && command.type !== 'look';
  const isKept = !live.online && live.kept.some(({ command }) => isOf(command));
  const { sent } = live;
  const isSent = useOfTime(connection, (now) => sent !== null && isOf(sent.command) && now - sent.at < SENT_MS);
  return isKept ? 'kept' : isSent ? 'sent' : null;
}
const SENT_MS = 2000;

/** In a pause, the key for the step before it, for who is still painting: their own coat dries from then. */
function LateDone({ connection, live: { state }, student, item }: KeysProps) {
  if (item.stepId) return null;
  const before = [...state.visits].reverse().find((visit) => state.plan?.items[visit.index]?.stepId);
  const stepId = before && state.plan?.items[before.index]?.stepId;
  if (!stepId || student.doneAt[stepId] !== undefined || student.joinedAt > (before.endedAt ?? 0)) return null;
  return (
    <Button
      type="text"
      className={clsx('plain', followCss.bigKey, followCss.main)}
      onClick={() => void connection.say({ type: 'done', studentId: student.id, stepId })}
    >
      {w.doneLate}
    </Button>
  );
}

function AloneKeys({
  connection,
  live,
  student,
  item,
}: {
  connection: LiveConnection;
  live: LiveSnapshot;
  student: Student;
  item: PlanItem;
}) {
  const at = live.state.current?.index ?? 0;
  const isLast = at + 1 >= (live.state.plan?.items.length ?? 0);
  const goOn = async () => {
    if (item.stepId) await connection.say({ type: 'done', studentId: student.id, stepId: item.stepId });
    await connection.say(isLast ? { type: 'end' } : { type: 'goOn', from: at });
  };
  return (
    <footer className={css.followKeys}>
      <Button
        type="text"
        className={clsx('plain', followCss.bigKey)}
        disabled={at === 0}
        onClick={() => void connection.say({ type: 'goTo', from: at, to: at - 1 })}
      >
        {w.back}
      </Button>
      <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main)} onClick={() => void goOn()}>
        {isLast ? w.alone.finish : item.stepId ? w.done : w.alone.goOn}
      </Button>
    </footer>
  );
}

/** A gentle tremble where a new step begins and the phone can; quiet for who wants less motion. */
function useTremble(index: number, settings: PhoneSettings): void {
  const before = useRef(index);
  useEffect(() => {
    if (before.current === index) return;
    before.current = index;
    const isStill = matchMedia('(prefers-reduced-motion: reduce)').matches;
    if (settings.vibrate && !isStill) navigator.vibrate?.(TREMBLE_MS);
  }, [index, settings.vibrate]);
}

/** Asks the phone to stay awake where it can; where it cannot, nothing is lost. */
function useWakeLock(): void {
  const lock = useRef<WakeLockSentinel | null>(null);
  useEffect(() => {
    const ask = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock?.request('screen').then(
        (held) => {
          lock.current = held;
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      document.removeEventListener('visibilitychange', ask);
      void lock.current?.release();
    };
  }, []);
}

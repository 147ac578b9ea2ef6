import type { FollowSheet, HandReason, PlanItem, SheetStep } from '@viaticum/contract';
import { currentItem, paintMinute, planAsDried, type Student, secondsLeft, TAKE_BACK_MS } from '@viaticum/core/class';
import { clock, waitInWords } from '@viaticum/core/units';
import { useEffect, useRef, useState } from 'react';
import { StageCanvas } from '../../ui/stage-canvas.js';
import { layersAt, wetnessAt } from '../../ui/stage-layers.js';
import { RecipeBar } from '../../ui/swatch.js';
import { words } from '../../words.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { allowed, waitedFor } from '../drying.js';
import { useServerNow } from '../use-live.js';
import { Cells } from './cells.js';
import { DryingFilm } from './drying-film.js';
import { Ticks } from './ticks.js';

const w = words.follow;

type Props = { connection: LiveConnection; live: LiveSnapshot; sheet: FollowSheet; student: Student };

/** One step a screen, with two large keys at the foot; looking back is free. */
export function Present({ connection, live, sheet, student }: Props) {
  const now = useServerNow(connection);
  const [lookingAt, setLookingAt] = useState<number | null>(null);
  const { plan, current } = live.state;
  useWakeLock();
  const index = current?.index ?? 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new present step ends looking back
  useEffect(() => setLookingAt(null), [index]);
  const shown = lookingAt ?? index;
  const item = plan?.items[shown];
  const present = currentItem(live.state);
  if (!plan || !item || !present) return null;
  const isPresent = shown === index;
  const step = item.stepId ? sheet.steps[item.stepId] : undefined;
  const minute = isPresent ? paintMinute(live.state, now) : item.endMin;
  const left = secondsLeft(live.state, now);
  const number = step?.number ?? plan.items.slice(0, shown).filter((one) => one.stepId).length;
  return (
    <main className="follow-page follow-step" data-index={shown}>
      <header>
        <button
          type="button"
          className="follow-look"
          disabled={shown === 0}
          onClick={() => setLookingAt(Math.max(0, shown - 1))}
          aria-label={w.back}
        >
          ‹
        </button>
        <span className="follow-title">{sheet.title}</span>
        <span className="numbers">{w.of(number, sheet.stepCount)}</span>
        {!isPresent && (
          <button type="button" className="follow-look words" onClick={() => setLookingAt(null)}>
            {w.forward}
          </button>
        )}
      </header>
      <div className="follow-work">
        {item.kind === 'pause' ? (
          <Pause item={item} sheet={sheet} live={live} minute={minute} left={isPresent ? left : null} />
        ) : step ? (
          <Work item={item} step={step} sheet={sheet} live={live} minute={minute} left={isPresent ? left : null} />
        ) : null}
        {live.state.phase === 'held' && isPresent && <p className="follow-note">{w.held}</p>}
        {!live.online && (
          <p className="follow-lost" role="status">
            {w.lost}
          </p>
        )}
        {live.refusal && (
          <p className="signal" role="alert">
            {live.refusal}
          </p>
        )}
      </div>
      {isPresent && <Keys connection={connection} student={student} item={item} now={now} />}
    </main>
  );
}

function Work({
  item,
  step,
  sheet,
  live,
  minute,
  left,
}: {
  item: PlanItem;
  step: SheetStep;
  sheet: FollowSheet;
  live: LiveSnapshot;
  minute: number;
  left: number | null;
}) {
  const plan = planAsDried(live.state);
  const [isBefore, setBefore] = useState(false);
  if (!plan) return null;
  const at = isBefore ? item.startMin : item.endMin;
  const { now, notYet } = allowed(sheet, plan, minute);
  return (
    <>
      {/* Press and hold, or the key beneath, shows the canvas before this step. */}
      <figure
        className="follow-canvas"
        onPointerDown={() => setBefore(true)}
        onPointerUp={() => setBefore(false)}
        onPointerLeave={() => setBefore(false)}
        onContextMenu={(event) => event.preventDefault()}
      >
        <StageCanvas sheet={sheet} layers={layersAt(sheet, plan, at)} label={isBefore ? w.before : step.title} shownPx={300} />
        <button
          type="button"
          className="follow-before"
          aria-pressed={isBefore}
          onKeyDown={(event) => event.key === ' ' && setBefore(true)}
          onKeyUp={() => setBefore(false)}
        >
          {isBefore ? w.before : w.press}
        </button>
      </figure>
      <h1>{step.title}</h1>
      {(step.brush || step.technique) && (
        <p className="follow-brush">
          {w.brushLine(
            step.brush ?? '',
            step.technique
              ? words.techniques[step.technique as keyof typeof words.techniques]
              : words.kinds[step.kind as keyof typeof words.kinds],
          )}
        </p>
      )}
      {step.lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
      {sheet.grid && (step.kind === 'draw' || step.kind === 'transfer') && (
        <Cells key={item.stepId} sheet={sheet} grid={sheet.grid} />
      )}
      {step.counts && step.counts.length > 0 && <Ticks stepKey={item.stepId ?? ''} counts={step.counts} />}
      {step.mixes.map((mix) => (
        <div key={mix.id} className="follow-mix">
          <i className="follow-heap" style={{ background: mix.wetRgb }} title={w.wet} />
          <i className="follow-heap dry" style={{ background: mix.rgb }} title={w.dry} />
          <RecipeBar parts={mix.parts} words={`${mix.name}: ${mix.words}`} />
          {mix.instead !== undefined && <p className="follow-instead">{w.instead(mix.instead)}</p>}
        </div>
      ))}
      <div className="follow-clock-row">
        {left !== null && <Clock left={left} />}
        <div className="follow-allowed">
          {now.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
          {notYet.map(({ names, minutes }) => (
            <p key={names} className="quiet">
              {w.notYet}: paint over {names}
              {minutes === null ? '' : `, ${waitInWords(minutes)}`}
            </p>
          ))}
        </div>
      </div>
      {step.checkpoint && <p className="follow-checkpoint">{step.checkpoint}</p>}
    </>
  );
}

function Pause({
  item,
  sheet,
  live,
  minute,
  left,
}: {
  item: PlanItem;
  sheet: FollowSheet;
  live: LiveSnapshot;
  minute: number;
  left: number | null;
}) {
  const plan = planAsDried(live.state);
  if (!plan) return null;
  const coat = waitedFor(plan, item);
  return (
    <>
      <p className="quiet follow-kind">{item.kind === 'pause' ? w.pause : w.break}</p>
      <h1>{item.title}</h1>
      <p className="numbers follow-whole" data-testid="pause-minutes">
        {waitInWords(item.endMin - item.startMin)}
      </p>
      {coat && <DryingFilm coat={coat} sheet={sheet} minute={minute} />}
      {left !== null && <Clock left={left} />}
      {item.reason && <p className="quiet">{item.reason}</p>}
      {item.meanwhile && (
        <p className="follow-meanwhile">
          <b>{w.meanwhile}</b> {item.meanwhile}
        </p>
      )}
      <figure className="follow-canvas small">
        <StageCanvas
          sheet={sheet}
          layers={layersAt(sheet, plan, minute)}
          wetness={wetnessAt(sheet, plan, minute, false)}
          label={item.title}
          shownPx={200}
        />
      </figure>
    </>
  );
}

function Clock({ left }: { left: number }) {
  return (
    <p className={`follow-clock numbers${left < 0 ? ' signal' : ''}`} role="timer" data-testid="clock">
      {clock(Math.abs(left))}
      <small>{left < 0 ? w.over : w.left}</small>
    </p>
  );
}

function Keys({ connection, student, item, now }: { connection: LiveConnection; student: Student; item: PlanItem; now: number }) {
  const [isAsking, setAsking] = useState(false);
  const studentId = student.id;
  const doneAt = item.stepId ? student.doneAt[item.stepId] : undefined;
  const undoSeconds = doneAt === undefined ? 0 : Math.ceil((doneAt + TAKE_BACK_MS - now) / 1000);
  const stepId = item.stepId;
  if (isAsking) {
    return (
      <fieldset className="follow-reasons">
        <legend>{w.handWhat}</legend>
        {(Object.entries(w.reasons) as [HandReason, string][]).map(([reason, label]) => (
          <button
            key={reason}
            type="button"
            className="big-key"
            onClick={() => {
              void connection.say({ type: 'hand', studentId, reason });
              setAsking(false);
            }}
          >
            {label}
          </button>
        ))}
        <button type="button" className="big-key bare" onClick={() => setAsking(false)}>
          {w.cancel}
        </button>
      </fieldset>
    );
  }
  return (
    <footer className="follow-keys">
      {student.hand ? (
        <button type="button" className="big-key hand-up" onClick={() => void connection.say({ type: 'handDown', studentId })}>
          {w.handUp}
          <small>{w.handDown}</small>
        </button>
      ) : (
        <button type="button" className="big-key" onClick={() => setAsking(true)}>
          {w.hand}
        </button>
      )}
      {stepId &&
        (doneAt === undefined ? (
          <button type="button" className="big-key main" onClick={() => void connection.say({ type: 'done', studentId, stepId })}>
            {w.done}
          </button>
        ) : undoSeconds > 0 ? (
          <button type="button" className="big-key" onClick={() => void connection.say({ type: 'notYet', studentId, stepId })}>
            {w.undoIn(undoSeconds)}
          </button>
        ) : (
          <p className="follow-done" role="status">
            {w.isDone}
          </p>
        ))}
    </footer>
  );
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

import type { PlanItem } from '@viaticum/contract';
import { ahead, classMinute, classWords, coatKey, currentItem, dryingLeft, secondsLeft, waitedFor } from '@viaticum/core/class';
import { clock, minutesInWords, waitInWords } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { RecipeBar } from '../../ui/swatch.js';
import { deskWords as w } from '../../words/desk.js';
import { coatName } from '../coat-name.js';
import { useNowEvery, useServerNow } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './glance.module.css';
import { DoneCount, NeedsMe } from './needs-me.js';
import type { DeskParts } from './parts.js';

/** Seen from two metres: the step, the clock, who needs me, what comes then. */
export function Glance({ connection, live, whole, sheet, onChoose }: DeskParts & { onChoose?: (studentId: string) => void }) {
  const { state } = live;
  const item = currentItem(state);
  const step = item?.stepId ? sheet.steps[item.stepId] : undefined;
  const students = Object.values(state.students);
  if (state.phase === 'ended') return <Ended live={live} />;
  const kind = item?.kind === 'break' ? w.break : step ? w.stepOf(step.number, sheet.stepCount) : item ? w.pause : w.before;
  const next = state.plan?.items[(state.current?.index ?? -1) + 1];
  return (
    <section className={css.deskGlance} data-testid="desk-glance" aria-live="off">
      <p className={deskCss.deskQuiet}>{kind}</p>
      <h1>{item?.title ?? sheet.title}</h1>
      {item && <StepClock connection={connection} live={live} />}
      {state.phase === 'held' && <Held connection={connection} live={live} />}
      {item?.kind === 'pause' && <TouchedDry connection={connection} live={live} sheet={sheet} />}
      {item ? (
        <DoneCount connection={connection} live={live} />
      ) : (
        <p className={deskCss.deskLarge} data-testid="desk-large">
          {w.joined(students.length)}
        </p>
      )}
      <NeedsMe connection={connection} live={whole ?? live} onChoose={onChoose} />
      {item?.kind === 'pause' && item.meanwhile && (
        <p className={css.deskSay}>
          {w.meanwhile}: {item.meanwhile}
        </p>
      )}
      {step?.mixes.map((mix) => (
        <RecipeBar key={mix.name} parts={mix.parts} words={`${mix.name}: ${mix.words}`} />
      ))}
      {step && step.lines.length > 0 && <p className={css.deskSay}>{step.lines.join(' ')}</p>}
      {next && <Then connection={connection} live={live} next={next} />}
    </section>
  );
}

/** After the end: how long it took, and nothing that runs. */
function Ended({ live: { state } }: Pick<DeskParts, 'live'>) {
  const minutes = classMinute(state, state.visits.at(-1)?.endedAt ?? state.at);
  return (
    <section className={css.deskGlance} data-testid="desk-glance">
      <h1>{w.ended}</h1>
      <p className={css.deskSay}>{w.took(minutesInWords(minutes), minutesInWords(state.plannedMin))}</p>
    </section>
  );
}

/** For how long the class is held; paint does not wait with it. */
function Held({ connection, live: { state } }: Pick<DeskParts, 'connection' | 'live'>) {
  const now = useNowEvery(connection, 5);
  const since = state.current?.heldSince;
  if (since == null) return null;
  return <p className={css.deskSay}>{w.heldFor(waitInWords(Math.max(1, (now - since) / 60_000)))}</p>;
}

/** That a touch found dry what the pause waits for. */
function TouchedDry({ connection, live: { state }, sheet }: Pick<DeskParts, 'connection' | 'live' | 'sheet'>) {
  const item = currentItem(state);
  const now = useNowEvery(connection, 5);
  const coat = item && state.plan ? waitedFor(state.plan.coats, item) : null;
  const touch = coat && state.touches.filter((one) => coatKey(one) === coatKey(coat) && one.dryAtMin !== undefined).at(-1);
  if (!coat || !touch || (item && (dryingLeft(state, item, now) ?? 1) > 0)) return null;
  return <p className={css.deskSay}>{classWords.touchedDry(coatName(sheet, state.plan, coat), touch.by ?? null)}</p>;
}

/** What comes next, and how long it is to be expected to take. */
function Then({ connection, live: { state }, next }: Pick<DeskParts, 'connection' | 'live'> & { next: PlanItem }) {
  const [, coming] = ahead(state, useNowEvery(connection, 15));
  const minutes = coming ? coming.endMin - coming.startMin : next.endMin - next.startMin;
  return (
    <p className={css.deskThen}>
      <span className={deskCss.deskQuiet}>
        {w.then}, {Number.isFinite(minutes) ? waitInWords(minutes) : w.never}
      </span>
      <br />
      {next.title}
    </p>
  );
}

/** What is left of the step, or by how much it runs over. */
function StepClock({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  const left = secondsLeft(live.state, useServerNow(connection));
  return (
    <p className={clsx(css.deskClock, left < 0 && css.over)} data-testid="clock">
      {left < 0 && <small>{w.over} </small>}
      {clock(Math.abs(left))}
    </p>
  );
}

import type { FollowSheet, PlanCoat, PlanItem } from '@viaticum/contract';
import { airChange, coatsNow, dryingLeft, planMinute, type Student, secondsLeft, waitedFor } from '@viaticum/core/class';
import { waitInWords } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { layersAt, wetnessAt } from '../../ui/stage-layers.js';
import { followWords as w } from '../../words/follow.js';
import { coatName } from '../coat-name.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { doneAt, Painted } from '../painted.js';
import { useNowEvery, useOfTime } from '../use-live.js';
import { DryingFilm } from './drying-film.js';
import followCss from './follow.module.css';
import css from './pause.module.css';

type Props = {
  connection: LiveConnection;
  item: PlanItem;
  sheet: FollowSheet;
  live: LiveSnapshot;
  student: Student;
  isPresent: boolean;
};
/** A coat that dries so much later than the class's is worth a word. */
const LATER_MIN = 0.5;

/** What is left of the pause, in whole minutes of the same seconds as the clock. */
function Left({ connection, state, student }: Pick<Props, 'connection' | 'student'> & { state: LiveSnapshot['state'] }) {
  const left = useOfTime(connection, (now) => Math.ceil(Math.max(0, secondsLeft(state, now, student)) / 60));
  return Number.isFinite(left) ? waitInWords(left) : w.noEnd;
}

/** For a minute after the air was noted: why the clock is another one. */
function AirChanged({ state, now, coat }: { state: LiveSnapshot['state']; now: number; coat: PlanCoat }) {
  if (!state.climate || now - state.climate.at > AIR_SAID_MS) return null;
  const change = airChange(state, now)?.wet.find((one) => one.areaId === coat.areaId && one.stepId === coat.stepId);
  if (!change || Math.abs(change.isMin - change.wasMin) < LATER_MIN) return null;
  return (
    <p className={followCss.followNote} role="status">
      {w.airNew(change.isMin > change.wasMin)}
    </p>
  );
}
const AIR_SAID_MS = 60_000;

/** A pause on a student's own canvas: the film that dries, the clock of their own coat, what to do meanwhile. */
export function Pause({ connection, item, sheet, live, student, isPresent }: Props) {
  const now = useNowEvery(connection, 2);
  const { state } = live;
  const { plan } = state;
  if (!plan) return null;
  const { coats, minute } = coatsNow(state, now, student);
  const slowest = waitedFor(plan.coats, item);
  const coat = slowest && coats.find((one) => one.stepId === slowest.stepId && one.areaId === slowest.areaId);
  const own = isPresent ? dryingLeft(state, item, now, student) : null;
  const ofClass = isPresent ? dryingLeft(state, item, now) : null;
  const isLaying = coat !== undefined && coat !== null && coat.laidToMin >= minute;
  return (
    <>
      <p className={clsx('quiet', css.followKind)}>{item.kind === 'pause' ? w.pause : w.break}</p>
      <h1>{item.title}</h1>
      <p className={clsx('numbers', css.followWhole)} data-testid="pause-minutes">
        {isPresent ? <Left connection={connection} state={state} student={student} /> : waitInWords(item.endMin - item.startMin)}
      </p>
      {coat && <DryingFilm coat={coat} name={coatName(sheet, plan, coat)} sheet={sheet} minute={minute} />}
      {isLaying ? (
        <p className={followCss.followNote}>{w.ownLaying}</p>
      ) : (
        own !== null &&
        ofClass !== null &&
        own - ofClass > LATER_MIN && <p className={followCss.followNote}>{w.ownDrying(waitInWords(Math.max(0, own)))}</p>
      )}
      {isPresent && coat && <AirChanged state={state} now={now} coat={coat} />}
      {item.reason && <p className="quiet">{item.reason}</p>}
      {item.meanwhile && (
        <p className={css.followMeanwhile}>
          <b>{w.meanwhile}</b> {item.meanwhile}
        </p>
      )}
      <figure className={clsx(followCss.followCanvas, 'small')}>
        <Painted
          sheet={sheet}
          done={doneAt(plan, plan.items.indexOf(item), false)}
          layers={layersAt(sheet, plan, planMinute(state, now))}
          wetness={wetnessAt(sheet, coats, minute, false)}
          label={item.title}
          shownPx={200}
        />
      </figure>
    </>
  );
}

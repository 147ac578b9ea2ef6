import { belief, type ClassState, classMinute, classWords, countedStep, type Need, needsOfAll } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { deskWords as w } from '../../words/desk.js';
import { awaySince } from '../away.js';
import { useNowEvery } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './needs-me.module.css';
import type { DeskParts } from './parts.js';

const MOST_ROWS = 4;
const EVERY_S = 5;
/** A hand that was heard of later than this says when it was raised. */
const LONG_AGO_MIN = 5;

/** Who needs the instructor, the one first for whom waiting costs most: name, why, for how long. */
export function NeedsMe({
  connection,
  live,
  onChoose,
  hasHands = true,
}: Pick<DeskParts, 'connection' | 'live'> & {
  onChoose?: ((studentId: string) => void) | undefined;
  /** Hands stand elsewhere. */
  hasHands?: boolean;
}) {
  const now = useNowEvery(connection, EVERY_S);
  const all = needsOfAll(live.state, now, (id) => awaySince(live, id, now)).filter(({ why }) => hasHands || why !== 'hand');
  if (all.length === 0) return null;
  return (
    <ul className={css.needs} aria-label={w.needs.title} data-testid="needs-me">
      {all.slice(0, MOST_ROWS).map((need) => (
        <li key={need.studentId} className={clsx(need.why === 'hand' && css.hand)} data-why={need.why}>
          <Button
            type="text"
            className={clsx('plain', css.who)}
            disabled={!onChoose}
            onClick={() => onChoose?.(need.studentId)}
            data-testid="desk-large"
          >
            <b>{need.firstName}</b> <span>{reasonOf(need, live.state, now)}</span>
          </Button>
          {need.why !== 'hand' && (
            <Button
              type="text"
              className={clsx('plain', deskCss.deskKey, 'small')}
              aria-label={w.needs.seenOf(need.firstName)}
              onClick={() => void connection.say({ type: 'seen', studentId: need.studentId })}
            >
              {w.needs.seen}
            </Button>
          )}
        </li>
      ))}
      {all.length > MOST_ROWS && <li className={deskCss.deskQuiet}>{w.needs.more(all.length - MOST_ROWS)}</li>}
    </ul>
  );
}

function reasonOf(need: Need, state: ClassState, now: number): string {
  const minutes = Math.max(0, Math.round((now - need.since) / 60_000));
  if (need.why === 'away') return classWords.noNetwork(minutes);
  const hand = need.why === 'hand' ? state.students[need.studentId]?.hand : null;
  if (hand?.kept && minutes >= LONG_AGO_MIN) return classWords.handKept(Math.floor(classMinute(state, hand.at)));
  if (need.why === 'hand')
    return w.needs.hand(need.reason ? w.reasons[need.reason] : '', clock(Math.max(0, Math.floor((now - need.since) / 1000))));
  if (need.why === 'late') return w.needs.late(Math.round(need.minutes ?? 0));
  return need.why === 'silent' ? w.needs.silent : w.needs[need.why](minutes);
}

/** How many are done with the present step, or in a pause with the one before it, and how many of them are only taken to be. */
export function DoneCount({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  const { state } = live;
  const now = useNowEvery(connection, EVERY_S);
  const stepId = countedStep(state);
  if (!stepId) return null;
  const students = Object.values(state.students);
  const how = students.map((student) => belief(state, student, now).standing.get(stepId)?.how);
  const assumed = how.filter((one) => one === 'assumed').length;
  const done = how.filter((one) => one === 'said').length + assumed;
  return (
    <p className={deskCss.deskLarge} data-testid="desk-large">
      {w.done(done, students.length)}
      {assumed > 0 && <small className={css.assumed}> {w.needs.assumed(assumed)}</small>}
    </p>
  );
}

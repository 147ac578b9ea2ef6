import { historyWords as w } from '../words/history.js';
import css from './history.module.css';

const MOST = 12;

/** Differences of two versions, one under the other. */
export function Said({ said }: { said: readonly string[] }) {
  if (said.length === 0) return null;
  return (
    <ul className={css.said}>
      {said.slice(0, MOST).map((one) => (
        <li key={one}>{one}</li>
      ))}
      {said.length > MOST && <li>{w.more(said.length - MOST)}</li>}
    </ul>
  );
}

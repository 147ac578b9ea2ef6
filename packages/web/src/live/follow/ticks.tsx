import { Button } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { followWords as w } from '../../words/follow.js';
import css from './ticks.module.css';

type Counted = { name: string; count: number; until: string };

/** Marks and rounds to count: one tick each, tapped when it is done. Kept on this phone for as long as the page is open. */
export function Ticks({ stepKey, counts }: { stepKey: string; counts: readonly Counted[] }) {
  const [done, setDone] = useState<Readonly<Record<string, number>>>({});
  return counts.map((one) => {
    const key = `${stepKey}/${one.name}`;
    const ticked = done[key] ?? 0;
    return (
      <fieldset key={key} className={css.followTicks}>
        <legend>
          {one.name} <b className="numbers">{w.ticked(ticked, one.count)}</b>
          {one.until && <span className="quiet"> {w.until(one.until)}</span>}
        </legend>
        <Button
          type="text"
          className={clsx('plain', css.followTick)}
          data-testid="follow-tick"
          aria-label={w.tick(one.name)}
          onClick={() => setDone({ ...done, [key]: ticked >= one.count ? 0 : ticked + 1 })}
        >
          {Array.from({ length: one.count }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: ticks have nothing but their order
            <i key={i} data-ticked={i < ticked || undefined} className={clsx(i < ticked && css.done)} />
          ))}
        </Button>
      </fieldset>
    );
  });
}

import { ahead } from '@viaticum/core/class';
import { waitInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { deskWords as w } from '../../words/desk.js';
import { useNowEvery } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './near-steps.module.css';
import type { DeskParts } from './parts.js';

const lasts = (minutes: number): string => (Number.isFinite(minutes) ? waitInWords(minutes) : w.never);

/** All items of the plan: back to one, or forward past what is left out. */
export function Steps({ connection, live }: DeskParts) {
  const coming = new Map(ahead(live.state, useNowEvery(connection, 15)).map((one) => [one.index, one.endMin - one.startMin]));
  const { plan, current, visits, phase } = live.state;
  const at = current?.index ?? -1;
  const visited = new Set(visits.map((visit) => visit.index));
  return (
    <ol className={css.deskSteps}>
      {plan?.items.map((item, i) => {
        const word =
          i === at ? w.here : i < at && !visited.has(i) ? w.skipped : lasts(coming.get(i) ?? item.endMin - item.startMin);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: items have nothing but their place
          <li key={i} className={clsx(i === at ? css.here : i < at && css.gone)}>
            <Button
              type="text"
              className="plain"
              disabled={i === at || phase === 'ended' || phase === 'planned'}
              aria-label={w.goThere(item.title)}
              onClick={() => void connection.say({ type: 'goTo', from: at, to: i })}
            >
              <span>{item.title}</span> <span className={clsx(deskCss.deskQuiet, 'numbers')}>{word}</span>
            </Button>
          </li>
        );
      })}
    </ol>
  );
}

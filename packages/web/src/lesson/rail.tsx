import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { looksOf, usedMixes, visibleOf } from '@viaticum/core/derived';
import { groupOf } from '@viaticum/core/kit';
import { momentsOf, secondTransfers } from '@viaticum/core/transfer';
import { counted, minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { NavLink, useParams } from 'react-router';
import { LinkKey } from '../ui/link-key.js';
import { historyWords } from '../words/history.js';
import { words } from '../words/words.js';
import { usePlan, useWorkedOut } from './context.js';
import css from './rail.module.css';

export const stations = ['picture', 'paints', 'steps', 'transfers', 'kit', 'class', 'video', 'log'] as const;
export type Station = (typeof stations)[number];
export const isStation = (text: string): text is Station => (stations as readonly string[]).includes(text);

const OUT_OF_REACH = 6;

/** How often lines come onto the canvas, and whether some would be lost before they are used. */
function transfersIn(lesson: Lesson): string {
  const lost = secondTransfers(lesson).length;
  const times = momentsOf(lesson).length;
  if (lost > 0) return say`${counted(times, 'transfer')}, ${lost} missing`;
  return counted(times, 'transfer');
}

/** The eight stations in working order, each with how ready it is; one that is not built says so and opens nothing. */
export function Rail({ onKeys, onFind, onVersions }: { onKeys: () => void; onFind: () => void; onVersions: () => void }) {
  const { id } = useParams();
  const lesson = useWorkedOut();
  const { plan } = usePlan();
  const off = [...looksOf(lesson).values()].filter((look) => (look.deltaE ?? 0) > OUT_OF_REACH).length;
  const seen = visibleOf(lesson).filter((part) => part.areaCm2 > 0).length;
  const ready: Record<Station, string> = {
    picture: counted(seen, 'area'),
    paints:
      off > 0
        ? say`${counted(off, 'mix', 'mixes')} off target`
        : `${counted(lesson.tubes.length, 'tube')}, ${counted(lesson.mixes.length, 'mix', 'mixes')}`,
    steps:
      lesson.steps.length === 0
        ? say('no steps yet')
        : `${counted(lesson.steps.length, 'step')}, ${plan.never ? say('never dry') : minutesInWords(plan.endMin)}`,
    transfers: seen === 0 ? say('needs areas') : transfersIn(lesson),
    kit: usedMixes(lesson).size === 0 ? say('needs steps') : say`for ${counted(groupOf(lesson).heads, 'painter')}`,
    class: lesson.steps.length === 0 ? say('needs steps') : say('ready to open'),
    video: lesson.film?.films
      ? counted(lesson.film.films.length, 'film')
      : lesson.steps.length === 0
        ? say('needs steps')
        : say('ready to film'),
    log: say('what classes taught'),
  };
  return (
    <div className={css.rail} data-testid="rail">
      <nav data-tour="stations" aria-label={say('Stations')}>
        {stations.map((station, i) => (
          <NavLink
            key={station}
            to={station}
            className={css.railStation}
            title={ready[station]}
            aria-keyshortcuts={String(i + 1)}
          >
            <b>{words.stations[station]}</b>
            <span>{ready[station]}</span>
          </NavLink>
        ))}
      </nav>
      <section className={css.railFoot} aria-label={words.lesson.foot}>
        <p className={css.railKeys}>
          <Button type="text" size="small" onClick={onFind} aria-keyshortcuts="/">
            {words.lesson.find} <kbd>/</kbd>
          </Button>
          <LinkKey type="text" size="small" to={`/lesson/${id}/read`}>
            {words.lesson.read}
          </LinkKey>
          <Button type="text" size="small" onClick={onVersions}>
            {historyWords.open}
          </Button>
          <Button type="text" size="small" onClick={onKeys} aria-keyshortcuts="?">
            {words.lesson.keys} <kbd>?</kbd>
          </Button>
        </p>
      </section>
    </div>
  );
}

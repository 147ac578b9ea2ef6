import type { ShownFinding } from '@viaticum/core/check';
import { Badge, Button } from 'antd';
import { clsx } from 'clsx';
import { words } from '../words/words.js';
import css from './beside.module.css';
import { useView } from './context.js';
import { FindingKeys } from './finding.js';
import { openOf, useFindings } from './use-findings.js';

/** What to know about this lesson: shut, a count with the worst of it; open, findings as sentences with their reason and a fix. */
export function Beside({ isOpen, onOpen }: { isOpen: boolean; onOpen: (isOpen: boolean) => void }) {
  const found = useFindings();
  if (!isOpen) {
    const open = openOf(found);
    const serious = open.filter((one) => one.serious).length;
    return (
      <aside className={css.besideEdge} data-tour="knowing" aria-label={words.lesson.beside}>
        <Button
          type="text"
          className="plain"
          aria-expanded={false}
          aria-keyshortcuts="W"
          aria-label={`${words.lesson.beside}: ${serious > 0 ? `${serious} ` : ''}${words.lesson.besideOpen(serious, open.length - serious)}`}
          onClick={() => onOpen(true)}
        >
          {serious > 0 && <Badge count={serious} />}
          <span className={css.besideCount}>{words.lesson.besideOpen(serious, open.length - serious)}</span>
        </Button>
      </aside>
    );
  }
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard
    <aside className={css.beside} data-testid="beside" data-tour="knowing" aria-label={words.lesson.beside} tabIndex={0}>
      <header className={css.besideHead}>
        <h2 className={css.besideTitle}>{words.lesson.beside}</h2>
        <Button type="text" size="small" aria-keyshortcuts="W" onClick={() => onOpen(false)}>
          {words.lesson.close} <kbd>W</kbd>
        </Button>
      </header>
      {found.length === 0 && <p className="quiet">{words.lesson.nothing}</p>}
      <ul>
        {found.map((finding) => (
          <Finding key={finding.id} finding={finding} />
        ))}
      </ul>
    </aside>
  );
}

function Finding({ finding }: { finding: ShownFinding }) {
  const view = useView();
  const isAside = finding.setAside !== undefined;
  const { stepId, areaId } = finding.place;
  const isShown = (stepId === undefined || stepId === view.stepId) && (areaId === undefined || areaId === view.areaId);
  const show = () => {
    if (stepId) view.selectStep(stepId);
    if (areaId) view.selectArea(areaId);
  };
  return (
    <li
      className={clsx('finding', finding.serious && !isAside && 'serious', isAside && 'aside')}
      data-testid="finding"
      data-serious={(finding.serious && !isAside) || undefined}
      // Only where the pointer comes to read: not when the list changes beneath it, nor while something is dragged over.
      onPointerMove={(event) => event.buttons === 0 && (event.movementX !== 0 || event.movementY !== 0) && !isShown && show()}
      onFocus={show}
    >
      <h3>{finding.about}</h3>
      <p>{finding.words}</p>
      <p className="quiet small">{isAside ? words.lesson.asideBecause(finding.setAside as string) : finding.reason}</p>
      <FindingKeys finding={finding} />
    </li>
  );
}

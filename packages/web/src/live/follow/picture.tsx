import type { FollowSheet, PlanItem, SheetStep } from '@viaticum/contract';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { Closer } from '../../ui/closer.js';
import { layersAt } from '../../ui/stage-layers.js';
import { closerWords } from '../../words/closer.js';
import { followWords as w } from '../../words/follow.js';
import type { LiveSnapshot } from '../connection.js';
import { doneAt, Painted } from '../painted.js';
import followCss from './follow.module.css';
import css from './picture.module.css';

type View = keyof typeof w.views;

/** The canvas as it should look after this step: pressed and held as before it; squinted, as its tracing, or from a distance. */
export function Picture({
  item,
  step,
  sheet,
  live,
}: {
  item: PlanItem;
  step: SheetStep;
  sheet: FollowSheet;
  live: LiveSnapshot;
}) {
  const { plan } = live.state;
  const [isBefore, setBefore] = useState(false);
  const [view, setView] = useState<View>('stage');
  if (!plan) return null;
  const layers = layersAt(sheet, plan, isBefore ? item.startMin : item.endMin);
  return (
    <div className={followCss.followLookAt}>
      <figure
        className={clsx(followCss.followCanvas, followCss[view])}
        onPointerDown={() => setBefore(true)}
        onPointerUp={() => setBefore(false)}
        onPointerLeave={() => setBefore(false)}
        onPointerCancel={() => setBefore(false)}
        onContextMenu={(event) => event.preventDefault()}
      >
        <Closer
          keys={({ seen, showWhole }) =>
            seen.scale > 1 && (
              <Button className={css.followWhole} onClick={showWhole}>
                {closerWords.whole}
              </Button>
            )
          }
        >
          {view === 'tracing' ? (
            <Tracing sheet={sheet} label={w.views.tracing} />
          ) : (
            <Painted
              sheet={sheet}
              done={doneAt(plan, plan.items.indexOf(item), !isBefore)}
              layers={layers}
              label={isBefore ? w.before : step.title}
              shownPx={300}
            />
          )}
        </Closer>
        {view === 'stage' && (
          <Button
            type="text"
            className={clsx('plain', css.followBefore)}
            aria-pressed={isBefore}
            onKeyDown={(event) => event.key === ' ' && setBefore(true)}
            onKeyUp={() => setBefore(false)}
          >
            {isBefore ? w.before : w.press}
          </Button>
        )}
        {view === 'back' && <figcaption>{w.backAbout}</figcaption>}
      </figure>
      <fieldset className={css.followViews}>
        <legend>{w.viewLabel}</legend>
        {(Object.entries(w.views) as [View, string][]).map(([one, label]) => (
          <Button type="text" className="plain" key={one} aria-pressed={view === one} onClick={() => setView(one)}>
            {label}
          </Button>
        ))}
      </fieldset>
    </div>
  );
}

/** The lines of the tracing alone, on white. */
function Tracing({ sheet, label }: { sheet: FollowSheet; label: string }) {
  const { widthMm, heightMm } = sheet.canvas;
  return (
    <svg viewBox={`0 0 ${widthMm} ${heightMm}`} role="img" aria-label={label}>
      <rect width={widthMm} height={heightMm} fill="var(--grey-99)" />
      {sheet.areas.map((area) => (
        <path key={area.id} d={area.path} fill="none" stroke="var(--grey-12)" strokeWidth={widthMm / 220} />
      ))}
    </svg>
  );
}

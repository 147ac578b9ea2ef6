import type { Lesson } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { Radio, Spin } from 'antd';
import type { ReactNode } from 'react';
import { useBlobUrl } from '../lesson/laid.js';
import { beginWords as w } from '../words/begin.js';
import type { PictureJobs } from '../workers/picture-jobs.js';
import { type Fit, fits } from './fits.js';
import css from './fits-page.module.css';

type Drafted = PictureJobs['fit']['answer'];

/** The same picture as a shorter, the fitting and a longer lesson: how each would end, and what it takes. One is chosen. */
export function FitsPage({
  drafted,
  wanted,
  chosen,
  support: { widthMm, heightMm },
  onChoose,
  children,
}: {
  drafted: Partial<Record<Fit, Drafted>>;
  /** The minutes asked for of each. */
  wanted: Record<Fit, number>;
  chosen: Fit;
  support: { widthMm: number; heightMm: number };
  onChoose: (fit: Fit) => void;
  children: ReactNode;
}) {
  return (
    <div className={css.fits}>
      <p className="quiet small">{w.fits.about}</p>
      <Radio.Group
        className={css.group}
        aria-label={w.pages.fits}
        value={chosen}
        onChange={(event) => onChoose(event.target.value as Fit)}
      >
        {fits.map((fit) => (
          <div key={fit} className={css.fit} data-testid={`fit-${fit}`}>
            <Radio value={fit} disabled={!drafted[fit]}>
              <b>{w.fits.names[fit]}</b> <span className="quiet numbers">{w.fits.asked(minutesInWords(wanted[fit]))}</span>
            </Radio>
            <Picture of={drafted[fit]} name={w.fits.names[fit]} ratio={widthMm / heightMm} />
            {drafted[fit] && <Facts drafted={drafted[fit]} />}
          </div>
        ))}
      </Radio.Group>
      {children}
    </div>
  );
}

function Picture({ of, name, ratio }: { of: Drafted | undefined; name: string; ratio: number }) {
  const url = useBlobUrl(of?.image ?? null);
  return (
    <div className={css.picture} style={{ aspectRatio: String(ratio) }}>
      {url ? <img src={url} alt={w.fits.picture(name)} /> : <Spin aria-label={w.fits.drafting(name)} />}
    </div>
  );
}

const counted = (lesson: Lesson) => ({
  steps: lesson.steps.length,
  mixes: lesson.mixes.length,
  tubes: lesson.tubes.length,
});

function Facts({ drafted: { lesson, endMin, heldMin } }: { drafted: Drafted }) {
  const { steps, mixes, tubes } = counted(lesson);
  return (
    <dl className={css.facts}>
      <div className={css.length}>
        <dt>{w.fits.lasts}</dt>
        <dd className="numbers">{minutesInWords(endMin)}</dd>
      </div>
      <div>
        <dt>{w.fits.waits}</dt>
        <dd className="numbers">{heldMin < 1 ? w.fits.none : minutesInWords(heldMin)}</dd>
      </div>
      <div>
        <dt>{w.fits.steps}</dt>
        <dd className="numbers">{steps}</dd>
      </div>
      <div>
        <dt>{w.fits.mixes}</dt>
        <dd className="numbers">{w.fits.from(mixes, tubes)}</dd>
      </div>
    </dl>
  );
}

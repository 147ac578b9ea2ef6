import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import { followWords as w } from '../../words/follow.js';
import followCss from './follow.module.css';
import css from './resting.module.css';

/** A screen on which nothing is asked: before the start, after the end. */
export function Resting({
  title,
  about,
  more,
  lost = false,
  children,
}: {
  title: string;
  about: string;
  more?: string;
  lost?: boolean;
  children?: ReactNode;
}) {
  return (
    <main className={clsx(followCss.followPage, css.followRest)} data-testid="follow-page">
      {more && <p className="quiet">{more}</p>}
      <h1>{title}</h1>
      <p>{about}</p>
      {lost && (
        <p className={followCss.followLost} role="status">
          {w.lost}
        </p>
      )}
      {children}
    </main>
  );
}

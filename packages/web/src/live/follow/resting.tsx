import type { ReactNode } from 'react';
import { followWords as w } from '../../words/follow.js';

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
    <main className="follow-page follow-rest">
      {more && <p className="quiet">{more}</p>}
      <h1>{title}</h1>
      <p>{about}</p>
      {lost && (
        <p className="follow-lost" role="status">
          {w.lost}
        </p>
      )}
      {children}
    </main>
  );
}

import type { ReactNode } from 'react';

/** What the server works out of the classes of a lesson: what it is about, then it; or that it is worked on, or why it is not there. */
export function WorkedOut({
  words: w,
  error,
  isThere,
  children,
}: {
  words: { title: string; about: string; working: string };
  error: Error | null;
  isThere: boolean;
  children: ReactNode;
}) {
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p className="quiet">{w.about}</p>
      {error && (
        <p className="signal" role="alert">
          {error.message}
        </p>
      )}
      {!isThere && !error && <p className="quiet">{w.working}</p>}
      {children}
    </section>
  );
}

import { useRouteError } from 'react-router';
import { words } from '../words/words.js';

/** What is shown when a view throws: calm, with a way back. */
export function ErrorView() {
  const error = useRouteError();
  const message = error instanceof Error ? error.message : '';
  return (
    <main style={{ maxWidth: 520, margin: '12vh auto', padding: 24 }}>
      <h1>{words.error.title}</h1>
      <p>{words.error.about}</p>
      {message && <p className="quiet small">{message}</p>}
      <p style={{ display: 'flex', gap: 10, marginTop: 20 }}>
        <a className="key main" href="/">
          {words.lesson.shelf}
        </a>
        <button type="button" className="key" onClick={() => location.reload()}>
          {words.error.again}
        </button>
      </p>
    </main>
  );
}

import { Button } from 'antd';
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
        <Button type="primary" href="/">
          {words.lesson.shelf}
        </Button>
        <Button onClick={() => location.reload()}>{words.error.again}</Button>
      </p>
    </main>
  );
}

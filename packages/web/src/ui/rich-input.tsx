import { lazy, Suspense } from 'react';
import type { RichField } from './rich-editor.js';
import { RichText } from './rich-text.js';

const RichEditor = lazy(() => import('./rich-editor.js'));

/** Words to write, with bold and lists. Until the editor has come, they are there to read. */
export function RichInput(field: RichField) {
  return (
    <Suspense
      fallback={
        <div className="field">
          <span>{field.label}</span>
          <div>
            <RichText text={field.value} />
          </div>
        </div>
      }
    >
      <RichEditor {...field} />
    </Suspense>
  );
}

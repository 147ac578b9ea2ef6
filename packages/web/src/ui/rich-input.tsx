import { lazy, Suspense } from 'react';
import { RichText } from './rich-text.js';

export type RichField = {
  label: string;
  value: string;
  rows: number;
  onCommit: (text: string, burst: string) => unknown;
};
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

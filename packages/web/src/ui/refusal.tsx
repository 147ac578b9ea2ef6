import { createContext, useContext, useState } from 'react';

/** Where the sentence of the last refused change is; taking it means that it is shown here and nowhere else. */
export const RefusalContext = createContext<{ take: () => string | null } | null>(null);

/**
 * For a field whose value may be refused: `attempt` makes a change and says whether it was taken; the sentence of one that was not stands in
 * `sentence` until the next attempt.
 */
export function useRefusal() {
  const source = useContext(RefusalContext);
  const [sentence, setSentence] = useState<string | null>(null);
  const attempt = (change: () => boolean): boolean => {
    const isTaken = change();
    setSentence(isTaken ? null : (source?.take() ?? null));
    return isTaken;
  };
  return { sentence, attempt };
}

/** What is wrong with what was entered and what to do, under the field itself. */
export function Refused({ id, sentence }: { id: string; sentence: string | null }) {
  if (sentence === null) return null;
  return (
    <span id={id} className="field-fault signal small" role="alert">
      {sentence}
    </span>
  );
}

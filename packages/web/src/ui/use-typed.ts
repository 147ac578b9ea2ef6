import { useEffect, useRef, useState } from 'react';
import { useLatest } from './use-latest.js';

/** A text that is being typed takes effect when the typing rests for so long. */
const REST_MS = 800;
let bursts = 0;

/**
 * A text field's value while it is typed in: it takes effect when typing rests for a moment, and at the latest when the field is left.
 * `burst` is the same for all that is typed in one go, so that it is taken back as one.
 */
export function useTyped(value: string, commit: (text: string, burst: string, isLeaving: boolean) => unknown) {
  const [typed, setTyped] = useState<{ text: string; burst: string } | null>(null);
  const latest = useLatest({ value, commit });
  useEffect(() => {
    if (!typed) return;
    const timer = setTimeout(() => {
      if (typed.text !== latest.current.value) latest.current.commit(typed.text, typed.burst, false);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [typed, latest]);
  // A field that is left by the same key that forgets is left before it is rendered again.
  const held = useRef<typeof typed>(null);
  const set = (next: typeof typed) => {
    held.current = next;
    setTyped(next);
  };
  const type = (text: string) => set({ text, burst: typed?.burst ?? `typing-${bursts++}` });
  return {
    text: typed?.text ?? value,
    type,
    /** The field is left: what is typed takes effect now, or goes back to what it was. */
    leave(text = held.current?.text) {
      if (held.current && text !== undefined && text !== value) commit(text, held.current.burst, true);
      set(null);
    },
    /** What was typed since it was last taken is not wanted. */
    forget: () => set(null),
  };
}

import { useState } from 'react';

/** A value that this browser remembers under a key, where it lets us. */
export function useRemembered<T>(key: string, first: T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(key);
      return kept === null ? first : (JSON.parse(kept) as T);
    } catch {
      return first;
    }
  });
  return [
    value,
    (next) => {
      setValue(next);
      try {
        localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // It holds until the page is left.
      }
    },
  ];
}

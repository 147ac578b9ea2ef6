import { type RefObject, useLayoutEffect, useRef } from 'react';

/** The value of the newest render, for handlers and timers that were made in an earlier one. Not to be read while rendering. */
export function useLatest<T>(value: T): RefObject<T> {
  const latest = useRef(value);
  useLayoutEffect(() => {
    latest.current = value;
  });
  return latest;
}

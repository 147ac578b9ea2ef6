import { type RefObject, useEffect, useRef, useState } from 'react';

/** The width of an element in pixels, kept while it changes. */
export function useWidth<T extends HTMLElement>(otherwise: number): [RefObject<T | null>, number] {
  const ref = useRef<T | null>(null);
  const [width, setWidth] = useState(otherwise);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, width];
}

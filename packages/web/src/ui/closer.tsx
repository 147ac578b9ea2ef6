import { type ReactNode, useRef } from 'react';
import css from './closer.module.css';
import { useCloser } from './use-closer.js';

/** A picture that two fingers bring nearer and one moves about; `keys` stand under it, if any. */
export function Closer({ children, keys }: { children: ReactNode; keys: (closer: ReturnType<typeof useCloser>) => ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const closer = useCloser(frame, { drags: true });
  const { scale, left, top } = closer.seen;
  return (
    <>
      <div
        ref={frame}
        className={css.closer}
        data-scale={scale.toFixed(2)}
        // Nearer, a finger moves the picture; what a press means for the whole does not happen.
        onPointerDown={(event) => scale > 1 && event.stopPropagation()}
      >
        <div className={css.moved} style={{ transform: `scale(${scale}) translate(${-left * 100}%, ${-top * 100}%)` }}>
          {children}
        </div>
      </div>
      {keys(closer)}
    </>
  );
}

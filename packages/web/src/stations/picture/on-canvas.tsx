import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { useLesson } from '../../lesson/context.js';
import { type Handlers, PointFace } from '../../ui/point-face.js';
import { useEasel } from './easel-context.js';

/** Draws on the easel, in millimetres of the canvas. */
export function OnCanvas({ children }: { children: ReactNode }) {
  const { layer } = useEasel();
  return layer && createPortal(children, layer);
}

/** The face of the canvas on the easel as something to tap or stroke. */
export function Face(handlers: Handlers) {
  const { support } = useLesson();
  const { unit, toMm } = useEasel();
  return <PointFace {...handlers} support={support} unit={unit} toMm={toMm} />;
}

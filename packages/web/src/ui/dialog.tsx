import { type ReactNode, useEffect, useId, useRef } from 'react';
import './dialog.css';

/** A dialog on the browser's own element: focus stays inside, Escape closes it. */
export function Dialog({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const ref = useRef<HTMLDialogElement>(null);
  const id = useId();
  useEffect(() => {
    ref.current?.showModal();
  }, []);
  return (
    <dialog ref={ref} className="dialog" aria-labelledby={id} onClose={onClose}>
      <h2 id={id}>{title}</h2>
      {children}
    </dialog>
  );
}

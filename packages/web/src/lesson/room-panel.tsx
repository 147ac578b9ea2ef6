import type { Room } from '@viaticum/contract';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { words } from '../words/words.js';

const RoomFields = lazy(() => import('./room-fields.js'));

/** The room, opened from the header; every number takes effect as it is typed, so that the ribbon answers at once. */
export function RoomPanel({ room }: { room: Room }) {
  const [isOpen, setOpen] = useState(false);
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!isOpen) return;
    const away = (event: PointerEvent) => !panel.current?.contains(event.target as Node) && setOpen(false);
    const onEscape = (event: KeyboardEvent) => event.key === 'Escape' && setOpen(false);
    document.addEventListener('pointerdown', away);
    document.addEventListener('keydown', onEscape);
    return () => {
      document.removeEventListener('pointerdown', away);
      document.removeEventListener('keydown', onEscape);
    };
  }, [isOpen]);
  return (
    <div className="room" ref={panel}>
      <button
        type="button"
        className="key"
        aria-expanded={isOpen}
        aria-label={`${words.room.change}: ${words.room.button(room.name, room.airC, room.humidity)}`}
        onClick={() => setOpen(!isOpen)}
      >
        {words.room.button(room.name, room.airC, room.humidity)}
      </button>
      {isOpen && (
        <Suspense fallback={null}>
          <RoomFields room={room} />
        </Suspense>
      )}
    </div>
  );
}

import type { Room } from '@viaticum/contract';
import { useEffect, useRef, useState } from 'react';
import { words } from '../words.js';
import { useSession } from './context.js';

/** The room's air, opened from the header; every number takes effect as it is typed, so that the ribbon answers at once. */
export function RoomPanel({ room }: { room: Room }) {
  const [isOpen, setOpen] = useState(false);
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!isOpen) return;
    panel.current?.querySelector('input')?.focus();
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
        <div className="room-panel">
          <p className="small quiet">{words.room.about}</p>
          <NumberField label={words.room.air} value={room.airC} step={0.5} toRoom={(value) => ({ airC: value })} />
          <NumberField
            label={words.room.humidity}
            value={Math.round(room.humidity * 1000) / 10}
            step={1}
            toRoom={(value) => ({ humidity: value / 100 })}
          />
          <NumberField label={words.room.draught} value={room.airSpeed} step={0.05} toRoom={(value) => ({ airSpeed: value })} />
        </div>
      )}
    </div>
  );
}

function NumberField({
  label,
  value,
  step,
  toRoom,
}: {
  label: string;
  value: number;
  step: number;
  toRoom: (value: number) => Partial<Room>;
}) {
  const session = useSession();
  const [text, setText] = useState(String(value));
  const shown = Number(text) === value ? text : String(value);
  const [editing, setEditing] = useState(false);
  return (
    <label className="field">
      <span>{label}</span>
      <input
        type="number"
        step={step}
        value={editing ? text : shown}
        onFocus={() => {
          setText(String(value));
          setEditing(true);
        }}
        onBlur={() => setEditing(false)}
        onChange={(event) => {
          setText(event.target.value);
          const next = Number(event.target.value);
          if (event.target.value !== '' && Number.isFinite(next)) session.do('setRoom', { room: toRoom(next) });
        }}
      />
    </label>
  );
}

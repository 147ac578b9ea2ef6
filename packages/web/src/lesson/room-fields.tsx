import { useQuery } from '@tanstack/react-query';
import { absorbencies, type Room } from '@viaticum/contract';
import { seasons } from '@viaticum/core/advice';
import { minutesInWords, timeOfDay } from '@viaticum/core/units';
import { useEffect, useId, useRef, useState } from 'react';
import { roomsQuery, useRemoveRoom, useSaveRoom } from '../api/queries.js';
import { Refused, useRefusal } from '../ui/refusal.js';
import { words } from '../words/words.js';
import { useLesson, useSession } from './context.js';
import { RoomHours } from './room-hours.js';

const w = words.plan.room;

/** What a room is like: its air, its hours, dryers and circuits, and rooms that were saved. */
export default function RoomFields({ room }: { room: Room }) {
  const session = useSession();
  const { support } = useLesson();
  const set = (change: Partial<Room>) => session.do('setRoom', { room: change });
  const { outdoors = false, dryers, circuits } = room;
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => panel.current?.querySelector('input')?.focus(), []);
  return (
    <div className="room-panel" ref={panel}>
      <SavedRooms room={room} />
      <NumberField label={words.room.air} value={room.airC} step={0.5} onValue={(airC) => set({ airC })} />
      <NumberField
        label={words.room.humidity}
        value={Math.round(room.humidity * 1000) / 10}
        step={1}
        onValue={(value) => set({ humidity: value / 100 })}
      />
      <NumberField
        label={outdoors ? w.wind : words.room.draught}
        value={room.airSpeed}
        step={0.05}
        onValue={(airSpeed) => set({ airSpeed })}
      />
      <label className="field">
        <span>{w.season}</span>
        <select
          className="plain-input"
          value=""
          onChange={(event) => {
            const season = seasons.find((one) => one.id === event.target.value);
            if (season) set(season.air);
          }}
        >
          <option value="">{w.chooseSeason}</option>
          {seasons.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <p className="small quiet room-wide">{words.room.about}</p>
      <label className="field">
        <span>{w.ground}</span>
        <select
          className="plain-input"
          value={support.absorbency}
          onChange={(event) =>
            session.do('setSupport', { support: { absorbency: event.target.value as (typeof absorbencies)[number] } })
          }
        >
          {absorbencies.map((one) => (
            <option key={one} value={one}>
              {w.grounds[one]}
            </option>
          ))}
        </select>
      </label>
      <NumberField
        label={w.seats}
        value={room.seats}
        step={1}
        onValue={(seats) => set({ seats })}
        onClear={() => session.do('setRoom', { room: {}, clear: ['seats'] })}
      />
      <label className="room-check">
        <input
          type="checkbox"
          checked={outdoors}
          onChange={(event) =>
            event.target.checked
              ? set({ outdoors: true, airSpeed: Math.max(1, room.airSpeed), sunWPerM2: room.sunWPerM2 ?? 300 })
              : session.do('setRoom', { room: {}, clear: ['outdoors', 'sunWPerM2'] })
          }
        />{' '}
        {w.outdoors}
      </label>
      {outdoors ? (
        <NumberField label={w.sun} value={room.sunWPerM2 ?? 0} step={50} onValue={(sunWPerM2) => set({ sunWPerM2 })} />
      ) : (
        <span />
      )}
      <TimeField label={w.start} value={room.startAtMin} field="startAtMin" />
      <TimeField label={w.light} value={room.lightUntilMin} field="lightUntilMin" />
      {room.startAtMin !== undefined && room.lightUntilMin !== undefined && (
        <p className="small quiet room-wide">{w.lightHolds(minutesInWords(Math.max(0, room.lightUntilMin - room.startAtMin)))}</p>
      )}
      <NumberField
        label={w.dryers}
        value={dryers?.count ?? 0}
        step={1}
        onValue={(count) => set({ dryers: { watts: 1200, ...dryers, count } })}
      />
      <NumberField
        label={w.watts}
        value={dryers?.watts ?? 1200}
        step={100}
        onValue={(watts) => set({ dryers: { count: 0, ...dryers, watts } })}
      />
      <NumberField
        label={w.circuits}
        value={circuits?.count ?? 1}
        step={1}
        onValue={(count) => set({ circuits: { amps: 16, volts: 230, ...circuits, count } })}
      />
      <span className="room-pair">
        <NumberField
          label={w.amps}
          value={circuits?.amps ?? 16}
          step={1}
          onValue={(amps) => set({ circuits: { count: 1, volts: 230, ...circuits, amps } })}
        />
        <NumberField
          label={w.volts}
          value={circuits?.volts ?? 230}
          step={10}
          onValue={(volts) => set({ circuits: { count: 1, amps: 16, ...circuits, volts } })}
        />
      </span>
      <p className="small quiet room-wide">{w.caution}</p>
      <RoomHours room={room} />
    </div>
  );
}

/** Rooms of other lessons: taken whole, saved under their name, taken away. */
function SavedRooms({ room }: { room: Room }) {
  const session = useSession();
  const saved = useQuery(roomsQuery);
  const save = useSaveRoom();
  const remove = useRemoveRoom();
  const own = saved.data?.find((one) => one.room.name === room.name);
  return (
    <div className="room-saved room-wide">
      <label className="field">
        <span>{words.room.name}</span>
        <input
          key={room.name}
          className="plain-input"
          defaultValue={room.name}
          maxLength={120}
          onBlur={(event) => {
            if (event.target.value !== room.name && !session.do('setRoom', { room: { name: event.target.value } }))
              event.target.value = room.name;
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      <label className="field">
        <span>{w.saved}</span>
        <select
          className="plain-input"
          value=""
          onChange={(event) => {
            const chosen = saved.data?.find((one) => one.id === event.target.value);
            if (chosen) session.do('takeRoom', { room: chosen.room });
          }}
        >
          <option value="">{w.choose}</option>
          {saved.data?.map((one) => (
            <option key={one.id} value={one.id}>
              {words.room.button(one.room.name, one.room.airC, one.room.humidity)}
            </option>
          ))}
        </select>
      </label>
      <span className="room-keys">
        <button type="button" className="key" onClick={() => save.mutate(room)} disabled={save.isPending}>
          {w.save}
        </button>
        {own && (
          <button type="button" className="key bare" onClick={() => remove.mutate(own.id)}>
            {w.remove}
          </button>
        )}
        <span role="status" className="small quiet">
          {save.error?.message ?? remove.error?.message ?? (save.isSuccess && own ? w.savedNow : '')}
        </span>
      </span>
    </div>
  );
}

function TimeField({ label, value, field }: { label: string; value: number | undefined; field: 'startAtMin' | 'lightUntilMin' }) {
  const session = useSession();
  return (
    <label className="field">
      <span>{label}</span>
      <input
        className="plain-input"
        type="time"
        value={value === undefined ? '' : timeOfDay(value)}
        onChange={(event) => {
          const [hours, minutes] = event.target.value.split(':').map(Number);
          if (event.target.value === '') session.do('setRoom', { room: {}, clear: [field] });
          else session.do('setRoom', { room: { [field]: (hours ?? 0) * 60 + (minutes ?? 0) } });
        }}
      />
    </label>
  );
}

function NumberField({
  label,
  value,
  step,
  onValue,
  onClear,
}: {
  label: string;
  value: number | undefined;
  step: number;
  onValue: (value: number) => boolean;
  onClear?: () => boolean;
}) {
  // What is typed stands while the value is the one it was typed for: another room, or undo, wins over it.
  const [typed, setTyped] = useState<{ text: string; of: number | undefined } | null>(null);
  const id = useId();
  const { sentence, attempt } = useRefusal();
  return (
    <label className="field">
      <span>{label}</span>
      <input
        aria-invalid={sentence !== null || undefined}
        aria-describedby={sentence === null ? undefined : id}
        type="number"
        step={step}
        value={typed && typed.of === value ? typed.text : String(value ?? '')}
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          const text = event.target.value;
          const next = Number(text);
          const isTaken = attempt(() => (text === '' ? (onClear?.() ?? false) : Number.isFinite(next) && onValue(next)));
          setTyped({ text, of: isTaken ? (text === '' ? undefined : next) : value });
        }}
      />
      <Refused id={id} sentence={sentence} />
    </label>
  );
}

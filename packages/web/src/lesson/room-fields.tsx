import { useQuery } from '@tanstack/react-query';
import type { Room } from '@viaticum/contract';
import { seasons } from '@viaticum/core/advice';
import { degreesMeant, degreesShown, measuresNow, minutesInWords } from '@viaticum/core/units';
import { Button, Checkbox, Input, InputNumber, Select, Slider, TimePicker } from 'antd';
import dayjs from 'dayjs';
import { useId, useState } from 'react';
import { roomsQuery, useRemoveRoom, useSaveRoom } from '../api/queries.js';
import { clockFields } from '../ui/clock.js';
import { Refused, useRefusal } from '../ui/refusal.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import css from './room-fields.module.css';
import { RoomHours } from './room-hours.js';
import workbenchCss from './workbench.module.css';

const w = words.plan.room;

/** What a room is like: its air, its hours, dryers and circuits, and rooms that were saved. */
export default function RoomFields({ room }: { room: Room }) {
  const session = useSession();
  const set = (change: Partial<Room>) => session.do('setRoom', { room: change });
  const { outdoors = false } = room;
  return (
    <div className={css.roomFields}>
      <SavedRooms room={room} />
      <h3>{words.room.groups.air}</h3>
      <AirFields room={room} set={set} />
      <Checkbox
        checked={outdoors}
        onChange={(event) =>
          event.target.checked
            ? set({ outdoors: true, airSpeed: Math.max(1, room.airSpeed), sunWPerM2: room.sunWPerM2 ?? 300 })
            : session.do('setRoom', { room: {}, clear: ['outdoors', 'sunWPerM2'] })
        }
      >
        {w.outdoors}
      </Checkbox>
      {outdoors && <NumberField label={w.sun} value={room.sunWPerM2 ?? 0} onValue={(sunWPerM2) => set({ sunWPerM2 })} />}
      <h3>{words.room.groups.hours}</h3>
      <div className={css.roomRow}>
        <NumberField
          label={w.seats}
          value={room.seats}
          onValue={(seats) => set({ seats })}
          onClear={() => session.do('setRoom', { room: {}, clear: ['seats'] })}
        />
        <TimeField label={w.start} value={room.startAtMin} field="startAtMin" />
        <TimeField label={w.light} value={room.lightUntilMin} field="lightUntilMin" />
      </div>
      {room.startAtMin !== undefined && room.lightUntilMin !== undefined && (
        <p className="small quiet">{w.lightHolds(minutesInWords(Math.max(0, room.lightUntilMin - room.startAtMin)))}</p>
      )}
      <h3>{words.room.groups.dryers}</h3>
      <Dryers room={room} set={set} />
      <RoomHours room={room} />
    </div>
  );
}

type SetRoom = (change: Partial<Room>) => boolean;

/** The three numbers that every drying time follows from: turned or typed. */
function AirFields({ room, set }: { room: Room; set: SetRoom }) {
  const { outdoors = false } = room;
  return (
    <>
      <TurnedNumber
        label={words.room.air}
        value={degreesShown(room.airC)}
        least={degreesShown(5)}
        most={degreesShown(40)}
        step={measuresNow().temperature === 'F' ? 1 : 0.5}
        onValue={(degrees) => set({ airC: degreesMeant(degrees) })}
      />
      <TurnedNumber
        label={words.room.humidity}
        value={Math.round(room.humidity * 1000) / 10}
        least={10}
        most={95}
        step={1}
        onValue={(value) => set({ humidity: value / 100 })}
      />
      <TurnedNumber
        label={outdoors ? w.wind : words.room.draught}
        value={room.airSpeed}
        least={0}
        most={outdoors ? 10 : 2}
        step={0.05}
        onValue={(airSpeed) => set({ airSpeed })}
      />
      <p className="small quiet">{words.room.about}</p>
      <div className={css.roomTurn}>
        <span>{w.season}</span>
        <Select
          aria-label={w.season}
          value={seasons.find((one) => one.air.airC === room.airC && one.air.humidity === room.humidity)?.id ?? null}
          placeholder={w.chooseSeason}
          options={seasons.map((one) => ({ value: one.id, label: one.name }))}
          onChange={(given) => {
            const season = seasons.find((one) => one.id === given);
            if (season) set(season.air);
          }}
        />
      </div>
    </>
  );
}

function TurnedNumber({
  label,
  value,
  least,
  most,
  step,
  onValue,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  onValue: (value: number) => boolean;
}) {
  return (
    <div className={css.roomTurn}>
      <span>{label}</span>
      <Slider
        ariaLabelForHandle={`${label}, ${words.room.turned}`}
        min={least}
        max={most}
        step={step}
        value={value}
        onChange={(next) => onValue(next)}
      />
      <NumberField label={label} isBare value={value} onValue={onValue} />
    </div>
  );
}

function Dryers({ room: { dryers, circuits }, set }: { room: Room; set: SetRoom }) {
  return (
    <>
      <div className={css.roomRow}>
        <NumberField
          label={w.dryers}
          value={dryers?.count ?? 0}
          onValue={(count) => set({ dryers: { watts: 1200, ...dryers, count } })}
        />
        <NumberField
          label={w.watts}
          value={dryers?.watts ?? 1200}
          onValue={(watts) => set({ dryers: { count: 0, ...dryers, watts } })}
        />
      </div>
      <div className={css.roomRow}>
        <NumberField
          label={w.circuits}
          value={circuits?.count ?? 1}
          onValue={(count) => set({ circuits: { amps: 16, volts: 230, ...circuits, count } })}
        />
        <NumberField
          label={w.amps}
          value={circuits?.amps ?? 16}
          onValue={(amps) => set({ circuits: { count: 1, volts: 230, ...circuits, amps } })}
        />
        <NumberField
          label={w.volts}
          value={circuits?.volts ?? 230}
          onValue={(volts) => set({ circuits: { count: 1, amps: 16, ...circuits, volts } })}
        />
      </div>
      <p className="small quiet">{w.caution}</p>
    </>
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
    <div className={workbenchCss.roomSaved}>
      <label className="field">
        <span>{words.room.name}</span>
        <Input
          key={room.name}
          defaultValue={room.name}
          maxLength={120}
          onBlur={(event) => {
            if (event.target.value !== room.name && !session.do('setRoom', { room: { name: event.target.value } }))
              event.target.value = room.name;
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      <div className="field">
        <span>{w.saved}</span>
        <Select
          aria-label={w.saved}
          value=""
          onChange={(given) => {
            const chosen = saved.data?.find((one) => one.id === given);
            if (chosen) session.do('takeRoom', { room: chosen.room });
          }}
          options={[
            { value: '', label: w.choose },
            ...(saved.data?.map((one) => ({
              value: one.id,
              label: words.room.button(one.room.name, one.room.airC, one.room.humidity),
            })) ?? []),
          ]}
        />
      </div>
      <span className={workbenchCss.roomKeys}>
        <Button onClick={() => save.mutate(room)} disabled={save.isPending}>
          {w.save}
        </Button>
        {own && (
          <Button type="text" onClick={() => remove.mutate(own.id)}>
            {w.remove}
          </Button>
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
    <div className="field">
      <span>{label}</span>
      <TimePicker
        aria-label={label}
        {...clockFields()}
        placeholder={w.anyTime}
        minuteStep={5}
        needConfirm={false}
        value={value === undefined ? null : dayjs().startOf('day').add(value, 'minute')}
        onChange={(time) =>
          time
            ? session.do('setRoom', { room: { [field]: time.hour() * 60 + time.minute() } })
            : session.do('setRoom', { room: {}, clear: [field] })
        }
      />
    </div>
  );
}

function NumberField({
  label,
  value,
  onValue,
  onClear,
  isBare = false,
}: {
  label: string;
  value: number | undefined;
  /** Its name stands elsewhere. */
  isBare?: boolean;
  onValue: (value: number) => boolean;
  onClear?: () => boolean;
}) {
  // What is typed stands while the value is the one it was typed for: another room, or undo, wins over it.
  const [typed, setTyped] = useState<{ number: number | null; of: number | undefined } | null>(null);
  const id = useId();
  const { sentence, attempt } = useRefusal();
  return (
    <div className="field">
      {!isBare && <span>{label}</span>}
      <InputNumber
        aria-label={label}
        aria-invalid={sentence !== null || undefined}
        aria-describedby={sentence === null ? undefined : id}
        controls={false}
        value={typed && typed.of === value ? typed.number : (value ?? null)}
        onBlur={() => setTyped(null)}
        onChange={(number) => {
          const isTaken = attempt(() => (number === null ? (onClear?.() ?? false) : onValue(number)));
          setTyped({ number, of: isTaken ? (number ?? undefined) : value });
        }}
      />
      <Refused id={id} sentence={sentence} />
    </div>
  );
}

import type { Room } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { Climate } from '@viaticum/core/format';
import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { FileKey } from '../ui/file-key.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import css from './room-hours.module.css';
import workbenchCss from './workbench.module.css';

const w = words.plan.room;
const hourName = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, '0')}:00`;
const LARGEST_FILE = 20 * 1024 * 1024;

/** The room's air by the hour: typed or read from a log, and one of its hours taken as the air to plan with. */
export function RoomHours({ room }: { room: Room }) {
  const session = useSession();
  const [typed, setTyped] = useState('');
  const [read, setRead] = useState<Climate | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const take = async (text: string) => {
    try {
      const { readClimate } = await import('@viaticum/core/format');
      const climate = readClimate(text);
      if (!session.do('setRoom', { room: { hours: climate.hours } })) return;
      setRead(climate);
      setFault(null);
    } catch (error) {
      setRead(null);
      setFault((error as Error).message);
    }
  };
  const open = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST_FILE) setFault(say('This log is larger than 20 MB. Cut it to the days you need.'));
    else await take(await file.text());
  };
  return (
    <div className={css.roomHours}>
      <h3>{w.hours}</h3>
      <p className="small quiet">{w.hoursAbout}</p>
      <Input.TextArea
        rows={3}
        aria-label={w.hours}
        placeholder={'10:00 18 62\n14:00 24 41'}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <div className={workbenchCss.roomKeys}>
        <Button disabled={typed.trim() === ''} onClick={() => void take(typed.replace(/[ \t]+/g, '\t'))}>
          {w.readHours}
        </Button>
        <FileKey size="middle" label={w.csv} accept=".csv,text/csv,text/plain" onFile={(file) => void open(file)} />
      </div>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {read && (
        <p role="status" className="small">
          {w.read(read.readings, read.hours.length)} {read.skipped > 0 && w.skipped(read.skipped, read.firstFault ?? '')}{' '}
          {read.gaps.length > 0 && w.gaps(read.gaps.map((hour) => hourName(hour * 60)).join(', '))}
        </p>
      )}
      {room.hours && room.hours.length > 0 && (
        <p className={workbenchCss.roomKeys}>
          <Select<number>
            aria-label={w.at}
            placeholder={w.at}
            value={null}
            onChange={(at) => {
              const hour = room.hours?.[at];
              if (!hour) return;
              const { atMin: _, ...air } = hour;
              session.do('setRoom', { room: air });
            }}
            options={room.hours.map((hour, i) => ({
              value: i,
              label: `${hourName(hour.atMin)}: ${hour.airC} °C, ${Math.round(hour.humidity * 100)} %`,
            }))}
          />
          <Button type="text" onClick={() => session.do('setRoom', { room: {}, clear: ['hours'] })}>
            {w.forget}
          </Button>
        </p>
      )}
    </div>
  );
}

import { Button } from 'antd';
import { deskWords as w } from '../../words/desk.js';
import type { DeskParts } from './parts.js';

/** Who wants to come in and needs the instructor's yes: more than were planned, or after somebody was taken out. */
export function Door({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  if (live.door.length === 0) return null;
  const ids = live.door.map((one) => one.id);
  const names = live.door.map((one) => one.firstName);
  return (
    <div className="desk-lost desk-door" role="status">
      <span>
        {w.door.wants(names)} {live.door.some((one) => one.why === 'taken-out') ? w.door.takenOut : w.door.more}
      </span>
      <span className="desk-door-keys">
        <Button type="primary" onClick={() => connection.admit(ids, true)}>
          {w.door.yes(names.length)}
        </Button>
        <Button onClick={() => connection.admit(ids, false)}>{w.door.no}</Button>
      </span>
    </div>
  );
}

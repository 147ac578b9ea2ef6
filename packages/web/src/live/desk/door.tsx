import { Button } from 'antd';
import { clsx } from 'clsx';
import { deskWords as w } from '../../words/desk.js';
import deskCss from './desk.module.css';
import css from './door.module.css';
import type { DeskParts } from './parts.js';

/** Who wants to come in and needs the instructor's yes: more than were planned, or after somebody was taken out. */
export function Door({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  if (live.door.length === 0) return null;
  const ids = live.door.map((one) => one.id);
  const names = live.door.map((one) => one.firstName);
  return (
    <div className={clsx(deskCss.deskLost, css.deskDoor)} role="status">
      <span>
        {w.door.wants(names)} {live.door.some((one) => one.why === 'taken-out') ? w.door.takenOut : w.door.more}
      </span>
      <span className={css.deskDoorKeys}>
        <Button type="primary" onClick={() => connection.admit(ids, true)}>
          {w.door.yes(names.length)}
        </Button>
        <Button onClick={() => connection.admit(ids, false)}>{w.door.no}</Button>
      </span>
    </div>
  );
}

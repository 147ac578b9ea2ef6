import { Button } from 'antd';
import { clsx } from 'clsx';
import { deskWords as w } from '../../words/desk.js';
import { words } from '../../words/words.js';
import deskCss from './desk.module.css';
import type { DeskParts } from './parts.js';

/** What is wrong, calmly: no connection, or something that was refused. */
export function Trouble({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  return (
    <>
      {!live.online && !live.ended && (
        <p className={deskCss.deskLost} role="status">
          {w.lost}
        </p>
      )}
      {live.ended && (
        <p className={deskCss.deskLost} role="alert">
          {live.ended}
        </p>
      )}
      {live.storage && (
        <p className={deskCss.deskLost} role="alert">
          {live.storage}
        </p>
      )}
      {live.refusal && (
        <p className={deskCss.deskLost} role="alert">
          {live.refusal}
          <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={connection.clearRefusal}>
            {words.lesson.close}
          </Button>
        </p>
      )}
    </>
  );
}

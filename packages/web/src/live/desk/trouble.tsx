import { Button } from 'antd';
import { deskWords as w } from '../../words/desk.js';
import { words } from '../../words/words.js';
import type { DeskParts } from './parts.js';

/** What is wrong, calmly: no connection, or something that was refused. */
export function Trouble({ connection, live }: Pick<DeskParts, 'connection' | 'live'>) {
  return (
    <>
      {!live.online && !live.ended && (
        <p className="desk-lost" role="status">
          {w.lost}
        </p>
      )}
      {live.ended && (
        <p className="desk-lost" role="alert">
          {live.ended}
        </p>
      )}
      {live.storage && (
        <p className="desk-lost" role="alert">
          {live.storage}
        </p>
      )}
      {live.refusal && (
        <p className="desk-lost" role="alert">
          {live.refusal}
          <Button type="text" className="plain desk-key small" onClick={connection.clearRefusal}>
            {words.lesson.close}
          </Button>
        </p>
      )}
    </>
  );
}

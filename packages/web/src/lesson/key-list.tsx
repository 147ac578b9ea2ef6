import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { Dialog } from '../ui/dialog.js';
import { exactFiguresOn, setExactFigures } from '../words/exact.js';
import { words } from '../words/words.js';
import { setSingleKeys, singleKeysOn } from './keys.js';

export function KeyList({ onClose }: { onClose: () => void }) {
  const [on, setOn] = useState(singleKeysOn());
  const [exact, setExact] = useState(exactFiguresOn());
  return (
    <Dialog title={words.lesson.keysTitle} onClose={onClose}>
      <dl className="key-list">
        {words.keyList.map(([keys, what]) => (
          <div key={keys}>
            <dt>{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <p>
        <Checkbox
          checked={on}
          onChange={(event) => {
            setSingleKeys(event.target.checked);
            setOn(event.target.checked);
          }}
        >
          {words.lesson.singleKeys}
        </Checkbox>
      </p>
      <p>
        <Checkbox
          checked={exact}
          onChange={(event) => {
            setExactFigures(event.target.checked);
            setExact(event.target.checked);
          }}
        >
          {words.lesson.exactFigures}
        </Checkbox>
      </p>
      <Button onClick={onClose}>{words.lesson.close}</Button>
    </Dialog>
  );
}

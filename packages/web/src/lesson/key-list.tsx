import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { Dialog } from '../ui/dialog.js';
import { exactFiguresOn, setExactFigures } from '../words/exact.js';
import { words } from '../words/words.js';
import css from './key-list.module.css';
import { setSingleKeys, singleKeysOn } from './keys.js';

export function KeyList({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title={words.lesson.keysTitle} onClose={onClose}>
      <dl className={css.keyList}>
        {words.keyList.map(([keys, what]) => (
          <div key={keys}>
            <dt>{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <Setting said={words.lesson.singleKeys} first={singleKeysOn()} onSet={setSingleKeys} />
      <Setting said={words.lesson.exactFigures} first={exactFiguresOn()} onSet={setExactFigures} />
      <Button onClick={onClose}>{words.lesson.close}</Button>
    </Dialog>
  );
}

/** What this browser is set to. */
function Setting({ said, first, onSet }: { said: string; first: boolean; onSet: (isOn: boolean) => void }) {
  const [isOn, setOn] = useState(first);
  return (
    <p>
      <Checkbox
        checked={isOn}
        onChange={({ target }) => {
          onSet(target.checked);
          setOn(target.checked);
        }}
      >
        {said}
      </Checkbox>
    </p>
  );
}

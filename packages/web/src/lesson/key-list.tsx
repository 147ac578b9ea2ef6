import { useState } from 'react';
import { Dialog } from '../ui/dialog.js';
import { words } from '../words/words.js';
import { setSingleKeys, singleKeysOn } from './keys.js';

export function KeyList({ onClose }: { onClose: () => void }) {
  const [on, setOn] = useState(singleKeysOn());
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
        <label>
          <input
            type="checkbox"
            checked={on}
            onChange={(event) => {
              setSingleKeys(event.target.checked);
              setOn(event.target.checked);
            }}
          />{' '}
          {words.lesson.singleKeys}
        </label>
      </p>
      <button type="button" className="key" onClick={onClose}>
        {words.lesson.close}
      </button>
    </Dialog>
  );
}

import { Button } from 'antd';
import { Dialog } from '../ui/dialog.js';
import { Setting } from '../ui/setting.js';
import { setSingleKeys, singleKeysOn } from '../ui/single-keys.js';
import { exactFiguresOn, setExactFigures } from '../words/exact.js';
import { words } from '../words/words.js';
import css from './key-list.module.css';

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

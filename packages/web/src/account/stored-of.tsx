import type { StoredOfPerson } from '@viaticum/contract';
import { App, Button, Popconfirm } from 'antd';
import { call } from '../api/http.js';
import { saveFile } from '../ui/save-file.js';
import { privacyWords as w } from '../words/privacy.js';
import css from './account.module.css';

/** Somebody's right to what is stored of them: saved as a file, and erased. `at`: where both are asked for. */
export function StoredOf({ name, at, ask, onErased }: { name: string; at: string; ask: string; onErased: () => unknown }) {
  const { message } = App.useApp();
  const failed = (fault: Error) => void message.error(fault.message);
  const give = () =>
    call<StoredOfPerson>('GET', `${at}/stored`).then(
      (stored) => saveFile(w.file(name), new Blob([JSON.stringify(stored, null, 2)], { type: 'application/json' })),
      failed,
    );
  const erase = () =>
    call('DELETE', at).then(() => {
      void message.success(w.erased(name));
      onErased();
    }, failed);
  return (
    <span className={css.keys}>
      <Button size="small" aria-label={w.giveOf(name)} onClick={() => void give()}>
        {w.give}
      </Button>
      <Popconfirm title={ask} okText={w.erase} onConfirm={erase} styles={{ root: { maxWidth: 340 } }}>
        <Button size="small" aria-label={w.eraseOf(name)}>
          {w.erase}
        </Button>
      </Popconfirm>
    </span>
  );
}

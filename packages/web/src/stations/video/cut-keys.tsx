import { Button, Input, Popover, Segmented } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { filmWords } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.length;

/** Another cut beside those there are. */
export function NewCut({ onMade }: { onMade: (id: string) => void }) {
  const session = useSession();
  const [isShort, setShort] = useState(false);
  const add = () => {
    const id = nanoid(8);
    if (session.do('addCut', { cut: { id, name: w.newName, ...(isShort && { isShort: true as const, lengthSec: 120 }) } }))
      onMade(id);
  };
  return (
    <Popover
      trigger="click"
      content={
        <div className={css.fields}>
          <Segmented
            value={isShort ? 'short' : 'whole'}
            options={[
              { value: 'whole', label: w.kinds.whole },
              { value: 'short', label: w.kinds.short },
            ]}
            onChange={(kind) => setShort(kind === 'short')}
          />
          <Button onClick={add}>{w.add}</Button>
        </div>
      }
    >
      <Button>{w.add}</Button>
    </Popover>
  );
}

/** The cut's name, and taking it away. */
export function EditCut({ film: { cut, cuts } }: { film: Filmed }) {
  const session = useSession();
  return (
    <>
      <Input
        aria-label={w.rename}
        key={`${cut.id} ${cut.name}`}
        defaultValue={cut.name}
        style={{ width: 150 }}
        onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
        onBlur={({ target }) => {
          if (target.value.trim() !== cut.name) session.do('editCut', { id: cut.id, cut: { name: target.value } });
        }}
      />
      {cuts.length > 1 && <Button onClick={() => session.do('removeCut', { id: cut.id })}>{w.remove}</Button>}
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import type { BinnedLesson } from '@viaticum/contract';
import { App, Button, Drawer } from 'antd';
import { call } from '../api/http.js';
import { momentWords } from '../ui/moment.js';
import { words } from '../words/words.js';
import css from './shelf.module.css';

const DRAWER_PX = 460;

/** What was deleted in the last thirty days, each with the way back to the shelf. */
export function Bin({ restore, onClose }: { restore: (id: string) => Promise<unknown>; onClose: () => void }) {
  const { data, error, refetch } = useQuery({
    queryKey: ['bin'],
    queryFn: () => call<BinnedLesson[]>('GET', '/api/bin'),
    staleTime: 0,
  });
  const { message } = App.useApp();
  const putBack = (id: string) =>
    restore(id).then(
      () => refetch(),
      (fault: Error) => void message.error(fault.message),
    );
  return (
    <Drawer open size={DRAWER_PX} title={<h2 className="dialog-title">{words.shelf.binTitle}</h2>} onClose={onClose}>
      {error && <p role="alert">{error.message}</p>}
      {data && <p className="quiet">{data.length === 0 ? words.shelf.binEmpty : words.shelf.binAbout}</p>}
      <ul className={css.bin}>
        {data?.map(({ id, title, removedAt }) => (
          <li key={id}>
            <span>
              <b>{title}</b> <span className="quiet small">{words.shelf.binned(momentWords(removedAt))}</span>
            </span>
            <Button aria-label={words.shelf.putBackLabel(title)} onClick={() => void putBack(id)}>
              {words.shelf.putBack}
            </Button>
          </li>
        ))}
      </ul>
    </Drawer>
  );
}

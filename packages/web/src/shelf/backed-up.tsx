import { useQuery } from '@tanstack/react-query';
import type { BackupsAnswer } from '@viaticum/contract';
import { Alert, Button } from 'antd';
import { call } from '../api/http.js';
import { momentWords } from '../ui/moment.js';
import { backupWords as w } from '../words/shelf.js';
import css from './shelf.module.css';

const DAY_MS = 86_400_000;
const WEEK = 7;

const daysSince = (at: string): number => Math.floor((Date.now() - new Date(at).getTime()) / DAY_MS);

/** When all of this was last backed up; after a week without a backup elsewhere, with the way to one. */
export function BackedUp() {
  const { data } = useQuery({
    queryKey: ['backups'],
    queryFn: () => call<BackupsAnswer>('GET', '/api/backups'),
    staleTime: 60_000,
  });
  if (!data) return null;
  const { nightlyAt, elsewhereAt, mayMake, since } = data;
  const days = daysSince(elsewhereAt ?? since);
  if (days >= WEEK)
    return (
      <Alert
        className={css.backedUp}
        type="warning"
        showIcon={false}
        title={elsewhereAt ? w.late(days) : w.never(days)}
        description={mayMake ? w.how : w.askOwner}
        action={
          mayMake && (
            <Button href="/api/backup" download>
              {w.take}
            </Button>
          )
        }
      />
    );
  return nightlyAt ? <p className={`quiet small ${css.backedUp}`}>{w.last(momentWords(nightlyAt))}</p> : null;
}

import type { AccountRole } from '@viaticum/contract';
import { Button } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from '../ui/dialog.js';
import { accountWords } from '../words/account.js';
import css from './account.module.css';
import { useLeave } from './account-queries.js';
import { ShortForm } from './door.js';

const words = accountWords.own;
const PACKAGE_URL = '/api/package';

/** What is one's own here: saved as a file, and deleted with the account. */
export function Own({ role }: { role: AccountRole }) {
  const [isLeaving, setLeaving] = useState(false);
  const leave = useLeave();
  const navigate = useNavigate();
  return (
    <section>
      <h2>{words.mine}</h2>
      <p className="quiet">{words.mineAbout}</p>
      <div className={css.keys}>
        <Button href={PACKAGE_URL} download>
          {words.saveAll}
        </Button>
        {role !== 'demo' && (
          <Button danger type="text" onClick={() => setLeaving(true)}>
            {words.leave}
          </Button>
        )}
      </div>
      {isLeaving && (
        <Dialog title={words.leaveTitle} width={460} onClose={() => setLeaving(false)}>
          <div className={css.steps}>
            <p>{words.leaveAbout}</p>
            <Button href={PACKAGE_URL} download>
              {words.saveFirst}
            </Button>
            <ShortForm
              fields={[{ key: 'password', label: accountWords.fields.present, kind: 'password', complete: 'current-password' }]}
              go={words.leaveGo}
              onGo={({ password = '' }) => leave.mutate(password, { onSuccess: () => navigate('/sign-in', { replace: true }) })}
              error={leave.error}
              isBusy={leave.isPending}
            />
          </div>
        </Dialog>
      )}
    </section>
  );
}

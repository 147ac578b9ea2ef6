import { useQuery } from '@tanstack/react-query';
import { type AccountAnswer, PASSWORD_LETTERS } from '@viaticum/contract';
import { App, Button } from 'antd';
import { useState } from 'react';
import { Dialog } from '../ui/dialog.js';
import { LinkKey } from '../ui/link-key.js';
import { momentWords } from '../ui/moment.js';
import { accountWords } from '../words/account.js';
import css from './account.module.css';
import { accountQuery, useAccountActs } from './account-queries.js';
import { Accounts } from './accounts.js';
import { ShortForm } from './door.js';
import { HowMeasured } from './how-measured.js';
import { Own } from './own.js';
import { SecondFactor } from './second-factor.js';
import { Students } from './students.js';

const words = accountWords.own;
const FEW = 5;

/** One's own account: password, second factor, sessions; for the owner also who else works here. */
export default function AccountPage() {
  const { data: account, error } = useQuery(accountQuery);
  return (
    <main className={css.page}>
      <header>
        <h1>{account?.name ?? words.title}</h1>
        <LinkKey to="/">{words.shelf}</LinkKey>
      </header>
      {error && <p role="alert">{error.message}</p>}
      {account && (
        <>
          <Password />
          <SecondFactor account={account} />
          <Sessions sessions={account.sessions} />
          {account.role === 'owner' && <Accounts />}
          <HowMeasured />
          <Students days={account.retentionDays} />
          <Own role={account.role} />
        </>
      )}
    </main>
  );
}

function Password() {
  const { message } = App.useApp();
  const { password } = useAccountActs();
  const [isOpen, setOpen] = useState(false);
  const change = ({ present = '', next = '' }: Record<string, string>) =>
    password.mutate(
      { password: present, next },
      {
        onSuccess: () => {
          setOpen(false);
          void message.success(words.changed);
        },
      },
    );
  return (
    <section>
      <h2>{words.password}</h2>
      <p className="quiet">{words.passwordAbout}</p>
      <div className={css.keys}>
        <Button onClick={() => setOpen(true)}>{words.change}</Button>
      </div>
      {isOpen && (
        <Dialog title={words.change} width={420} onClose={() => setOpen(false)}>
          <ShortForm
            fields={[
              { key: 'present', label: accountWords.fields.present, kind: 'password', complete: 'current-password' },
              {
                ...{ key: 'next', label: accountWords.fields.next, kind: 'password', complete: 'new-password' },
                note: accountWords.fields.nextNote(PASSWORD_LETTERS),
              },
            ]}
            go={words.change}
            onGo={change}
            error={password.error}
            isBusy={password.isPending}
          />
        </Dialog>
      )}
    </section>
  );
}

function Sessions({ sessions }: Pick<AccountAnswer, 'sessions'>) {
  const { message } = App.useApp();
  const { endSession, endOthers } = useAccountActs();
  const [isWhole, setWhole] = useState(false);
  const failed = { onError: (error: Error) => void message.error(error.message) };
  return (
    <section>
      <h2>{words.sessions}</h2>
      <ul className={css.rows}>
        {(isWhole ? sessions : sessions.slice(0, FEW)).map(({ id, device, createdAt, seenAt, isThis }) => (
          <li key={id}>
            <strong>{device || words.anyDevice}</strong>
            <span className="quiet small">
              {words.since(momentWords(createdAt))}
              {isThis ? '' : `, ${words.seen(momentWords(seenAt))}`}
            </span>
            {isThis ? (
              <span className="quiet">{words.here}</span>
            ) : (
              <Button size="small" aria-label={words.endLabel(device)} onClick={() => endSession.mutate(id, failed)}>
                {words.end}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="quiet small">{words.sessionEnds}</p>
      {sessions.length > 1 && (
        <div className={css.keys}>
          {!isWhole && sessions.length > FEW && (
            <Button onClick={() => setWhole(true)}>{words.allSessions(sessions.length)}</Button>
          )}
          <Button onClick={() => endOthers.mutate(undefined, failed)}>{words.endOthers}</Button>
        </div>
      )}
    </section>
  );
}

import { useQuery } from '@tanstack/react-query';
import type { OneAccount } from '@viaticum/contract';
import { localeNow } from '@viaticum/contract';
import { App, Button, Popconfirm, Table } from 'antd';
import { CopyKey } from '../ui/copy-key.js';
import { Dialog } from '../ui/dialog.js';
import { momentWords } from '../ui/moment.js';
import { accountWords } from '../words/account.js';
import css from './account.module.css';
import { accountsQuery, useAccountActs } from './account-queries.js';

const words = accountWords.all;

/** The accounts of this installation, open invitations and the outbox: for its owner. */
export function Accounts() {
  const { data, error } = useQuery(accountsQuery);
  const { message } = App.useApp();
  const { invite, takeBack, switchOff } = useAccountActs();
  const failed = { onError: (fault: Error) => void message.error(fault.message) };
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return null;
  const { accounts, invitations, letters } = data;
  const act = ({ id, name, role, isOff }: OneAccount) => {
    if (role === 'owner') return null;
    const what = isOff ? words.switchOn : words.switchOff;
    const key = (onClick?: () => void) => (
      <Button size="small" aria-label={words.switchLabel(what, name)} onClick={onClick}>
        {what}
      </Button>
    );
    if (isOff) return key(() => switchOff.mutate({ id, isOff: false }, failed));
    return (
      <Popconfirm
        title={words.switchAsk(name)}
        okText={what}
        onConfirm={() => switchOff.mutate({ id, isOff: true }, failed)}
        styles={{ root: { maxWidth: 320 } }}
      >
        {key()}
      </Popconfirm>
    );
  };
  return (
    <>
      <section>
        <h2>{words.title}</h2>
        <Table<OneAccount>
          size="small"
          rowKey="id"
          pagination={false}
          scroll={{ x: 'max-content' }}
          dataSource={accounts}
          columns={[
            {
              title: words.name,
              key: 'name',
              render: (_, { name, role, isOff }) => (
                <>
                  {name} <span className="quiet small">{isOff ? words.off : words.roles[role]}</span>
                </>
              ),
            },
            { title: words.lessons, dataIndex: 'lessons', align: 'right' },
            { title: words.seen, key: 'seen', render: (_, { seenAt }) => (seenAt ? momentWords(seenAt) : words.never) },
            { title: '', key: 'act', align: 'right', render: (_, account) => act(account) },
          ]}
        />
        <div className={css.keys}>
          <Button loading={invite.isPending} onClick={() => invite.mutate(undefined, failed)}>
            {words.invite}
          </Button>
        </div>
        {invitations.length > 0 && (
          <>
            <p>{words.open(invitations.length)}</p>
            <ul className={css.rows}>
              {invitations.map(({ id, expiresAt }) => (
                <li key={id}>
                  <span className="quiet">
                    {words.until(new Date(expiresAt).toLocaleDateString(localeNow(), { dateStyle: 'long' }))}
                  </span>
                  <Button size="small" onClick={() => takeBack.mutate(id, failed)}>
                    {words.takeBack}
                  </Button>
                </li>
              ))}
            </ul>
          </>
        )}
      </section>
      <section>
        <h2>{words.outbox}</h2>
        <p className="quiet">{words.outboxAbout}</p>
        {letters.length === 0 && <p className="quiet">{words.outboxEmpty}</p>}
        {letters.map(({ id, at, toName, subject, text }) => (
          <article key={id} className={css.letter}>
            <p>
              <strong>{subject}</strong>{' '}
              <span className="quiet small">
                {words.to(toName)}, {momentWords(at)}
              </span>
            </p>
            <p>{text}</p>
          </article>
        ))}
      </section>
      {invite.data && (
        <Dialog title={words.inviteTitle} width={520} onClose={invite.reset}>
          <div className={css.steps}>
            <p className="quiet">{words.inviteAbout}</p>
            <p className={css.secret}>{invite.data.address}</p>
            <CopyKey size="middle" type="primary" text={invite.data.address} label={words.copy} done={words.copied} />
          </div>
        </Dialog>
      )}
    </>
  );
}

import { Alert, App } from 'antd';
import { useEffect, useState } from 'react';
import { historyWords } from '../words/history.js';
import { sharingWords } from '../words/sharing.js';
import { Conflict } from './conflict.js';
import { useSession, useSnapshot } from './context.js';
import { unreadDraft } from './kept.js';
import { ReadOnly } from './read-only.js';
import { Unread } from './unread.js';
import workbenchCss from './workbench.module.css';

/** What needs an answer, under the header: it pushes the station down and covers nothing. */
export function Banners() {
  const session = useSession();
  const { save, fault, joined } = useSnapshot();
  const { message } = App.useApp();
  useEffect(() => {
    if (!joined) return;
    session.saidJoined();
    const said = joined.said.map((one) => one.said);
    void message.info(joined.by === null ? historyWords.joined(said) : sharingWords.changed(joined.by, said), 8);
  }, [joined, session, message]);
  const [unread, setUnread] = useState(() => unreadDraft(session.id));
  return (
    <>
      {(fault || unread !== null) && (
        <div className={workbenchCss.benchBanners}>
          {fault && (
            <Alert banner closable showIcon={false} type="error" role="alert" title={fault} onClose={session.clearFault} />
          )}
          {unread !== null && <Unread text={unread} onForgotten={() => setUnread(null)} />}
        </div>
      )}
      {session.role === 'reader' && (
        <div className={workbenchCss.benchBanners}>
          <ReadOnly />
        </div>
      )}
      {save.kind === 'conflict' && <Conflict theirs={save.theirs} base={save.base} />}
    </>
  );
}

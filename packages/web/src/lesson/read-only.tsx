import { useQuery } from '@tanstack/react-query';
import { letters } from '@viaticum/contract';
import { Alert, App, Button } from 'antd';
import { useNavigate } from 'react-router';
import { sharingQuery, useShelf } from '../api/queries.js';
import { sharingWords as w } from '../words/sharing.js';
import { words } from '../words/words.js';
import { useLesson, useSession } from './context.js';

/** A lesson that is somebody else's and may only be read: whose it is, and the way to a copy. */
export function ReadOnly() {
  const { id } = useSession();
  const { title } = useLesson();
  const { data: sharing } = useQuery(sharingQuery(id));
  const { duplicate } = useShelf();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const copy = () =>
    duplicate.mutate(
      { id, title: words.shelf.copyOf(title).slice(0, letters.name) },
      {
        onSuccess: (made) => navigate(`/lesson/${made.id}`),
        onError: (fault: Error) => void message.error(fault.message),
      },
    );
  return (
    <Alert
      banner
      showIcon={false}
      type="info"
      title={sharing ? w.readOnlyBanner(sharing.owner) : w.readOnly}
      action={
        <Button size="small" loading={duplicate.isPending} onClick={copy}>
          {w.duplicate}
        </Button>
      }
    />
  );
}

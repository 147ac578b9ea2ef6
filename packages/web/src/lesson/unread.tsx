import { Alert, Button } from 'antd';
import { saveFile } from '../ui/save-file.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import { forgetUnread } from './kept.js';

/** Changes of an earlier visit that could not be read: kept beside, to be saved as a file or let go. */
export function Unread({ text, onForgotten }: { text: string; onForgotten: () => void }) {
  const { id } = useSession();
  return (
    <Alert
      banner
      showIcon={false}
      type="info"
      role="status"
      title={words.lesson.unread}
      action={
        <>
          <Button
            size="small"
            onClick={() => saveFile(`${words.lesson.unreadName}.json`, new Blob([text], { type: 'application/json' }))}
          >
            {words.lesson.unreadSave}
          </Button>{' '}
          <Button
            size="small"
            type="text"
            onClick={() => {
              forgetUnread(id);
              onForgotten();
            }}
          >
            {words.lesson.unreadForget}
          </Button>
        </>
      }
    />
  );
}

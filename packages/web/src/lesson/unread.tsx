import { Button } from 'antd';
import { useState } from 'react';
import { saveFile } from '../ui/save-file.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import { forgetUnread, unreadDraft } from './kept.js';

/** Changes of an earlier visit that could not be read: kept beside, to be saved as a file or let go. */
export function Unread() {
  const { id } = useSession();
  const [text, setText] = useState(() => unreadDraft(id));
  if (text === null) return null;
  return (
    <p className="bench-fault" role="status">
      {words.lesson.unread}{' '}
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
          setText(null);
        }}
      >
        {words.lesson.unreadForget}
      </Button>
    </p>
  );
}

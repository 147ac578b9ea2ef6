import { App, Button } from 'antd';
import { words } from '../words/words.js';

const SECONDS = 8;
let count = 0;

/** Says what was done, for some seconds, with a way to take it back. */
export function useSaid(): (what: string, undo: () => unknown) => void {
  const { message } = App.useApp();
  return (what, undo) => {
    const key = `said-${count++}`;
    const takeBack = () => {
      message.destroy(key);
      undo();
    };
    void message.open({
      key,
      duration: SECONDS,
      content: (
        <>
          {what}{' '}
          <Button size="small" ghost onClick={takeBack}>
            {words.lesson.undo}
          </Button>
        </>
      ),
    });
  };
}

import { App, Button } from 'antd';
import { words } from '../words/words.js';

const SECONDS = 8;
let count = 0;

/** Says what was done, for some seconds, with a way to take it back; gives how to be silent before. */
export function useSaid(): (what: string, undo: () => unknown) => () => void {
  const { message } = App.useApp();
  return (what, undo) => {
    const key = `said-${count++}`;
    const hide = () => message.destroy(key);
    const takeBack = () => {
      hide();
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
    return hide;
  };
}

import { useSaid } from '../ui/use-said.js';
import { useSession } from './context.js';

/** Says what was just changed in the lesson, with a way to take it back: it goes with the next change, of which Undo would be another. */
export function useSaidChange(): (what: string) => void {
  const session = useSession();
  const say = useSaid();
  return (what) => {
    const { history } = session.get();
    const isLast = () => session.get().history === history;
    const hide = say(what, () => isLast() && session.undo());
    const forget = session.subscribe(() => {
      if (isLast()) return;
      forget();
      hide();
    });
  };
}

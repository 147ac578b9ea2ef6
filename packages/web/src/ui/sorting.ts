import { say } from '@viaticum/contract';

type At = { id: unknown };

/** What a screen reader says while an entry of a list is moved to another place by the keyboard. */
export function sortingWords(ids: readonly string[], nameOf: (id: string) => string) {
  const name = ({ id }: At) => nameOf(String(id));
  const place = ({ id }: At) => ids.indexOf(String(id)) + 1;
  return {
    announcements: {
      onDragStart: ({ active }: { active: At }) => say`${name(active)} is taken up.`,
      onDragOver: ({ active, over }: { active: At; over: At | null }) =>
        over ? say`${name(active)} would be number ${place(over)}.` : undefined,
      onDragEnd: ({ active, over }: { active: At; over: At | null }) => say`${name(active)} is number ${place(over ?? active)}.`,
      onDragCancel: ({ active }: { active: At }) => say`${name(active)} is number ${place(active)}.`,
    },
    screenReaderInstructions: {
      draggable: say('Space takes it up, the arrow keys move it, space puts it down, Escape leaves it where it was.'),
    },
  };
}

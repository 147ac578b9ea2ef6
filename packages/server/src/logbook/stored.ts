import type { ClassLog } from '@viaticum/contract';
import { wordsOfLog } from '@viaticum/core/log';

/** What no list of classes shows. */
type Facts = Pick<ClassLog, 'touches' | 'paces' | 'airs' | 'groups' | 'names' | 'heaps' | 'results'>;
/** How a class of the log is stored: what a list needs, the rest apart (`facts`), and words to be found by. */
export type StoredLog = { card: string; facts: string };
export const stored = (log: ClassLog): StoredLog & { words: string; at: number } => {
  const { touches, paces, airs, groups, names, heaps, results, ...card } = log;
  const facts: Facts = {
    ...{ touches, paces },
    ...(airs && { airs }),
    ...(groups && { groups }),
    ...(names && { names }),
    ...(heaps && { heaps }),
    ...(results && { results }),
  };
  return {
    card: JSON.stringify(card),
    facts: JSON.stringify(facts),
    words: wordsOfLog(log),
    at: new Date(log.at).getTime(),
  };
};
export const logIn = ({ card, facts }: StoredLog): ClassLog => ({
  ...(JSON.parse(card) as ClassLog),
  ...(JSON.parse(facts) as Facts),
});

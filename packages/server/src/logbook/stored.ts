import type { ClassLog } from '@viaticum/contract';
import { wordsOfLog } from '@viaticum/core/log';

/** How a class of the log is stored: all but touches and paces as a list needs it, those apart (`facts`), and words to be found by. */
export type StoredLog = { card: string; facts: string };
export const stored = (log: ClassLog): StoredLog & { words: string; at: number } => {
  const { touches, paces, ...card } = log;
  return {
    card: JSON.stringify(card),
    facts: JSON.stringify({ touches, paces }),
    words: wordsOfLog(log),
    at: new Date(log.at).getTime(),
  };
};
export const logIn = ({ card, facts }: StoredLog): ClassLog => ({
  ...(JSON.parse(card) as ClassLog),
  ...(JSON.parse(facts) as Pick<ClassLog, 'touches' | 'paces'>),
});

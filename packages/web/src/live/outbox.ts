import type { Command } from '@viaticum/contract';

export type Answer = { ok: boolean; message?: string };

const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => 'abcdefghijklmnopqrstuvwxyz012345'[byte & 31]).join('');

/** Commands that the server has not answered yet, by their id: sent again under it after a reconnect. */
export function commandOutbox() {
  const outgoing = new Map<string, { command: Command; resolve: (answer: Answer) => void }>();
  return {
    waiting: (): [string, Command][] => [...outgoing].map(([id, { command }]) => [id, command]),
    put(command: Command): { id: string; answer: Promise<Answer> } {
      const id = newId();
      const answer = new Promise<Answer>((resolve) => outgoing.set(id, { command, resolve }));
      return { id, answer };
    },
    /** The server has answered; gives the command that it answered. */
    settle(id: string, answer: Answer): Command | null {
      const found = outgoing.get(id);
      outgoing.delete(id);
      found?.resolve(answer);
      return found?.command ?? null;
    },
  };
}

import type { AtTheDoor } from '@viaticum/contract';

/** Somebody who wants to join, and what becomes of it. */
export type Waiting = AtTheDoor & { admit: () => void; refuse: () => void };

/**
 * Who may come in without being asked about: as many from one network address as were planned, and nobody from where somebody was taken
 * out. The others wait for the desk's yes. Addresses are kept in memory only.
 */
export function door(onChange: (waiting: AtTheDoor[]) => void) {
  const from = new Map<string, Set<string>>();
  const addressOf = new Map<string, string>();
  const coming = new Map<string, number>();
  const takenOut = new Set<string>();
  const waiting = new Map<string, Waiting>();
  const list = (): AtTheDoor[] => [...waiting.values()].map(({ id, firstName, why }) => ({ id, firstName, why }));
  const told = () => onChange(list());
  return {
    list,
    /** Why somebody from an address must wait; null where they need not. */
    reason(address: string, wasTakenOut: boolean, planned: number): AtTheDoor['why'] | null {
      if (wasTakenOut || takenOut.has(address)) return 'taken-out';
      return (from.get(address)?.size ?? 0) + (coming.get(address) ?? 0) >= planned ? 'more-than-planned' : null;
    },
    /** Somebody is being let in who is not there yet; what is given back says that it is over. */
    coming(address: string): () => void {
      coming.set(address, (coming.get(address) ?? 0) + 1);
      return () => {
        const left = (coming.get(address) ?? 1) - 1;
        if (left > 0) coming.set(address, left);
        else coming.delete(address);
      };
    },
    /** A student is here from an address. */
    came(studentId: string, address: string): void {
      addressOf.set(studentId, address);
      from.set(address, (from.get(address) ?? new Set()).add(studentId));
    },
    /** A student was taken out of the class. */
    removed(studentId: string): void {
      const address = addressOf.get(studentId);
      if (address === undefined) return;
      takenOut.add(address);
      from.get(address)?.delete(studentId);
      addressOf.delete(studentId);
    },
    /** Waits for the desk; what is given back is called when they go away again. */
    wait(one: Waiting): () => void {
      waiting.set(one.id, one);
      told();
      return () => {
        // The same phone may wait again under the same id, by another connection.
        if (waiting.get(one.id) === one && waiting.delete(one.id)) told();
      };
    },
    /** The desk's answer; ids that do not wait here are passed over. */
    answer(ids: readonly string[], yes: boolean): void {
      const found = ids.flatMap((id) => waiting.get(id) ?? []);
      for (const { id } of found) waiting.delete(id);
      for (const one of found) yes ? one.admit() : one.refuse();
      if (found.length > 0) told();
    },
  };
}
export type Door = ReturnType<typeof door>;

import { randomUUID } from 'node:crypto';
import { type AtTheDoor, type Away, byId } from '@viaticum/contract';
import type { Bus, BusMessage } from '../../bus/bus.js';

const TELL_MS = 200;
/** With several servers: when another one is taken for gone. */
const GONE_MS = 10_000;

type Parts = {
  bus: Bus;
  classId: string;
  /** The students connected to this server, and who waits at its door. */
  here: () => string[];
  waiting: () => AtTheDoor[];
  /** Tells those who watch the room who is connected, and since when who was is not, a moment after the last change. */
  tell: (connected: string[], away: Away) => void;
};

/** Who of a class is connected, to whichever server. */
export function presence({ bus, classId, here, waiting, tell }: Parts) {
  const self = randomUUID();
  const elsewhere = new Map<string, { students: string[]; waiting: AtTheDoor[]; at: number }>();
  let timer: NodeJS.Timeout | null = null;
  let before: string[] = [];
  let since: Away = byId();
  const connected = (): string[] => {
    const gone = Date.now() - GONE_MS;
    for (const [server, { at }] of elsewhere) if (at < gone) elsewhere.delete(server);
    return [...new Set([...here(), ...[...elsewhere.values()].flatMap((one) => one.students)])].sort();
  };
  /** Since when those are away who were here. */
  const look = (now: string[]): Away => {
    const gone = before.filter((id) => !now.includes(id));
    const kept = Object.entries(since).filter(([id]) => !now.includes(id));
    since = byId([...kept, ...gone.map((id) => [id, Date.now()] as const)]);
    before = now;
    return since;
  };
  const publish = (): void =>
    bus.publish(classId, { type: 'presence', server: self, students: here(), waiting: waiting() } satisfies BusMessage);
  const tellSoon = (): void => {
    timer ??= setTimeout(() => {
      timer = null;
      const now = connected();
      tell(now, look(now));
    }, TELL_MS);
  };
  return {
    connected,
    away: (): Away => look(connected()),
    atTheDoor: (): AtTheDoor[] => [...waiting(), ...[...elsewhere.values()].flatMap((one) => one.waiting)],
    /** Something changed here. */
    changed(): void {
      publish();
      tellSoon();
    },
    /** Another server says who is there. */
    hear(message: Extract<BusMessage, { type: 'presence' }>): void {
      const isFresh = !elsewhere.has(message.server);
      elsewhere.set(message.server, { students: message.students, waiting: message.waiting, at: Date.now() });
      // A server that has just come does not know who is here.
      if (isFresh) publish();
      tellSoon();
    },
    close(): void {
      if (timer) clearTimeout(timer);
    },
  };
}

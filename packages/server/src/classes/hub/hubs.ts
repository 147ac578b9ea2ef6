import type { Invite } from '@viaticum/contract';
import type { FastifyBaseLogger } from 'fastify';
import { type Bus, EVERYWHERE } from '../../bus/bus.js';
import { ClassEntity } from '../../db/entities.js';
import type { Database } from '../../db/source.js';
import type { Disk } from '../../guard/disk.js';
import type { LessonStore } from '../../lessons/store.js';
import { isDevice, roundsOf } from '../tokens.js';
import type { WorkedOutPlans } from '../worked-out.js';
import { type ClassHub, classHub } from './class-hub.js';

/** Without an invitation a class is taken to be one that sits behind one address. */
const USUAL_SEATS = 60;
const SEATS_MS = 3000;
/** A class that nobody follows leaves the memory. */
const IDLE_MS = 10 * 60_000;

type Parts = {
  database: Database;
  lessons: LessonStore;
  plans: WorkedOutPlans;
  bus: Bus;
  disk: Disk;
  log: FastifyBaseLogger;
};

/** The hubs of classes that somebody is connected to: made when the first comes, let go when nobody has been there for a while. */
export function classHubs({ database: { source, logs }, lessons, plans, bus, disk, log }: Parts) {
  const hubs = new Map<string, Promise<ClassHub>>();
  const rowOf = (id: string) => source.manager.findOneByOrFail(ClassEntity, { id });

  /** For how many a class was planned; looked up now and then, as the invitation may change. */
  const seatsOf = (id: string) => {
    let known: { at: number; seats: Promise<number> } | null = null;
    return (): Promise<number> => {
      if (!known || Date.now() - known.at > SEATS_MS) {
        const seats = rowOf(id).then(({ invite }) => (invite ? (JSON.parse(invite) as Invite).seats : USUAL_SEATS));
        known = { at: Date.now(), seats };
      }
      return known.seats;
    };
  };
  const make = async (found: { id: string; secret: string }): Promise<ClassHub> => {
    // Looked up each time: a class that was planned opens with another revision.
    const taught = async () => (await lessons.revision((await rowOf(found.id)).revisionId)).text;
    const hub = classHub({
      pool: logs,
      bus,
      found,
      workOut: (state, command, now, caller) => plans.forCommand(state, command, now, taught, `${found.id} ${caller}`),
      isDevice: async (role, key) => {
        const one = await rowOf(found.id);
        return isDevice(one.secret, role, roundsOf(one), key);
      },
      planned: seatsOf(found.id),
      isFull: disk.isFull,
      log,
    });
    await hub.log.load();
    return hub;
  };
  const endSession = async (session: string): Promise<void> => {
    for (const hub of hubs.values()) (await hub).endSession(session);
  };
  const unsubscribe = bus.subscribe(EVERYWHERE, (message) => {
    if (message.type === 'signedOut') void endSession(message.session);
  });
  /** Lets classes go that nobody has followed for a while; they are read again when somebody comes. */
  const sweep = async (idleMs = IDLE_MS): Promise<number> => {
    let gone = 0;
    for (const [id, promise] of [...hubs]) {
      const hub = await promise.catch(() => null);
      // Nothing is awaited between looking and letting go: nobody can come in between.
      if (!hub || hub.idleMs < idleMs || hubs.get(id) !== promise) continue;
      hubs.delete(id);
      hub.close();
      gone += 1;
    }
    return gone;
  };
  const sweeping = setInterval(() => void sweep(), IDLE_MS / 4).unref();

  return {
    /** The hub of a class, read from the database when the first person comes. */
    of(found: { id: string; secret: string }): Promise<ClassHub> {
      const known = hubs.get(found.id);
      if (known) return known;
      const hub = make(found);
      hub.catch(() => hubs.delete(found.id));
      hubs.set(found.id, hub);
      return hub;
    },
    /** The hub of a class where one is open. */
    open: (classId: string): Promise<ClassHub> | undefined => hubs.get(classId),
    /** Lets a class go from memory at once; who follows it connects anew, and it is read again. */
    async forget(classId: string): Promise<void> {
      const known = hubs.get(classId);
      hubs.delete(classId);
      (await known?.catch(() => null))?.close();
    },
    sweep,
    endSession,
    get count() {
      return hubs.size;
    },
    async close(): Promise<void> {
      clearInterval(sweeping);
      unsubscribe();
      for (const hub of hubs.values()) (await hub).close();
    },
  };
}

import { randomBytes, randomInt } from 'node:crypto';
import {
  type AloneSheet,
  type ClassEvent,
  CODE_ALPHABET,
  type Command,
  type DeviceRole,
  type EventBody,
  type FollowSheet,
  type Invite,
  type OtherRecipes,
  type Plan,
  serverErrors,
} from '@viaticum/contract';
import { type ClassState, fold, isNewAir, newClass, notedAir, type WorkedOut } from '@viaticum/core/class';
import type { FastifyBaseLogger } from 'fastify';
import type { RowDataPacket } from 'mysql2/promise';
import { nanoid } from 'nanoid';
import type { EntityManager } from 'typeorm';
import { type Bus, EVERYWHERE } from '../bus/bus.js';
import { ClassEntity, ClassEventEntity } from '../db/entities.js';
import { newest } from '../db/page.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { Disk } from '../guard/disk.js';
import type { LessonStore } from '../lessons/store.js';
import type { StagePicture, StagePictures } from '../stage-pictures/store.js';
import { pool } from '../work/pool.js';
import { type ClassHub, classHub } from './class-hub.js';
import type { PlanJob, PlanJobAnswer } from './plan-worker.js';
import { recipesForKits } from './recipes.js';
import { type DeviceRounds, deviceToken, isDevice } from './tokens.js';

const SHEETS_KEPT = 20;
const PAGE = 50;
/** Events are read in pieces, so that a long log does not stop everybody else. */
const EVENTS_AT_ONCE = 1000;
/** Without an invitation a class is taken to be one that sits behind one address. */
const USUAL_SEATS = 60;
const SEATS_MS = 3000;
/** A class that nobody follows leaves the memory. */
const IDLE_MS = 10 * 60_000;
const newCode = () => Array.from({ length: 6 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');
const roundsOf = (one: Pick<ClassEntity, 'deviceRound'>): DeviceRounds => JSON.parse(one.deviceRound) as DeviceRounds;

type Parts = {
  database: Database;
  lessons: LessonStore;
  bus: Bus;
  stages: StagePictures;
  disk: Disk;
  log: FastifyBaseLogger;
};

/** Classes: planning and opening one, and the hubs of those that somebody is connected to. */
export function classStore({ database, lessons, bus, stages, disk, log }: Parts) {
  const { source, logs } = database;
  const recipes = recipesForKits();
  const planning = pool<PlanJob, PlanJobAnswer>('classes/plan-worker.js', { queue: 60, perCaller: 6 });
  const hubs = new Map<string, Promise<ClassHub>>();
  const sheets = new Map<number, Promise<AloneSheet>>();

  const byCode = async (code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code });
    if (!found) throw new ApiFault(serverErrors.codeUnknown);
    return found;
  };
  const owned = async (ownerId: string, code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code, ownerId });
    if (!found) throw notFound('class of yours');
    return found;
  };

  /** A class row under a code that is free. */
  const fresh = async (
    ownerId: string,
    lessonId: string,
    rest: Pick<ClassEntity, 'revisionId' | 'title'> & Partial<ClassEntity>,
  ) => {
    for (let attempt = 0; attempt < 5; attempt++) {
      const code = newCode();
      if (await source.manager.existsBy(ClassEntity, { code })) continue;
      return source.manager.create(ClassEntity, {
        id: nanoid(12),
        code,
        ownerId,
        lessonId,
        secret: randomBytes(24).toString('base64url'),
        lastSeq: 0,
        phase: 'planned',
        openedAt: Date.now(),
        rehearsal: 0,
        invite: null,
        deviceRound: '{}',
        ...rest,
      });
    }
    throw new Error('no free class code in five draws');
  };
  const pinned = async (ownerId: string, lessonId: string) => {
    const found = await lessons.pin(ownerId, lessonId);
    stages.begin(found.revisionId, async () => ({ text: found.text, ownerId }));
    if (found.card.steps === 0) throw new ApiFault(serverErrors.lessonWithoutSteps);
    return found;
  };
  const firstEvent = async (manager: EntityManager, classId: string, body: EventBody): Promise<ClassEvent> => {
    const event = { seq: 1, at: Date.now(), actor: 'instructor', body };
    await manager.insert(ClassEventEntity, { classId, ...event, commandId: nanoid(12), body: JSON.stringify(body) });
    return event;
  };
  const opening = async (
    { number, text }: { number: number; text: string },
    code: string,
    rehearsal: boolean,
    caller: string,
  ): Promise<EventBody> => {
    const { plan } = (await planning.ask({ kind: 'plan', text }, caller)) as { plan: Plan };
    return { type: 'opened', v: 1, revision: number, plan, code, ...(rehearsal && { rehearsal }) };
  };

  const sheetOf = (revisionId: number): Promise<AloneSheet> => {
    const known = sheets.get(revisionId);
    if (known) return known;
    const work = lessons
      .revision(revisionId)
      .then(({ text }) => planning.ask({ kind: 'sheet', text }, `sheet ${revisionId}`) as Promise<AloneSheet>);
    work.catch(() => sheets.delete(revisionId));
    sheets.set(revisionId, work);
    const [oldest] = sheets.keys();
    if (sheets.size > SHEETS_KEPT && oldest !== undefined) sheets.delete(oldest);
    return work;
  };

  /** What a command needs that takes long; {@link ClassHub} asks for it once it knows that the command may be given. */
  const workOut =
    (id: string) =>
    async (state: ClassState, command: Command, now: number, caller: string): Promise<WorkedOut> => {
      // Looked up each time: a class that was planned opens with another revision.
      const taught = async () =>
        (await lessons.revision((await source.manager.findOneByOrFail(ClassEntity, { id })).revisionId)).text;
      if (command.type === 'replan') {
        if (command.from !== state.current?.index) return {};
        const job = { kind: 'replan', text: await taught(), state, now, quickest: command.quickest === true } as const;
        return (await planning.ask(job, `${id} ${caller}`)) as { plan: Plan };
      }
      if (command.type !== 'climate' || !state.plan || !isNewAir(state, command, now)) return {};
      const job = { kind: 'air', text: await taught(), planned: state.plan.room, air: notedAir(state, command) } as const;
      return (await planning.ask(job, `${id} ${caller}`)) as { factor: number };
    };

  /** For how many a class was planned; looked up now and then, as the invitation may change. */
  const seatsOf = (id: string) => {
    let known: { at: number; seats: Promise<number> } | null = null;
    return (): Promise<number> => {
      if (!known || Date.now() - known.at > SEATS_MS) {
        const seats = source.manager
          .findOneByOrFail(ClassEntity, { id })
          .then(({ invite }) => (invite ? (JSON.parse(invite) as Invite).seats : USUAL_SEATS));
        known = { at: Date.now(), seats };
      }
      return known.seats;
    };
  };

  type Row = { seq: number; at: number; actor: string; body: string } & RowDataPacket;
  /** The rows of a class's log, piece by piece. */
  async function* rowsOf(classId: string): AsyncGenerator<Row[]> {
    for (let seq = 0; ; ) {
      const [rows] = await database.pool.query<Row[]>(
        'SELECT seq, at, actor, body FROM class_event WHERE class_id = ? AND seq > ? ORDER BY seq LIMIT ?',
        [classId, seq, EVENTS_AT_ONCE],
      );
      yield rows;
      if (rows.length < EVENTS_AT_ONCE) return;
      seq = (rows.at(-1) as Row).seq;
    }
  }

  const endSession = async (session: string): Promise<void> => {
    for (const hub of hubs.values()) (await hub).endSession(session);
  };
  const unsubscribe = bus.subscribe(EVERYWHERE, (message) => {
    if (message.type === 'signedOut') void endSession(message.session);
  });
  const sweeping = setInterval(() => void sweep(), IDLE_MS / 4).unref();
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

  return {
    byCode,
    owned,

    /** Opens a class from a lesson: pins its revision, computes the plan, draws a code, writes the first event. */
    async open(ownerId: string, lessonId: string, rehearsal: boolean): Promise<ClassEntity> {
      const found = await pinned(ownerId, lessonId);
      const one = await fresh(ownerId, lessonId, {
        revisionId: found.revisionId,
        title: found.title,
        lastSeq: 1,
        phase: 'open',
        rehearsal: rehearsal ? 1 : 0,
      });
      const body = await opening(found, one.code, rehearsal, ownerId);
      await source.transaction(async (manager) => {
        await manager.insert(ClassEntity, one);
        await firstEvent(manager, one.id, body);
      });
      return one;
    },

    /** A class that is to come: it has a code already, and opens on its day. */
    async plan(ownerId: string, lessonId: string, invite: Invite): Promise<ClassEntity> {
      const { revisionId, title } = await pinned(ownerId, lessonId);
      const one = await fresh(ownerId, lessonId, { revisionId, title, invite: JSON.stringify(invite) });
      await source.manager.insert(ClassEntity, one);
      return one;
    },

    async invite(ownerId: string, code: string, invite: Invite): Promise<ClassEntity> {
      const one = await owned(ownerId, code);
      await source.manager.update(ClassEntity, { id: one.id }, { invite: JSON.stringify(invite) });
      return { ...one, invite: JSON.stringify(invite) };
    },

    /** Opens a class that was planned, from the lesson as it is now. Open already, it stays as it is. */
    async openPlanned(ownerId: string, code: string): Promise<ClassEntity> {
      const one = await owned(ownerId, code);
      if (one.phase !== 'planned') return one;
      const found = await pinned(ownerId, one.lessonId);
      const body = await opening(found, code, false, ownerId);
      const event = await source.transaction(async (manager) => {
        // Two desks may open it at once: the first writes.
        const { affected } = await manager.update(
          ClassEntity,
          { id: one.id, phase: 'planned' },
          { phase: 'open', lastSeq: 1, revisionId: found.revisionId, title: found.title, openedAt: Date.now() },
        );
        return affected ? firstEvent(manager, one.id, body) : null;
      });
      (await hubs.get(one.id))?.log.look();
      if (event) bus.publish(one.id, { type: 'events', events: [event] });
      return source.manager.findOneByOrFail(ClassEntity, { id: one.id });
    },

    /** The newest fifty, or those before the class with this id. */
    list(ownerId: string, before?: string): Promise<ClassEntity[]> {
      const query = source.manager.createQueryBuilder(ClassEntity, 'class').where('class.owner_id = :ownerId', { ownerId });
      return newest(query, { table: 'class', property: 'openedAt', column: 'opened_at', most: PAGE, before });
    },

    async sheet(code: string): Promise<FollowSheet> {
      return (await sheetOf((await byCode(code)).revisionId)).sheet;
    },
    sheetOf,
    /** The canvas after a step of a revision that is taught or painted alone. */
    stage: (revisionId: number, stepId: string): Promise<StagePicture> =>
      stages.read(revisionId, () => lessons.revision(revisionId), stepId),

    /** Recipes for a student of this class who lacks some tubes; `caller` is whose phone asks. */
    async recipesWithout(code: string, tubes: readonly string[], caller: string): Promise<OtherRecipes> {
      const { revisionId } = await byCode(code);
      return recipes.without(revisionId, async () => (await lessons.revision(revisionId)).text, tubes, `${code} ${caller}`);
    },

    /** The text of the document that is taught. */
    lessonText: async (one: ClassEntity) => (await lessons.revision(one.revisionId)).text,

    /** All events of a class, as the JSON of a list: what the log keeps is not parsed. */
    async eventsText(classId: string): Promise<string> {
      const parts: string[] = [];
      for await (const rows of rowsOf(classId))
        for (const { seq, at, actor, body } of rows)
          parts.push(`{"seq":${seq},"at":${at},"actor":${JSON.stringify(actor)},"body":${body}}`);
      return `[${parts.join()}]`;
    },

    /** The state of a class as it is now: of its hub, or folded from its log. */
    async state(classId: string): Promise<ClassState> {
      const hub = await hubs.get(classId);
      if (hub) return hub.log.state;
      const state = newClass();
      for await (const rows of rowsOf(classId))
        for (const row of rows) fold(state, { ...row, at: Number(row.at), body: JSON.parse(row.body) as EventBody });
      return state;
    },

    /** The link or key of a kind of device, as it is now. */
    deviceKey: (one: ClassEntity, role: DeviceRole): string => deviceToken(one.secret, role, roundsOf(one)),
    isDevice: (one: ClassEntity, role: DeviceRole, key: string | undefined): boolean =>
      isDevice(one.secret, role, roundsOf(one), key),
    /** Makes the key of a kind of device anew; who came in with the former is sent away. */
    async renewKey(one: ClassEntity, role: DeviceRole): Promise<ClassEntity> {
      const rounds = { ...roundsOf(one), [role]: (roundsOf(one)[role] ?? 0) + 1 };
      const deviceRound = JSON.stringify(rounds);
      await source.manager.update(ClassEntity, { id: one.id }, { deviceRound });
      (await hubs.get(one.id))?.recalled(role);
      return { ...one, deviceRound };
    },
    /** A session was ended, here or through another server. */
    async signedOut(session: string): Promise<void> {
      bus.publish(EVERYWHERE, { type: 'signedOut', session });
      await endSession(session);
    },

    /** The hub of a class, read from the database when the first person comes. */
    hub(found: { id: string; secret: string }): Promise<ClassHub> {
      let hub = hubs.get(found.id);
      if (!hub) {
        hub = (async () => {
          const made = classHub({
            pool: logs,
            bus,
            found,
            workOut: workOut(found.id),
            isDevice: async (role, key) => {
              const one = await source.manager.findOneByOrFail(ClassEntity, { id: found.id });
              return isDevice(one.secret, role, roundsOf(one), key);
            },
            planned: seatsOf(found.id),
            isFull: disk.isFull,
            log,
          });
          await made.log.load();
          return made;
        })();
        hub.catch(() => hubs.delete(found.id));
        hubs.set(found.id, hub);
      }
      return hub;
    },
    sweep,
    get roomsOpen() {
      return hubs.size;
    },

    async close(): Promise<void> {
      clearInterval(sweeping);
      unsubscribe();
      await Promise.all([recipes.close(), planning.close(), stages.close()]);
      for (const hub of hubs.values()) (await hub).close();
    },
  };
}
export type ClassStore = ReturnType<typeof classStore>;

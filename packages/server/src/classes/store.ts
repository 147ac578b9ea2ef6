import { randomBytes, randomInt } from 'node:crypto';
import {
  type AloneSheet,
  type ClassEvent,
  CODE_ALPHABET,
  type Command,
  type EventBody,
  type FollowSheet,
  type Invite,
  type OtherRecipes,
} from '@viaticum/contract';
import { type ClassState, isNewAir, notedAir, type WorkedOut } from '@viaticum/core/class';
import { planLesson } from '@viaticum/core/plan';
import { nanoid } from 'nanoid';
import type { EntityManager } from 'typeorm';
import type { Bus } from '../bus/bus.js';
import { ClassEntity, ClassEventEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { LessonStore } from '../lessons/store.js';
import { thread } from '../thread.js';
import type { PlanJob, PlanJobAnswer } from './plan-worker.js';
import { recipesForKits } from './recipes.js';
import { type ClassRoom, classRoom } from './room.js';
import type { StagePictures } from './stages.js';

const SHEETS_KEPT = 20;
const newCode = () => Array.from({ length: 6 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');

/** Classes: planning and opening one, and the rooms of those that somebody is connected to. */
export function classStore(database: Database, lessons: LessonStore, bus: Bus, stages: StagePictures) {
  const { source, logs } = database;
  const recipes = recipesForKits();
  const planning = thread<PlanJob, PlanJobAnswer>('classes/plan-worker.js');
  const rooms = new Map<string, Promise<ClassRoom>>();
  const sheets = new Map<number, Promise<AloneSheet>>();

  const byCode = async (code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code });
    if (!found)
      throw new ApiFault(404, 'unknown-code', 'No class has this code. Look at the board again: six letters and digits.');
    return found;
  };
  const owned = async (ownerId: string, code: string): Promise<ClassEntity> => {
    const found = await source.manager.findOneBy(ClassEntity, { code, ownerId });
    if (!found) throw notFound('class of yours');
    return found;
  };

  /** A class row under a code that is free. */
  const fresh = async (ownerId: string, lessonId: string, rest: Pick<ClassEntity, 'revisionId'> & Partial<ClassEntity>) => {
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
        ...rest,
      });
    }
    throw new Error('no free class code in five draws');
  };
  const pinned = async (ownerId: string, lessonId: string) => {
    const found = await lessons.pin(ownerId, lessonId);
    stages.begin(found.revisionId, async () => found.document);
    if (found.document.steps.length === 0)
      throw new ApiFault(422, 'no-steps', 'This lesson has no steps yet. Write at least one before you open a class.');
    return found;
  };
  const firstEvent = async (manager: EntityManager, classId: string, body: EventBody): Promise<ClassEvent> => {
    const event = { seq: 1, at: Date.now(), actor: 'instructor', body };
    await manager.insert(ClassEventEntity, { classId, ...event, commandId: nanoid(12), body: JSON.stringify(body) });
    return event;
  };
  const opening = (
    revision: number,
    document: Parameters<typeof planLesson>[0],
    code: string,
    rehearsal: boolean,
  ): EventBody => ({
    type: 'opened',
    v: 1,
    revision,
    plan: planLesson(document).plan,
    code,
    ...(rehearsal && { rehearsal }),
  });

  const sheetOf = (revisionId: number): Promise<AloneSheet> => {
    const known = sheets.get(revisionId);
    if (known) return known;
    const work = lessons.revision(revisionId).then((lesson) => planning.ask({ kind: 'sheet', lesson }) as Promise<AloneSheet>);
    work.catch(() => sheets.delete(revisionId));
    sheets.set(revisionId, work);
    const [oldest] = sheets.keys();
    if (sheets.size > SHEETS_KEPT && oldest !== undefined) sheets.delete(oldest);
    return work;
  };

  /** What a command needs that takes long; {@link ClassRoom} asks for it before the command is decided. */
  const workOut =
    (id: string) =>
    async (state: ClassState, command: Command, now: number): Promise<WorkedOut> => {
      // Looked up each time: a class that was planned opens with another revision.
      const taught = async () => lessons.revision((await source.manager.findOneByOrFail(ClassEntity, { id })).revisionId);
      if (command.type === 'replan') {
        if (command.from !== state.current?.index) return {};
        const lesson = await taught();
        return (await planning.ask({ kind: 'replan', lesson, state, now, quickest: command.quickest === true })) as {
          plan: NonNullable<WorkedOut['plan']>;
        };
      }
      if (command.type !== 'climate' || !state.plan || !isNewAir(state, command, now)) return {};
      const lesson = await taught();
      const air = notedAir(state, command);
      return (await planning.ask({ kind: 'air', lesson, planned: state.plan.room, air })) as { factor: number };
    };

  return {
    byCode,
    owned,

    /** Opens a class from a lesson: pins its revision, computes the plan, draws a code, writes the first event. */
    async open(ownerId: string, lessonId: string, rehearsal: boolean): Promise<ClassEntity> {
      const { revisionId, number, document } = await pinned(ownerId, lessonId);
      const one = await fresh(ownerId, lessonId, { revisionId, lastSeq: 1, phase: 'open', rehearsal: rehearsal ? 1 : 0 });
      const body = opening(number, document, one.code, rehearsal);
      await source.transaction(async (manager) => {
        await manager.insert(ClassEntity, one);
        await firstEvent(manager, one.id, body);
      });
      return one;
    },

    /** A class that is to come: it has a code already, and opens on its day. */
    async plan(ownerId: string, lessonId: string, invite: Invite): Promise<ClassEntity> {
      const { revisionId } = await pinned(ownerId, lessonId);
      const one = await fresh(ownerId, lessonId, { revisionId, invite: JSON.stringify(invite) });
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
      const { revisionId, number, document } = await pinned(ownerId, one.lessonId);
      const body = opening(number, document, code, false);
      const event = await source.transaction(async (manager) => {
        // Two desks may open it at once: the first writes.
        const { affected } = await manager.update(
          ClassEntity,
          { id: one.id, phase: 'planned' },
          { phase: 'open', lastSeq: 1, revisionId, openedAt: Date.now() },
        );
        return affected ? firstEvent(manager, one.id, body) : null;
      });
      (await rooms.get(one.id))?.log.look();
      if (event) bus.publish(one.id, { type: 'events', events: [event] });
      return source.manager.findOneByOrFail(ClassEntity, { id: one.id });
    },

    list: (ownerId: string): Promise<ClassEntity[]> =>
      source.manager.find(ClassEntity, { where: { ownerId }, order: { openedAt: 'DESC' }, take: 50 }),

    async sheet(code: string): Promise<FollowSheet> {
      return (await sheetOf((await byCode(code)).revisionId)).sheet;
    },
    sheetOf,
    /** The canvas after a step of a revision that is taught or painted alone. */
    stage: (revisionId: number, stepId: string): Promise<Buffer> =>
      stages.read(revisionId, () => lessons.revision(revisionId), stepId),

    /** Recipes for a student of this class who lacks some tubes. */
    async recipesWithout(code: string, tubes: readonly string[]): Promise<OtherRecipes> {
      const { revisionId } = await byCode(code);
      return recipes.without(revisionId, await lessons.revision(revisionId), tubes);
    },

    lesson: (one: ClassEntity) => lessons.revision(one.revisionId),
    title: async (one: ClassEntity): Promise<string> => (await lessons.revision(one.revisionId)).title,

    async events(classId: string): Promise<ClassEvent[]> {
      const rows = await source.manager.find(ClassEventEntity, { where: { classId }, order: { seq: 'ASC' } });
      return rows.map(({ seq, at, actor, body }) => ({ seq, at, actor, body: JSON.parse(body) as EventBody }));
    },

    /** The room of a class, read from the database when the first person comes. */
    room(found: { id: string; secret: string }): Promise<ClassRoom> {
      let room = rooms.get(found.id);
      if (!room) {
        room = (async () => {
          const made = classRoom(logs, bus, found, workOut(found.id));
          await made.log.load();
          return made;
        })();
        room.catch(() => rooms.delete(found.id));
        rooms.set(found.id, room);
      }
      return room;
    },

    async close(): Promise<void> {
      await Promise.all([recipes.close(), planning.close(), stages.close()]);
      for (const room of rooms.values()) (await room).close();
    },
  };
}
export type ClassStore = ReturnType<typeof classStore>;

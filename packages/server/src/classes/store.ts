import { randomBytes, randomInt } from 'node:crypto';
import {
  type ClassEvent,
  CODE_ALPHABET,
  type DeviceRole,
  type EventBody,
  type FollowSheet,
  type Invite,
  type OtherRecipes,
  serverErrors,
} from '@viaticum/contract';
import type { ClassState } from '@viaticum/core/class';
import type { FastifyBaseLogger } from 'fastify';
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
import { storedEvents } from './events.js';
import { classHubs } from './hub/hubs.js';
import { recipesForKits } from './recipes.js';
import { deviceToken, isDevice, roundsOf } from './tokens.js';
import { workedOut } from './worked-out.js';

const PAGE = 50;
const newCode = () => Array.from({ length: 6 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');

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
  const { source } = database;
  const recipes = recipesForKits();
  const plans = workedOut(lessons);
  const events = storedEvents(database);
  const hubs = classHubs({ database, lessons, plans, bus, disk, log });

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
    const plan = await plans.plan(text, caller);
    return { type: 'opened', v: 1, revision: number, plan, code, ...(rehearsal && { rehearsal }) };
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
      (await hubs.open(one.id))?.log.look();
      if (event) bus.publish(one.id, { type: 'events', events: [event] });
      return source.manager.findOneByOrFail(ClassEntity, { id: one.id });
    },

    /** The newest fifty, or those before the class with this id. */
    list(ownerId: string, before?: string): Promise<ClassEntity[]> {
      const query = source.manager.createQueryBuilder(ClassEntity, 'class').where('class.owner_id = :ownerId', { ownerId });
      return newest(query, { table: 'class', property: 'openedAt', column: 'opened_at', most: PAGE, before });
    },

    async sheet(code: string): Promise<FollowSheet> {
      return (await plans.sheet((await byCode(code)).revisionId)).sheet;
    },
    sheetOf: plans.sheet,
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

    /** All events of a class, as the JSON of a list. */
    eventsText: events.text,
    /** The state of a class as it is now: of its hub, or folded from its log. */
    async state(classId: string): Promise<ClassState> {
      return (await hubs.open(classId))?.log.state ?? events.state(classId);
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
      (await hubs.open(one.id))?.recalled(role);
      return { ...one, deviceRound };
    },
    /** A session was ended, here or through another server. */
    async signedOut(session: string): Promise<void> {
      bus.publish(EVERYWHERE, { type: 'signedOut', session });
      await hubs.endSession(session);
    },

    hub: hubs.of,
    sweep: hubs.sweep,
    get hubsOpen() {
      return hubs.count;
    },

    async close(): Promise<void> {
      await Promise.all([recipes.close(), plans.close(), stages.close()]);
      await hubs.close();
    },
  };
}
export type ClassStore = ReturnType<typeof classStore>;

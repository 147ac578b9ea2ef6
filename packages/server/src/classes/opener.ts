import { randomBytes, randomInt } from 'node:crypto';
import {
  type ClassEvent,
  CODE_ALPHABET,
  type EventBody,
  type Invite,
  type Language,
  type Lesson,
  languageOf,
  serverErrors,
} from '@viaticum/contract';
import { nanoid } from 'nanoid';
import type { DataSource, EntityManager } from 'typeorm';
import type { Bus } from '../bus/bus.js';
import { ClassEntity, ClassEventEntity } from '../db/entities.js';
import { ApiFault } from '../errors.js';
import type { LessonStore } from '../lessons/store.js';
import type { StagePictures } from '../stage-pictures/store.js';
import type { classHubs } from './hub/hubs.js';
import type { workedOut } from './worked-out.js';

/** The language of a lesson, from the text of its document. */
const languageIn = (text: string): Language => languageOf((JSON.parse(text) as Lesson).language);

const newCode = () => Array.from({ length: 6 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');

type Parts = {
  source: DataSource;
  lessons: LessonStore;
  stages: StagePictures;
  plans: ReturnType<typeof workedOut>;
  bus: Bus;
  hubs: ReturnType<typeof classHubs>;
  owned: (ownerId: string, code: string) => Promise<ClassEntity>;
};

/** Planning and opening classes: a revision of the lesson is pinned, its plan worked out, a code drawn, the first event written. */
export function classOpener({ source, lessons, stages, plans, bus, hubs, owned }: Parts) {
  /** A class row under a code that is free. */
  const fresh = async (
    ownerId: string,
    lessonId: string,
    rest: Pick<ClassEntity, 'revisionId' | 'title'> & Partial<ClassEntity>,
  ) => {
    const last = await source.manager.findOne(ClassEntity, {
      select: { id: true, address: true },
      where: { ownerId },
      order: { openedAt: 'DESC' },
    });
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
        address: last?.address ?? null,
        language: 'en',
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
    /** Opens a class from a lesson: pins its revision, computes the plan, draws a code, writes the first event. */
    async open(ownerId: string, lessonId: string, rehearsal: boolean): Promise<ClassEntity> {
      const found = await pinned(ownerId, lessonId);
      const one = await fresh(ownerId, lessonId, {
        revisionId: found.revisionId,
        title: found.title,
        lastSeq: 1,
        phase: 'open',
        rehearsal: rehearsal ? 1 : 0,
        language: languageIn(found.text),
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
      const { revisionId, title, text } = await pinned(ownerId, lessonId);
      const invited = { invite: JSON.stringify(invite), language: languageIn(text) };
      const one = await fresh(ownerId, lessonId, { revisionId, title, ...invited });
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
  };
}

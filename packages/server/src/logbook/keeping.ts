import {
  type ClassEvent,
  type ClassLog,
  LEAST_ALONE_SHARE,
  type Lesson,
  type LoggedKind,
  type Plan,
  type ShootNote,
  serverErrors,
} from '@viaticum/contract';
import { logByHand } from '@viaticum/core/log';
import { nanoid } from 'nanoid';
import { type EntityManager, Like } from 'typeorm';
import type { ClassStore } from '../classes/store.js';
import { ClassEntity, ClassLogEntity, LessonEntity, ShootNoteEntity } from '../db/entities.js';
import { ApiFault } from '../errors.js';
import { present } from '../lessons/revisions.js';
import type { LogAnswer, LogJob } from './log-worker.js';
import { stored } from './stored.js';

/** How many classes that ended are written into the log with one request. */
export const WRITTEN_AT_ONCE = 30;
/** A day of filming is over when nothing was noted for so long. */
const FILMED_MS = 6 * 3_600_000;
/** Of one lesson so many are kept that were painted alone, and each tells at most of so long. */
const MOST_ALONE = 2000;
const LONGEST_MS = 14 * 86_400_000;

type Parts = {
  manager: EntityManager;
  classes: ClassStore;
  ask: (job: LogJob, caller: string) => Promise<LogAnswer>;
};

/** Writes into the log what happened: classes that ended, what was filmed, what somebody painted alone. Each once. */
export function logKeeper({ manager, classes, ask }: Parts) {
  const insert = (row: Omit<ClassLogEntity, 'card' | 'facts' | 'words' | 'at' | 'id'>, log: ClassLog) =>
    manager
      .createQueryBuilder()
      .insert()
      .into(ClassLogEntity)
      .values({ id: nanoid(12), ...row, ...stored(log) })
      .orIgnore()
      .execute();

  /** Classes that have ended, the oldest first; gives how many. */
  const taught = async (ownerId: string): Promise<number> => {
    const ended = await manager
      .createQueryBuilder(ClassEntity, 'class')
      .leftJoin(ClassLogEntity, 'log', 'log.class_id = class.id')
      .where("class.owner_id = :ownerId AND class.phase = 'ended' AND class.rehearsal = 0 AND log.id IS NULL", { ownerId })
      .orderBy('class.opened_at')
      .limit(WRITTEN_AT_ONCE)
      .getMany();
    for (const one of ended) {
      const [events, lesson] = await Promise.all([classes.eventsText(one.id), classes.lessonText(one)]);
      const { log } = (await ask({ kind: 'log', events, lesson, of: 'class' }, ownerId)) as { log: ClassLog | null };
      // A class that was never begun has a row all the same, so that it is not asked of again.
      const kept = log ?? {
        ...logByHand(
          { title: one.title, at: new Date(one.openedAt).toISOString(), students: 1, items: [], note: '' },
          JSON.parse(lesson) as Lesson,
        ),
        kind: 'class' as const,
      };
      await insert({ ownerId, lessonId: one.lessonId, classId: one.id, code: one.code, source: null }, kept);
    }
    return ended.length;
  };

  /** Days on which lessons were filmed, and that are over. */
  const filmed = async (ownerId: string): Promise<void> => {
    const days = await manager.query<{ lesson: string; day: string }[]>(
      `SELECT note.lesson_id AS lesson, DATE_FORMAT(FROM_UNIXTIME(note.at / 1000), '%Y-%m-%d') AS day
       FROM shoot_note note JOIN lesson ON lesson.id = note.lesson_id
       WHERE lesson.owner_id = ? AND lesson.removed_at IS NULL GROUP BY lesson, day HAVING MAX(note.at) < ?`,
      [ownerId, Date.now() - FILMED_MS],
    );
    if (days.length === 0) return;
    const known = await manager.find(ClassLogEntity, { select: { source: true }, where: { ownerId, source: Like('takes %') } });
    const had = new Set(known.map(({ source }) => source));
    for (const { lesson: lessonId, day } of days) {
      const source = `takes ${lessonId} ${day}`;
      if (had.has(source)) continue;
      const lesson = await manager.findOneByOrFail(LessonEntity, { id: lessonId });
      const notes = await manager
        .createQueryBuilder(ShootNoteEntity, 'note')
        .where("note.lesson_id = :lessonId AND DATE_FORMAT(FROM_UNIXTIME(note.at / 1000), '%Y-%m-%d') = :day", { lessonId, day })
        .orderBy('note.at')
        .getMany();
      const text = (await present(manager, lesson)).document;
      const job: LogJob = { kind: 'takes', lesson: text, notes: notes as ShootNote[] };
      const { log } = (await ask(job, ownerId)) as { log: ClassLog | null };
      if (log) await insert({ ownerId, lessonId, classId: null, code: null, source }, log);
    }
  };

  return {
    /** Gives how many classes were written; there may be more. */
    async keepUp(ownerId: string): Promise<number> {
      const count = await taught(ownerId);
      if (count < WRITTEN_AT_ONCE) await filmed(ownerId);
      return count;
    },

    /**
     * What somebody painted alone, from what their phone kept; the plan is that of the link. Sent again it is the same. Throws a sentence where
     * it cannot have been so.
     */
    async alone(
      { ownerId, lessonId }: { ownerId: string; lessonId: string },
      {
        lesson,
        plan,
        events,
        of,
      }: { lesson: string; plan: Plan; events: ClassEvent[]; of: Extract<LoggedKind, 'alone' | 'practice'> },
    ): Promise<void> {
      const told = events.filter(({ body }) => body.type !== 'opened');
      const [first, last] = [told[0]?.at ?? 0, told.at(-1)?.at ?? 0];
      const isOrdered = told.every(({ at }, k) => k === 0 || at >= (told[k - 1]?.at ?? 0));
      if (!isOrdered || last - first > LONGEST_MS || last > Date.now() + 86_400_000)
        throw new ApiFault(serverErrors.aloneUnsound);
      if ((await manager.countBy(ClassLogEntity, { lessonId, source: Like('alone %') })) >= MOST_ALONE) return;
      if (last - first < LEAST_ALONE_SHARE * plan.endMin * 60_000) throw new ApiFault(serverErrors.aloneTooQuick);
      const opened: ClassEvent = {
        ...{ seq: 1, at: first, actor: 'instructor' },
        body: { type: 'opened', v: 1, revision: 0, plan, code: '' },
      };
      const whole = [opened, ...told.map((event, k) => ({ ...event, seq: k + 2 }))];
      const { log } = (await ask({ kind: 'log', events: JSON.stringify(whole), lesson, of }, lessonId)) as {
        log: ClassLog | null;
      };
      if (!log) throw new ApiFault(serverErrors.aloneUnsound);
      await insert({ ownerId, lessonId, classId: null, code: null, source: `alone ${lessonId} ${first}` }, log);
    },
  };
}
export type LogKeeper = ReturnType<typeof logKeeper>;

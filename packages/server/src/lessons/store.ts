import {
  BIN_DAYS,
  type BinnedLesson,
  type FoundLesson,
  type LessonOnCard,
  type LessonRole,
  type RevisionAnswer,
  SCHEMA_VERSION,
  type ShelfPlace,
  serverErrors,
  shelfLimits,
} from '@viaticum/contract';
import { type Findable, findOnShelf } from '@viaticum/core/derived';
import { upgradeLesson } from '@viaticum/core/document';
import { nanoid } from 'nanoid';
import { type EntityManager, IsNull, MoreThan } from 'typeorm';
import { InstructorEntity, LessonEntity, LessonRevisionEntity, LessonShareEntity, ShelfPlaceEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { StagePicture, StagePictures, Taught } from '../stage-pictures/store.js';
import { whenAtRest } from './at-rest.js';
import { noteFiles, ownFiles, reach } from './reach.js';
import type { ReadLesson, SavedLesson } from './reader-worker.js';
import { addRevision, hold, present, succeed } from './revisions.js';
import { type ShownLesson, shown } from './shown.js';

const MOST_VERSIONS = 500;
/** So many places of a lesson that was found are told. */
const MOST_PLACES = 3;
/** Ids of what an instructor may read; takes who they are twice. */
const reachable = 'SELECT id FROM lesson WHERE owner_id = ? UNION SELECT lesson_id FROM lesson_share WHERE instructor_id = ?';
type Listed = Pick<LessonEntity, 'id' | 'title' | 'revision' | 'card' | 'ownerId'> & {
  updatedAt: string;
  role: LessonRole | null;
  owner: string;
  isArchived: number | null;
  labels: string | null;
};
const BIN_MS = BIN_DAYS * 86_400_000;

/** A stored document as text of the present version: parsed only where it is of an earlier one. */
function presentText(stored: string): string {
  // Within strings quotes are escaped, and no inner part has a version: this is the document's own.
  const version = Number(/"schemaVersion":(\d+)/.exec(stored)?.[1]);
  return version === SCHEMA_VERSION ? stored : JSON.stringify(upgradeLesson(JSON.parse(stored)));
}

/** The JSON of a lesson answer, put together without parsing the document. */
const answerText = (
  lesson: Pick<LessonEntity, 'id' | 'revision' | 'updatedAt'> & { role: LessonRole },
  document: string,
): string =>
  `{"id":${JSON.stringify(lesson.id)},"revision":${lesson.revision},"role":"${lesson.role}","savedAt":"${new Date(lesson.updatedAt).toISOString()}","document":${presentText(document)}}`;

/** A new lesson with its first revision. */
async function putOnShelf(
  manager: EntityManager,
  ownerId: string,
  { text, title, card, words }: Omit<ReadLesson, 'baseRevision'>,
): Promise<LessonEntity> {
  const createdAt = Date.now();
  const lesson = manager.create(LessonEntity, {
    ...{ id: nanoid(12), ownerId, revision: 1, updatedAt: createdAt },
    ...{ title, card: JSON.stringify(card), words, removedAt: null },
  });
  await manager.insert(LessonEntity, lesson);
  await addRevision(manager, { lessonId: lesson.id, number: 1, kind: 'auto', authorId: ownerId, document: text, createdAt });
  return lesson;
}

/** Lessons and their revisions. Every call names the instructor; what is not theirs and not shared with them does not exist for them. */
export function lessonStore({ source }: Database, stages: StagePictures) {
  let show: (text: string, caller: string) => Promise<ShownLesson> = async (text) => shown(upgradeLesson(JSON.parse(text)));
  /** Until then `words` is null: what was not done when the server stopped is done when it starts. */
  const showing = whenAtRest(async (id) => {
    const lesson = await source.manager.findOneBy(LessonEntity, { id, words: IsNull() });
    if (!lesson) return;
    const { card, words } = await show((await present(source.manager, lesson)).document, lesson.ownerId);
    await source.manager.update(LessonEntity, { id, revision: lesson.revision }, { card: JSON.stringify(card), words });
  });
  return {
    /** By whom what lists show of a lesson is worked out. */
    showBy(work: typeof show): void {
      show = work;
    },
    /** Everything that is saved is shown as it is now. */
    settle: showing.settle,

    /** Makes what lists show of lessons that were saved before there was such a thing. */
    async makeCards(): Promise<void> {
      for (const lesson of await source.manager.findBy(LessonEntity, [{ card: IsNull() }, { words: IsNull() }])) {
        const document = upgradeLesson(JSON.parse((await present(source.manager, lesson)).document));
        const { card, ...rest } = shown(document);
        await source.manager.update(LessonEntity, { id: lesson.id }, { ...rest, card: JSON.stringify(card) });
      }
      await source.query(
        "UPDATE class JOIN lesson ON lesson.id = class.lesson_id SET class.title = lesson.title WHERE class.title = ''",
      );
    },

    /** What stands on an instructor's shelf, their own and what is shared with them, the last saved first: the JSON of cards. One query, no document. */
    async list(who: string): Promise<string> {
      await showing.settle();
      const rows = await source.query<Listed[]>(
        `SELECT lesson.id, lesson.title, lesson.revision, lesson.updated_at AS updatedAt, lesson.card, lesson.owner_id AS ownerId,
           share.role, owner.name AS owner, place.is_archived AS isArchived, place.labels
         FROM lesson
         JOIN instructor owner ON owner.id = lesson.owner_id
         LEFT JOIN lesson_share share ON share.lesson_id = lesson.id AND share.instructor_id = ?
         LEFT JOIN shelf_place place ON place.lesson_id = lesson.id AND place.instructor_id = ?
         WHERE lesson.removed_at IS NULL AND lesson.id IN (${reachable})
         ORDER BY lesson.updated_at DESC, lesson.id DESC LIMIT ${shelfLimits.lessons}`,
        [who, who, who, who],
      );
      // What is stored as JSON goes out as it is.
      const cards = rows.map(({ card, labels, isArchived, updatedAt, ownerId, owner, role, ...rest }) => {
        const by = ownerId === who ? null : owner;
        const head = { ...rest, updatedAt: new Date(Number(updatedAt)).toISOString(), isArchived: isArchived === 1, by };
        return `${JSON.stringify({ ...head, role: role ?? 'owner' }).slice(0, -1)},"labels":${labels ?? '[]'},"card":${card ?? 'null'}}`;
      });
      return `[${cards.join()}]`;
    },

    /** Lessons of a shelf that hold all the words sought, with the first places where. */
    async find(who: string, sought: string): Promise<FoundLesson[]> {
      await showing.settle();
      // Any of the words narrows it down; which lesson holds all of them is looked at with its accents folded.
      const rows = await source.query<{ id: string; title: string; words: string | null }[]>(
        `SELECT id, title, words FROM lesson WHERE removed_at IS NULL AND id IN (${reachable})
         AND ${sought
           .trim()
           .split(/\s+/)
           .map(() => "CONCAT(title, ' ', COALESCE(words, '')) LIKE ?")
           .join(' AND ')}
         ORDER BY updated_at DESC, id DESC LIMIT ${shelfLimits.lessons}`,
        [
          who,
          who,
          ...sought
            .trim()
            .split(/\s+/)
            .map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`),
        ],
      );
      return rows.flatMap(({ id, title, words }) => {
        const places = findOnShelf(title, JSON.parse(words ?? '[]') as Findable[], sought);
        return places
          ? [{ id, places: places.slice(0, MOST_PLACES).map(({ kind, name, excerpt }) => ({ kind, name, excerpt })) }]
          : [];
      });
    },

    /** Puts a lesson away or back, and under labels, for one instructor. */
    async place(who: string, id: string, { isArchived, labels }: ShelfPlace): Promise<void> {
      await reach(source.manager, who, id, 'reader');
      await source.manager.upsert(
        ShelfPlaceEntity,
        { instructorId: who, lessonId: id, isArchived, labels: JSON.stringify(labels) },
        ['instructorId', 'lessonId'],
      );
    },

    /** The JSON of an answer with the document. */
    async read(who: string, id: string): Promise<string> {
      const lesson = await reach(source.manager, who, id, 'reader');
      return answerText(lesson, (await present(source.manager, lesson)).document);
    },

    /** The finished painting, for the shelf. */
    async finished(who: string, id: string): Promise<StagePicture> {
      await showing.settle();
      const lesson = await reach(source.manager, who, id, 'reader');
      const { lastStepId } = JSON.parse(lesson.card ?? '{}') as Partial<LessonOnCard>;
      if (!lastStepId) throw new ApiFault(serverErrors.nothingPainted);
      const text = presentText((await present(source.manager, lesson)).document);
      return stages.finished({ text, ownerId: lesson.ownerId }, lastStepId);
    },

    /** A lesson as it is now, with the folder of the pictures after its steps. */
    async painted(who: string, id: string): Promise<{ text: string; folder: string }> {
      const lesson = await reach(source.manager, who, id, 'reader');
      const text = presentText((await present(source.manager, lesson)).document);
      return { text, folder: await stages.folder({ text, ownerId: lesson.ownerId }) };
    },

    /** The text of a lesson's document, for somebody who may read it. */
    async text(who: string, id: string): Promise<string> {
      return presentText((await present(source.manager, await reach(source.manager, who, id, 'reader'))).document);
    },

    /** Puts lessons onto a shelf that came in a package; one that stands there already, to the last letter, is left as it is. */
    async bring(
      manager: EntityManager,
      ownerId: string,
      read: readonly ReadLesson[],
    ): Promise<{ id: string; title: string; isNew: boolean }[]> {
      const brought: { id: string; title: string; isNew: boolean }[] = [];
      for (const { text, title, card, words } of read) {
        const alike = await manager.findBy(LessonEntity, { ownerId, title, removedAt: IsNull() });
        const texts = await Promise.all(alike.map(async (one) => presentText((await present(manager, one)).document)));
        const there = alike[texts.indexOf(text)];
        const id = there?.id ?? (await putOnShelf(manager, ownerId, { text, title, card, words })).id;
        brought.push({ id, title, isNew: !there });
      }
      return brought;
    },

    async create(ownerId: string, read: Omit<ReadLesson, 'baseRevision'>): Promise<string> {
      const lesson = await source.transaction(async (manager) => {
        await ownFiles(manager, ownerId, read.text);
        return putOnShelf(manager, ownerId, read);
      });
      return answerText({ ...lesson, role: 'owner' }, read.text);
    },

    /**
     * Stores a document over the revision it was made from. Where somebody saved meanwhile the document is kept as a revision
     * beside, and a 409 holds both.
     */
    async save(
      who: string,
      id: string,
      { baseRevision, text, title }: SavedLesson,
    ): Promise<{ revision: number; savedAt: string }> {
      const now = Date.now();
      const stored = await source.transaction(async (manager) => {
        const lesson = await reach(manager, who, id, 'editor', true);
        const last = await present(manager, lesson);
        const saved = { lessonId: id, authorId: who, document: text, createdAt: now };
        if (lesson.revision !== baseRevision) {
          if (last.document !== text) {
            await addRevision(manager, { ...saved, number: baseRevision, kind: 'kept' });
            await hold(manager, last, 'won');
          }
          return { conflict: answerText(lesson, last.document) };
        }
        const number = lesson.revision + 1;
        await succeed(manager, last, { ...saved, number, kind: 'auto' });
        await manager.update(LessonEntity, { id }, { revision: number, updatedAt: now, title, words: null });
        if (await manager.existsBy(LessonShareEntity, { lessonId: id })) await noteFiles(manager, id, who, text);
        return { revision: number };
      });
      if ('conflict' in stored) {
        throw new ApiFault(serverErrors.savedElsewhere, {
          current: JSON.parse(stored.conflict as string),
          keptRevision: baseRevision,
        });
      }
      showing.later(id);
      return { revision: stored.revision, savedAt: new Date(now).toISOString() };
    },

    /** The versions of a lesson, the newest first. */
    async versions(who: string, id: string): Promise<RevisionAnswer[]> {
      const lesson = await reach(source.manager, who, id, 'reader');
      const rows = await source.manager
        .createQueryBuilder(LessonRevisionEntity, 'r')
        .leftJoin(InstructorEntity, 'i', 'i.id = r.author_id')
        .select([
          'r.id AS id',
          'r.number AS number',
          'r.kind AS kind',
          'r.name AS name',
          'r.created_at AS at',
          "COALESCE(i.name, '') AS author",
        ])
        .where('r.lesson_id = :id', { id })
        .orderBy('r.created_at', 'DESC')
        .addOrderBy('r.id', 'DESC')
        .limit(MOST_VERSIONS)
        .getRawMany<Omit<RevisionAnswer, 'isPresent' | 'savedAt'> & { at: string }>();
      return rows.map(({ at, ...row }) => ({
        ...row,
        savedAt: new Date(Number(at)).toISOString(),
        isPresent: row.number === lesson.revision && row.kind !== 'kept',
      }));
    },
    /** The JSON of an answer with the document as it was in a version. */
    async version(who: string, id: string, revisionId: number): Promise<string> {
      const { role } = await reach(source.manager, who, id, 'reader');
      const found = await source.manager.findOneBy(LessonRevisionEntity, { id: revisionId, lessonId: id });
      if (!found) throw notFound('version of this lesson');
      return answerText({ id, revision: found.number, updatedAt: found.createdAt, role }, found.document);
    },
    async nameVersion(who: string, id: string, revisionId: number, name: string | null): Promise<void> {
      await reach(source.manager, who, id, 'editor');
      if (!(await source.manager.existsBy(LessonRevisionEntity, { id: revisionId, lessonId: id })))
        throw notFound('version of this lesson');
      await source.manager.update(LessonRevisionEntity, { id: revisionId }, { name });
    },

    /** What was deleted and can be put back, the last first. */
    async bin(ownerId: string): Promise<BinnedLesson[]> {
      const rows = await source.manager.find(LessonEntity, {
        select: { id: true, title: true, removedAt: true },
        where: { ownerId, removedAt: MoreThan(Date.now() - BIN_MS) },
        order: { removedAt: 'DESC' },
      });
      return rows.map(({ id, title, removedAt }) => ({ id, title, removedAt: new Date(removedAt as number).toISOString() }));
    },
    /** Takes away for good what has lain in the bin for long enough; a lesson that was taught stays for the records of its classes. */
    async empty(now: number): Promise<number> {
      const { affected } = await source.manager
        .createQueryBuilder()
        .delete()
        .from(LessonEntity)
        .where('removed_at < :before AND NOT EXISTS (SELECT 1 FROM class WHERE class.lesson_id = lesson.id)', {
          before: now - BIN_MS,
        })
        .execute();
      return affected ?? 0;
    },

    /** Takes a lesson from the shelf, or puts it back. What was taught from it stays as it is. */
    async setRemoved(who: string, id: string, isRemoved: boolean): Promise<void> {
      const lesson = await source.manager.findOneBy(LessonEntity, { id, ownerId: who });
      if (!lesson) throw notFound('lesson on your shelf');
      await source.manager.update(LessonEntity, { id }, { removedAt: isRemoved ? Date.now() : null });
    },

    /** The present revision, set so that later autosaves leave it as it is. Whoever may read a lesson may teach it. */
    async pin(
      who: string,
      id: string,
      needs: LessonRole = 'reader',
    ): Promise<{ revisionId: number; number: number; text: string; card: LessonOnCard; title: string }> {
      await showing.settle();
      return source.transaction(async (manager) => {
        const lesson = await reach(manager, who, id, needs, true);
        const revision = await present(manager, lesson);
        await hold(manager, revision, 'pinned');
        return {
          revisionId: revision.id,
          number: revision.number,
          text: presentText(revision.document),
          card: JSON.parse(lesson.card ?? '{}') as LessonOnCard,
          title: lesson.title,
        };
      });
    },

    /** The text of a revision, and whose it is. */
    async revision(revisionId: number): Promise<Taught> {
      const { document, lessonId } = await source.manager.findOneByOrFail(LessonRevisionEntity, { id: revisionId });
      const { ownerId } = await source.manager.findOneByOrFail(LessonEntity, { id: lessonId });
      return { text: presentText(document), ownerId };
    },
  };
}
export type LessonStore = ReturnType<typeof lessonStore>;

import type { ClassEvent, Invite, SaveRetention, StoredOfPerson, Studio } from '@viaticum/contract';
import { serverErrors } from '@viaticum/contract';
import { type EntityManager, In, IsNull, LessThan, Not } from 'typeorm';
import {
  ClassEntity,
  ClassNameEntity,
  ClassStudentEntity,
  InstructorEntity,
  LetterEntity,
  PersonEntity,
  StudioEntity,
} from '../../db/entities.js';
import type { Database } from '../../db/source.js';
import { ApiFault, notFound } from '../../errors.js';
import { storedEvents } from '../events.js';
import type { ClassStore } from '../store.js';

const DAY_MS = 86_400_000;
const iso = (ms: number): string => new Date(ms).toISOString();
const same = (one: string, other: string): boolean => one.trim().toLowerCase() === other.trim().toLowerCase();

/**
 * What is stored of students, given to them and taken away. The log of a class names nobody: names stand beside it, and without them it
 * says how long somebody took, not who.
 */
export function privacyStore(database: Database, classes: ClassStore) {
  const { source } = database;
  const { manager } = source;
  const events = storedEvents(database);

  const personOf = async (ownerId: string, id: string): Promise<PersonEntity> => {
    const found = await manager.findOneBy(PersonEntity, { id, ownerId });
    if (!found) throw notFound('person');
    return found;
  };
  const namesOf = async (classId: string, studentId: string): Promise<string[]> => [
    ...new Set((await manager.findBy(ClassNameEntity, { classId, studentId })).map(({ firstName }) => firstName)),
  ];

  const storedInClass = async (one: ClassEntity, studentId: string): Promise<StoredOfPerson['classes'][0]> => {
    const log = JSON.parse(await events.text(one.id)) as ClassEvent[];
    const own = log.filter(({ actor, body }) => actor === studentId || ('studentId' in body && body.studentId === studentId));
    const row = await manager.findOneBy(ClassStudentEntity, { classId: one.id, studentId });
    const names = await namesOf(one.id, studentId);
    const letters = await manager.findBy(LetterEntity, { classId: one.id });
    const studio = await manager.findOneBy(StudioEntity, { instructorId: one.ownerId });
    const { has = [] } = JSON.parse(studio?.document ?? '{}') as Partial<Studio>;
    return {
      ...{ title: one.title, openedAt: iso(one.openedAt), names, note: row?.note ?? '' },
      has: has.find(({ personId }) => personId === row?.personId)?.things ?? [],
      events: own.map(({ at, body }) => ({ at: iso(at), what: body as Record<string, unknown> })),
      letters: letters
        .filter(({ toName }) => names.some((name) => same(name, toName)))
        .map(({ at, subject, text }) => ({ at: iso(at), subject, text })),
    };
  };

  /** Takes away who students of a class were: names, notes, their places on the list, letters to them. `names`: how they are called there. */
  const eraseIn = async (within: EntityManager, one: ClassEntity, studentIds: readonly string[], names: readonly string[]) => {
    const called = [
      ...names,
      ...(studentIds.length > 0
        ? (await within.findBy(ClassNameEntity, { classId: one.id, studentId: In([...studentIds]) })).map(
            ({ firstName }) => firstName,
          )
        : []),
    ];
    if (studentIds.length > 0) {
      await within.delete(ClassNameEntity, { classId: one.id, studentId: In([...studentIds]) });
      await within.update(ClassStudentEntity, { classId: one.id, studentId: In([...studentIds]) }, { note: '', personId: null });
    }
    const isErased = (name: string) => called.some((other) => same(name, other));
    const letters = await within.findBy(LetterEntity, { classId: one.id });
    const gone = letters.filter(({ toName }) => isErased(toName)).map(({ id }) => id);
    if (gone.length > 0) await within.delete(LetterEntity, gone);
    if (!one.invite) return;
    const invite = JSON.parse(one.invite) as Invite;
    const roster = invite.roster.filter(({ firstName }) => !isErased(firstName));
    await within.update(ClassEntity, { id: one.id }, { invite: JSON.stringify({ ...invite, roster }) });
  };
  const assertOver = (found: readonly ClassEntity[]): void => {
    if (found.some(({ phase }) => phase !== 'ended' && phase !== 'planned')) throw new ApiFault(serverErrors.eraseWhenOver);
  };
  /** What was read into memory names them still. */
  const forget = async (found: readonly ClassEntity[]): Promise<void> => {
    for (const { id } of found) await classes.forget(id);
  };
  const erasePerson = async (within: EntityManager, { id, ownerId }: PersonEntity): Promise<void> => {
    const studio = await within.findOneBy(StudioEntity, { instructorId: ownerId });
    if (studio) {
      const document = JSON.parse(studio.document) as Studio;
      const has = document.has?.filter(({ personId }) => personId !== id);
      await within.update(
        StudioEntity,
        { instructorId: ownerId },
        { document: JSON.stringify({ ...document, ...(has && { has }) }) },
      );
    }
    await within.delete(PersonEntity, { id });
  };

  return {
    async stored(ownerId: string, personId: string): Promise<StoredOfPerson> {
      const person = await personOf(ownerId, personId);
      const links = await manager.findBy(ClassStudentEntity, { personId });
      const found = await manager.findBy(ClassEntity, { id: In(links.map(({ classId }) => classId)), ownerId });
      const byId = new Map(found.map((one) => [one.id, one]));
      const parts = links.flatMap(({ classId, studentId }) => {
        const one = byId.get(classId);
        return one ? [storedInClass(one, studentId)] : [];
      });
      return { firstName: person.firstName, classes: await Promise.all(parts) };
    },
    async storedOfStudent(one: ClassEntity, studentId: string): Promise<StoredOfPerson> {
      const part = await storedInClass(one, studentId);
      if (part.events.length === 0) throw notFound('student in this class');
      return { firstName: part.names.at(-1) ?? '', classes: [part] };
    },

    /** Erases somebody who came before, in every class that they were known in and on every list that is still to come. */
    async erase(ownerId: string, personId: string): Promise<void> {
      const person = await personOf(ownerId, personId);
      const links = await manager.findBy(ClassStudentEntity, { personId });
      const all = await manager.findBy(ClassEntity, { ownerId });
      const onList = (one: ClassEntity) =>
        one.invite !== null && (JSON.parse(one.invite) as Invite).roster.some((row) => row.personId === personId);
      const found = all.filter((one) => links.some(({ classId }) => classId === one.id) || onList(one));
      assertOver(found);
      await source.transaction(async (within) => {
        for (const one of found) {
          const studentIds = links.filter(({ classId }) => classId === one.id).map(({ studentId }) => studentId);
          const rows = one.invite ? (JSON.parse(one.invite) as Invite).roster.filter((row) => row.personId === personId) : [];
          await eraseIn(within, one, studentIds, [person.firstName, ...rows.map(({ firstName }) => firstName)]);
        }
        await erasePerson(within, person);
      });
      await forget(found);
    },
    async eraseStudent(one: ClassEntity, studentId: string): Promise<void> {
      assertOver([one]);
      await source.transaction((within) => eraseIn(within, one, [studentId], []));
      await forget([one]);
    },
    /** Erases who was in a class; how it went stays. */
    async eraseClass(one: ClassEntity): Promise<void> {
      assertOver([one]);
      await eraseWhole(source.manager, one);
      await forget([one]);
    },

    async setRetention(instructorId: string, days: SaveRetention['days']): Promise<void> {
      await manager.update(InstructorEntity, { id: instructorId }, { retentionDays: days });
    },
    /** Erases the names of classes that are older than their instructors want them kept. Gives in how many. */
    async tidy(now: number): Promise<number> {
      let erased = 0;
      for (const { id, retentionDays } of await manager.findBy(InstructorEntity, { retentionDays: Not(IsNull()) })) {
        const old = await manager.findBy(ClassEntity, {
          ownerId: id,
          phase: In(['planned', 'ended']),
          openedAt: LessThan(now - (retentionDays as number) * DAY_MS),
        });
        // One that was planned long ahead is counted from its day.
        const due = old.filter(
          ({ phase, invite }) =>
            phase === 'ended' ||
            (invite !== null &&
              new Date((JSON.parse(invite) as Invite).startsAt).getTime() < now - (retentionDays as number) * DAY_MS),
        );
        for (const one of due) {
          if (await eraseWhole(manager, one)) erased += 1;
          await classes.forget(one.id);
        }
      }
      return erased;
    },
  };

  async function eraseWhole(on: EntityManager, one: ClassEntity): Promise<boolean> {
    return on.transaction(async (within) => {
      const names = await within.findBy(ClassNameEntity, { classId: one.id });
      const links = await within.findBy(ClassStudentEntity, { classId: one.id });
      const roster = one.invite ? (JSON.parse(one.invite) as Invite).roster.map(({ firstName }) => firstName) : [];
      if (names.length + roster.length + links.filter(({ note, personId }) => note || personId).length === 0) return false;
      const studentIds = [...new Set([...names, ...links].map(({ studentId }) => studentId))];
      await eraseIn(within, one, studentIds, roster);
      // Who was known from this class alone is known no more.
      for (const personId of new Set(links.flatMap((link) => link.personId ?? []))) {
        if (await within.existsBy(ClassStudentEntity, { personId })) continue;
        const person = await within.findOneBy(PersonEntity, { id: personId });
        if (person) await erasePerson(within, person);
      }
      return true;
    });
  }
}
export type PrivacyStore = ReturnType<typeof privacyStore>;

import { byId, type OfStudent, type Person, type SaveOfStudent, serverErrors } from '@viaticum/contract';
import { ownPace } from '@viaticum/core/class';
import { personPace } from '@viaticum/core/log';
import { nanoid } from 'nanoid';
import { In } from 'typeorm';
import { ClassEntity, ClassStudentEntity, PersonEntity } from '../../db/entities.js';
import type { Database } from '../../db/source.js';
import { ApiFault, notFound } from '../../errors.js';
import type { ClassStore } from '../store.js';

const MOST_PEOPLE = 2000;
const hundredth = (factor: number): number => Math.round(factor * 100) / 100;

/** What an instructor keeps of the people of their classes, by first names. */
export function peopleStore({ source, pool }: Database, classes: ClassStore) {
  const { manager } = source;
  const ownPerson = async (ownerId: string, id: string): Promise<PersonEntity> => {
    const found = await manager.findOneBy(PersonEntity, { id, ownerId });
    if (!found) throw notFound('person');
    return found;
  };

  /** Keeps how the known people of a class did in it, so that no log is folded again for it. */
  const keepPaces = async (classId: string): Promise<void> => {
    const rows = (await manager.findBy(ClassStudentEntity, { classId })).filter((row) => row.personId !== null);
    if (rows.length === 0) return;
    const state = await classes.state(classId);
    for (const { studentId } of rows) {
      const paces = ownPace(state, studentId);
      const paceSum = paces.reduce((sum, one) => sum + Math.log(one), 0);
      await manager.update(ClassStudentEntity, { classId, studentId }, { paceSum, paceCount: paces.length, paceSeq: state.seq });
    }
  };

  return {
    async ofClass(classId: string): Promise<Record<string, OfStudent>> {
      const rows = await manager.findBy(ClassStudentEntity, { classId });
      return byId(rows.map((row) => [row.studentId, { note: row.note, personId: row.personId }] as const));
    },

    async save(ownerId: string, classId: string, studentId: string, change: SaveOfStudent): Promise<void> {
      if (change.personId) await ownPerson(ownerId, change.personId);
      const columns = Object.entries({ note: change.note, person_id: change.personId }).filter(
        ([, value]) => value !== undefined,
      );
      if (columns.length === 0) return;
      // One statement, so that two at once leave one row.
      await pool.query(
        `INSERT INTO class_student (class_id, student_id, ${columns.map(([name]) => name).join(', ')}) VALUES (?, ?, ${columns.map(() => '?').join(', ')})
         ON DUPLICATE KEY UPDATE ${columns.map(([name]) => `${name} = VALUES(${name})`).join(', ')}`,
        [classId, studentId, ...columns.map(([, value]) => value)],
      );
    },

    async add(ownerId: string, firstName: string): Promise<Person> {
      if ((await manager.countBy(PersonEntity, { ownerId })) >= MOST_PEOPLE) throw new ApiFault(serverErrors.peopleFull);
      const one = { id: nanoid(12), ownerId, firstName: firstName.trim() };
      await manager.insert(PersonEntity, one);
      return { id: one.id, firstName: one.firstName, classes: 0, pace: null };
    },

    /** Everybody who came before, with the pace that they showed: their times to Done against the plan's, over all their classes. */
    async list(ownerId: string): Promise<Person[]> {
      const people = await manager.find(PersonEntity, { where: { ownerId }, order: { firstName: 'ASC' } });
      if (people.length === 0) return [];
      const find = () => manager.findBy(ClassStudentEntity, { personId: In(people.map((one) => one.id)) });
      let links = await find();
      // Only the logs of classes that went on since are folded.
      const heads = new Map(
        (
          await manager.find(ClassEntity, {
            select: { id: true, lastSeq: true },
            where: { id: In(links.map((link) => link.classId)) },
          })
        ).map(({ id, lastSeq }) => [id, lastSeq]),
      );
      const wentOn = new Set(links.filter((link) => link.paceSeq < (heads.get(link.classId) ?? 0)).map((link) => link.classId));
      for (const classId of wentOn) await keepPaces(classId);
      if (wentOn.size > 0) links = await find();
      return people.map(({ id, firstName }) => {
        const own = links.filter((link) => link.personId === id);
        const found = personPace(own);
        return {
          id,
          firstName,
          classes: own.length,
          pace: found && hundredth(found.factor),
          ...(found && { paceFrom: hundredth(found.from), paceTo: hundredth(found.to) }),
        };
      });
    },
  };
}
export type PeopleStore = ReturnType<typeof peopleStore>;

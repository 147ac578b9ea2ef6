import {
  type Invite,
  type Lesson,
  type Letter,
  languageOf,
  localeNow,
  type NewReminders,
  type Studio,
  say,
  serverErrors,
} from '@viaticum/contract';
import { toIcs } from '@viaticum/core/format';
import { bringFor } from '@viaticum/core/kit';
import { nanoid } from 'nanoid';
import { IsNull } from 'typeorm';
import { type ClassEntity, LetterEntity, StudioEntity } from '../../db/entities.js';
import type { Database } from '../../db/source.js';
import { ApiFault, notFound } from '../../errors.js';
import { readBy } from '../../language.js';
import type { ClassStore } from '../store.js';

/** Letters to those on a roster, which only the outbox stand-in gets: nothing is sent from here. */
export function letterStore({ source: { manager } }: Database, classes: ClassStore) {
  /** What people who come again have, by their id. */
  const thingsOf = async (ownerId: string): Promise<Map<string, string[]>> => {
    const found = await manager.findOneBy(StudioEntity, { instructorId: ownerId });
    const { has = [] } = found ? (JSON.parse(found.document) as Partial<Studio>) : {};
    return new Map(has.map(({ personId, things }) => [personId, things]));
  };
  return {
    /** Writes a letter to everybody on the roster into the outbox: when, where, the code, what to bring, and a file for calendars. */
    async write(one: ClassEntity, joinAddress: string): Promise<number> {
      const invite = one.invite ? (JSON.parse(one.invite) as Invite) : null;
      if (!invite || invite.roster.length === 0) throw new ApiFault(serverErrors.rosterEmpty);
      const text = await classes.lessonText(one);
      const lesson = JSON.parse(text) as Lesson;
      const { aboutMin, bookedMin } = await classes.forecast(text, invite.seats, one.ownerId);
      return readBy(languageOf(one.language), async () => {
        const startMs = new Date(invite.startsAt).getTime();
        const things = await thingsOf(one.ownerId);
        const bring = bringFor(lesson);
        const { timeZone } = invite;
        const joinAt = say`Join at ${joinAddress}`;
        const when = new Intl.DateTimeFormat(localeNow(), { dateStyle: 'full', timeStyle: 'short', timeZone }).format(startMs);
        const time = new Intl.DateTimeFormat(localeNow(), { timeStyle: 'short', timeZone });
        const endMs = startMs + bookedMin * 60_000;
        const ends = say`It ends about ${time.format(startMs + aboutMin * 60_000)}, at the latest ${time.format(endMs)}.`;
        const words = `${when}${invite.place ? `, ${invite.place}` : ''}.\n${ends}\n${joinAt}\n\n`;
        const ics = toIcs(
          lesson.title,
          [
            {
              id: one.id,
              title: lesson.title,
              startMs,
              endMs,
              place: invite.place,
              words: `${bring}\n${joinAt}`,
              url: joinAddress,
            },
          ],
          Date.now(),
        );
        // Who came before is asked only for what they lack.
        const bringOf = (personId: string | undefined): string => {
          const has = personId === undefined ? undefined : things.get(personId);
          return has ? bringFor(lesson, new Set(has)) : bring;
        };
        const rows = invite.roster.map(({ firstName, personId }) => ({
          id: nanoid(12),
          ownerId: one.ownerId,
          classId: one.id,
          at: Date.now(),
          dueAt: null,
          toName: firstName,
          subject: lesson.title,
          text: `${say`${firstName}, you are expected on ${words}`}${bringOf(personId)}`,
          attachment: ics,
        }));
        await manager.insert(LetterEntity, rows);
        return rows.length;
      });
    },

    /** Letters to oneself, each for a day to come, with one file for calendars. */
    async remind({ id: ownerId, name }: { id: string; name: string }, { reminders, ics }: NewReminders): Promise<number> {
      await manager.insert(
        LetterEntity,
        reminders.map(({ dueAt, subject, text }) => ({
          ...{ id: nanoid(12), ownerId, classId: null, at: Date.now(), dueAt, toName: name.slice(0, 40), subject, text },
          attachment: ics,
        })),
      );
      return reminders.length;
    },

    /** A letter to oneself that was seen. */
    async forget(ownerId: string, id: string): Promise<void> {
      const { affected } = await manager.delete(LetterEntity, { id, ownerId, classId: IsNull() });
      if (!affected) throw notFound('letter of yours');
    },

    async list(ownerId: string): Promise<Letter[]> {
      const rows = await manager.find(LetterEntity, { where: { ownerId }, order: { at: 'DESC', toName: 'ASC' }, take: 300 });
      return rows.map((row) => ({
        id: row.id,
        at: new Date(row.at).toISOString(),
        dueAt: row.dueAt === null ? null : new Date(row.dueAt).toISOString(),
        to: row.toName,
        subject: row.subject,
        text: row.text,
        attachment: row.attachment,
      }));
    },
  };
}
export type LetterStore = ReturnType<typeof letterStore>;

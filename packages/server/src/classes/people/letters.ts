import { type Invite, type Lesson, type Letter, serverErrors } from '@viaticum/contract';
import { bringInWords } from '@viaticum/core/derived';
import { toIcs } from '@viaticum/core/format';
import { nanoid } from 'nanoid';
import { type ClassEntity, LetterEntity } from '../../db/entities.js';
import type { Database } from '../../db/source.js';
import { ApiFault } from '../../errors.js';
import type { ClassStore } from '../store.js';

/** Letters to those on a roster, which only the outbox stand-in gets: nothing is sent from here. */
export function letterStore({ source: { manager } }: Database, classes: ClassStore) {
  return {
    /** Writes a letter to everybody on the roster into the outbox: when, where, the code, what to bring, and a file for calendars. */
    async write(one: ClassEntity, joinAddress: string): Promise<number> {
      const invite = one.invite ? (JSON.parse(one.invite) as Invite) : null;
      if (!invite || invite.roster.length === 0) throw new ApiFault(serverErrors.rosterEmpty);
      const lesson = JSON.parse(await classes.lessonText(one)) as Lesson;
      const { plan } = await classes.sheetOf(one.revisionId);
      const startMs = new Date(invite.startsAt).getTime();
      const bring = bringInWords(lesson);
      const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeStyle: 'short', timeZone: invite.timeZone }).format(
        startMs,
      );
      const words = `${when}${invite.place ? `, ${invite.place}` : ''}.\nJoin at ${joinAddress}\n\n${bring}`;
      const ics = toIcs(
        lesson.title,
        [
          {
            id: one.id,
            title: lesson.title,
            startMs,
            endMs: startMs + Math.max(5, Math.ceil(plan.endMin / 5) * 5) * 60_000,
            place: invite.place,
            words: `${bring}\nJoin at ${joinAddress}`,
            url: joinAddress,
          },
        ],
        Date.now(),
      );
      const rows = invite.roster.map(({ firstName }) => ({
        id: nanoid(12),
        ownerId: one.ownerId,
        classId: one.id,
        at: Date.now(),
        toName: firstName,
        subject: lesson.title,
        text: `${firstName}, you are expected on ${words}`,
        attachment: ics,
      }));
      await manager.insert(LetterEntity, rows);
      return rows.length;
    },

    async list(ownerId: string): Promise<Letter[]> {
      const rows = await manager.find(LetterEntity, { where: { ownerId }, order: { at: 'DESC', toName: 'ASC' }, take: 300 });
      return rows.map((row) => ({
        id: row.id,
        at: new Date(row.at).toISOString(),
        to: row.toName,
        subject: row.subject,
        text: row.text,
        attachment: row.attachment,
      }));
    },
  };
}
export type LetterStore = ReturnType<typeof letterStore>;

import type { AccountRole, FilmType, GivenRole, RevisionKind, ShootNote } from '@viaticum/contract';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

const bigint = { from: (value: string | number) => Number(value), to: (value: number) => value };
/** As above, where there may be none. */
const bigintOrNone = {
  from: (value: string | number | null) => (value === null ? null : Number(value)),
  to: (value: number | null) => value,
};
const yesNo = { from: Boolean, to: (value: boolean) => (value ? 1 : 0) };

@Entity('instructor')
export class InstructorEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { length: 120, unique: true }) name: string;
  @Column('varchar', { name: 'password_hash', length: 255 }) passwordHash: string;
  @Column('varchar', { length: 10 }) role: AccountRole;
  @Column('bigint', { name: 'created_at', transformer: bigint }) createdAt: number;
  @Column('tinyint', { name: 'is_off', transformer: yesNo }) isOff: boolean;
  /** The secret shared with an authenticator, in base 32; null: none. */
  @Column('varchar', { name: 'second_factor', length: 64, nullable: true }) secondFactor: string | null;
  /** One that is being set up, until its first digits have been entered. */
  @Column('varchar', { name: 'second_factor_pending', length: 64, nullable: true }) secondFactorPending: string | null;
  /** The last interval of time whose digits were used: they are taken once. */
  @Column('bigint', { name: 'second_factor_used', transformer: bigint }) secondFactorUsed: number;
  /** JSON: hashes of the codes that were written down and not used yet. */
  @Column('varchar', { name: 'spare_codes', length: 1000 }) spareCodes: string;
  /** JSON: how they measure; null: never said. */
  @Column('varchar', { length: 200, nullable: true }) measures: string | null;
  /** After so many days the names of a class are erased; null: they stay. */
  @Column('int', { name: 'retention_days', nullable: true }) retentionDays: number | null;
}

@Entity('session')
export class SessionEntity {
  @PrimaryColumn('char', { name: 'token_hash', length: 64 }) tokenHash: string;
  @Column('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
  /** The end that comes however much it is used. */
  @Column('bigint', { name: 'expires_at', transformer: bigint }) expiresAt: number;
  /** By which it is listed and ended; tells nothing about its token. */
  @Column('varchar', { length: 32, unique: true }) id: string;
  @Column('bigint', { name: 'created_at', transformer: bigint }) createdAt: number;
  @Column('bigint', { name: 'seen_at', transformer: bigint }) seenAt: number;
  @Column('varchar', { length: 120 }) device: string;
}

/** A link that was handed out: to make an account, or to set a new password. Gone once it is used. */
@Entity('account_link')
export class AccountLinkEntity {
  @PrimaryColumn('char', { name: 'token_hash', length: 64 }) tokenHash: string;
  @Column('varchar', { length: 32, unique: true }) id: string;
  @Column('varchar', { length: 8 }) kind: 'invite' | 'reset';
  @Column('varchar', { name: 'instructor_id', length: 32, nullable: true }) instructorId: string | null;
  @Column('bigint', { name: 'made_at', transformer: bigint }) madeAt: number;
  @Column('bigint', { name: 'expires_at', transformer: bigint }) expiresAt: number;
}

/** The outbox stand-in, for letters about accounts. One with a link goes with the link. */
@Entity('account_letter')
export class AccountLetterEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('bigint', { transformer: bigint }) at: number;
  @Column('bigint', { name: 'expires_at', transformer: bigint }) expiresAt: number;
  @Column('varchar', { name: 'to_name', length: 120 }) toName: string;
  @Column('varchar', { length: 200 }) subject: string;
  @Column('text') text: string;
  @Column('varchar', { name: 'link_id', length: 32, nullable: true }) linkId: string | null;
}

@Entity('picture')
export class PictureEntity {
  @PrimaryColumn('char', { length: 64 }) sha256: string;
  @Column('int', { name: 'width_px' }) widthPx: number;
  @Column('int', { name: 'height_px' }) heightPx: number;
  @Column('varchar', { length: 8 }) format: string;
  /** Of its file `full`; null: not looked at yet. */
  @Column('char', { name: 'content_sha256', length: 64, nullable: true }) contentSha256: string | null;
  /** It came in a package under this name, and nobody uploaded what the name is the hash of. */
  @Column('tinyint', { name: 'is_borne', transformer: yesNo }) isBorne: boolean;
}

@Entity('picture_owner')
export class PictureOwnerEntity {
  @PrimaryColumn('char', { length: 64 }) sha256: string;
  @PrimaryColumn('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
}

@Entity('lesson')
export class LessonEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('int') revision: number;
  @Column('bigint', { name: 'updated_at', transformer: bigint }) updatedAt: number;
  /** Of the present revision, so that lists read no document. */
  @Column('varchar', { length: 120 }) title: string;
  /** JSON of its card on the shelf; null: not made yet. */
  @Column('longtext', { nullable: true }) card: string | null;
  /** JSON of what can be found in it; null: not made yet. */
  @Column('longtext', { nullable: true, select: false }) words: string | null;
  /** When it was deleted; null: it stands on the shelf. */
  @Column('bigint', { name: 'removed_at', nullable: true, transformer: bigintOrNone }) removedAt: number | null;
}

@Entity('lesson_revision')
export class LessonRevisionEntity {
  @PrimaryGeneratedColumn({ type: 'int' }) id: number;
  @Column('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('int') number: number;
  @Column('varchar', { length: 8 }) kind: RevisionKind;
  @Column('varchar', { name: 'author_id', length: 32 }) authorId: string;
  @Column('longtext') document: string;
  @Column('bigint', { name: 'created_at', transformer: bigint }) createdAt: number;
  /** What its author calls it; such a version stays. */
  @Column('varchar', { length: 120, nullable: true }) name: string | null;
}

/** Where a lesson stands for one instructor. */
@Entity('shelf_place')
export class ShelfPlaceEntity {
  @PrimaryColumn('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('tinyint', { name: 'is_archived', transformer: yesNo }) isArchived: boolean;
  /** JSON: a list of words. */
  @Column('varchar', { length: 1000 }) labels: string;
}

/** What is kept of a class that was taught, or noted by hand. */
@Entity('class_log')
export class ClassLogEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('varchar', { name: 'class_id', length: 32, nullable: true }) classId: string | null;
  @Column('varchar', { length: 8, nullable: true }) code: string | null;
  /** Of what was painted or filmed alone: what it is, so that it is written once. */
  @Column('varchar', { length: 80, nullable: true }) source: string | null;
  @Column('bigint', { transformer: bigint }) at: number;
  /** JSON: a log but what no list shows (touches, paces, heaps, results …), which stands in `facts`. */
  @Column('mediumtext') card: string;
  @Column('mediumtext') facts: string;
  /** What is looked for in. */
  @Column('mediumtext') words: string;
}

/** Lessons in an order, taught one after the other. */
@Entity('course')
export class CourseEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { length: 120 }) title: string;
  /** JSON: a list of ids. */
  @Column('text', { name: 'lesson_ids' }) lessonIds: string;
  @Column('bigint', { name: 'updated_at', transformer: bigint }) updatedAt: number;
}

/** With whom else a lesson is shared. */
@Entity('lesson_share')
export class LessonShareEntity {
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @PrimaryColumn('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
  @Column('varchar', { length: 8 }) role: GivenRole;
}

/** An address by which an instructor who is signed in comes to share a lesson. */
@Entity('lesson_share_link')
export class LessonShareLinkEntity {
  @PrimaryColumn('char', { name: 'token_hash', length: 64 }) tokenHash: string;
  @Column('varchar', { length: 32, unique: true }) id: string;
  @Column('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('varchar', { length: 8 }) role: GivenRole;
  @Column('bigint', { name: 'made_at', transformer: bigint }) madeAt: number;
  @Column('bigint', { name: 'expires_at', transformer: bigint }) expiresAt: number;
}

/** A picture or a film that a shared lesson shows, put there by somebody who may see it. */
@Entity('lesson_file')
export class LessonFileEntity {
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @PrimaryColumn('char', { length: 64 }) sha256: string;
}

/** A browser in which a lesson is open now. */
@Entity('lesson_here')
export class LessonHereEntity {
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @PrimaryColumn('varchar', { length: 32 }) seat: string;
  @Column('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
  @Column('varchar', { length: 40 }) place: string;
  @Column('bigint', { name: 'seen_at', transformer: bigint }) seenAt: number;
}

@Entity('class')
export class ClassEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('char', { length: 6, unique: true }) code: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('int', { name: 'revision_id' }) revisionId: number;
  @Column('varchar', { length: 64 }) secret: string;
  @Column('int', { name: 'last_seq' }) lastSeq: number;
  @Column('varchar', { length: 8 }) phase: string;
  @Column('bigint', { name: 'opened_at', transformer: bigint }) openedAt: number;
  @Column('tinyint') rehearsal: number;
  /** JSON of the invitation, for a class that was planned. */
  @Column('longtext', { nullable: true }) invite: string | null;
  /** The title of what is taught. */
  @Column('varchar', { length: 120 }) title: string;
  /** JSON: how often the key of each kind of device was made anew. */
  @Column('varchar', { name: 'device_round', length: 60 }) deviceRound: string;
  /** The machine's address that its instructor chose for the phones; null: the usual one. */
  @Column('varchar', { length: 200, nullable: true }) address: string | null;
  /** In which language its phones, wall and letters are. */
  @Column('char', { length: 2, nullable: true }) language: string | null;
}

/** What an instructor keeps of a student of a class; never sent to phones. */
@Entity('class_student')
export class ClassStudentEntity {
  @PrimaryColumn('varchar', { name: 'class_id', length: 32 }) classId: string;
  @PrimaryColumn('varchar', { name: 'student_id', length: 32 }) studentId: string;
  @Column('varchar', { name: 'person_id', length: 32, nullable: true }) personId: string | null;
  @Column('varchar', { length: 1000 }) note: string;
  /** Sum of the logarithms of their times to Done against the plan's, how many, and up to which event of the class. */
  @Column('double', { name: 'pace_sum' }) paceSum: number;
  @Column('int', { name: 'pace_count' }) paceCount: number;
  @Column('int', { name: 'pace_seq' }) paceSeq: number;
}

/** Someone who came to a class before, by their first name. */
@Entity('person')
export class PersonEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { name: 'first_name', length: 40 }) firstName: string;
}

/** The outbox stand-in: letters are written here and go nowhere. */
@Entity('letter')
export class LetterEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { name: 'class_id', length: 32, nullable: true }) classId: string | null;
  @Column('bigint', { transformer: bigint }) at: number;
  /** The day at which it is to be thought of; null: it was due when it was written. */
  @Column('bigint', { name: 'due_at', transformer: bigint, nullable: true }) dueAt: number | null;
  @Column('varchar', { name: 'to_name', length: 40 }) toName: string;
  @Column('varchar', { length: 200 }) subject: string;
  @Column('longtext') text: string;
  @Column('longtext', { nullable: true }) attachment: string | null;
}

/** A link by which a lesson, as it was, is painted alone. */
@Entity('alone_link')
export class AloneLinkEntity {
  @PrimaryColumn('varchar', { length: 32 }) token: string;
  @Column('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @Column('int', { name: 'revision_id' }) revisionId: number;
}

/** What an instructor's studio has and pays. */
@Entity('studio')
export class StudioEntity {
  @PrimaryColumn('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
  @Column('longtext') document: string;
}

/** The link by which a lesson's lists are ticked on a phone. */
@Entity('kit_link')
export class KitLinkEntity {
  @PrimaryColumn('varchar', { length: 32 }) token: string;
  @Column('varchar', { name: 'lesson_id', length: 32, unique: true }) lessonId: string;
}

@Entity('kit_tick')
export class KitTickEntity {
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @PrimaryColumn('varchar', { length: 120 }) item: string;
  @Column('bigint', { transformer: bigint }) at: number;
}

@Entity('film_file')
export class FilmFileEntity {
  @PrimaryColumn('char', { length: 64 }) sha256: string;
  @Column('bigint', { transformer: bigint }) bytes: number;
  @Column('varchar', { length: 20 }) type: FilmType;
  @Column('varchar', { length: 120 }) name: string;
  @Column('bigint', { name: 'created_at', transformer: bigint }) createdAt: number;
}

@Entity('film_owner')
export class FilmOwnerEntity {
  @PrimaryColumn('char', { length: 64 }) sha256: string;
  @PrimaryColumn('varchar', { name: 'instructor_id', length: 32 }) instructorId: string;
}

/** A film that is arriving: how much of it is there, so that it goes on after the line or the server was cut. */
@Entity('film_upload')
export class FilmUploadEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { length: 120 }) name: string;
  @Column('bigint', { transformer: bigint }) bytes: number;
  @Column('bigint', { transformer: bigint }) received: number;
  @Column('bigint', { name: 'touched_at', transformer: bigint }) touchedAt: number;
}

/** The address at which a lesson's shooting list is ticked. */
@Entity('shoot_link')
export class ShootLinkEntity {
  @PrimaryColumn('varchar', { length: 32 }) token: string;
  @Column('varchar', { name: 'lesson_id', length: 32, unique: true }) lessonId: string;
}

@Entity('shoot_note')
export class ShootNoteEntity {
  @PrimaryColumn('varchar', { name: 'lesson_id', length: 32 }) lessonId: string;
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('bigint', { transformer: bigint }) at: number;
  @Column('varchar', { name: 'take_id', length: 160 }) takeId: string;
  @Column('varchar', { length: 8 }) kind: ShootNote['kind'];
}

@Entity('class_event')
export class ClassEventEntity {
  @PrimaryColumn('varchar', { name: 'class_id', length: 32 }) classId: string;
  @PrimaryColumn('int') seq: number;
  @Column('bigint', { transformer: bigint }) at: number;
  @Column('varchar', { length: 40 }) actor: string;
  @Column('varchar', { name: 'command_id', length: 32 }) commandId: string;
  @Column('longtext') body: string;
}

/** The name of who joined or was renamed in an event; without it the event names nobody. */
@Entity('class_name')
export class ClassNameEntity {
  @PrimaryColumn('varchar', { name: 'class_id', length: 32 }) classId: string;
  @PrimaryColumn('int') seq: number;
  @Column('varchar', { name: 'student_id', length: 32 }) studentId: string;
  @Column('varchar', { name: 'first_name', length: 40 }) firstName: string;
}

@Entity('kept')
export class KeptEntity {
  @PrimaryColumn('varchar', { length: 32 }) id: string;
  @Column('varchar', { name: 'owner_id', length: 32 }) ownerId: string;
  @Column('varchar', { length: 8 }) kind: string;
  @Column('varchar', { length: 120 }) name: string;
  @Column('longtext') document: string;
}

export const entities = [
  InstructorEntity,
  SessionEntity,
  AccountLinkEntity,
  AccountLetterEntity,
  PictureEntity,
  PictureOwnerEntity,
  LessonEntity,
  LessonRevisionEntity,
  ShelfPlaceEntity,
  ClassLogEntity,
  CourseEntity,
  LessonShareEntity,
  LessonShareLinkEntity,
  LessonFileEntity,
  LessonHereEntity,
  ClassEntity,
  ClassEventEntity,
  ClassNameEntity,
  KeptEntity,
  ClassStudentEntity,
  PersonEntity,
  LetterEntity,
  AloneLinkEntity,
  StudioEntity,
  KitLinkEntity,
  KitTickEntity,
  FilmFileEntity,
  FilmOwnerEntity,
  FilmUploadEntity,
  ShootLinkEntity,
  ShootNoteEntity,
];

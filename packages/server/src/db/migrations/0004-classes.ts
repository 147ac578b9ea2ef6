import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';
const key = `VARCHAR(32) ${exact}`;

/** Invitations and rehearsals, returning students and notes, the outbox stand-in, and links to paint alone. */
export class Classes1700000000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE class ADD rehearsal TINYINT(1) NOT NULL DEFAULT 0, ADD invite LONGTEXT NULL');
    await runner.query(`CREATE TABLE person (
      id ${key} PRIMARY KEY, owner_id ${key} NOT NULL, first_name VARCHAR(40) NOT NULL,
      CONSTRAINT fk_person_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE class_student (
      class_id ${key} NOT NULL, student_id ${key} NOT NULL, person_id ${key} NULL, note VARCHAR(1000) NOT NULL DEFAULT '',
      PRIMARY KEY (class_id, student_id),
      CONSTRAINT fk_class_student_class FOREIGN KEY (class_id) REFERENCES class (id) ON DELETE CASCADE,
      CONSTRAINT fk_class_student_person FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE SET NULL
    ) ${table}`);
    await runner.query(`CREATE TABLE letter (
      id ${key} PRIMARY KEY, owner_id ${key} NOT NULL, class_id ${key} NOT NULL, at BIGINT NOT NULL, to_name VARCHAR(40) NOT NULL,
      subject VARCHAR(200) NOT NULL, text LONGTEXT NOT NULL, attachment LONGTEXT NULL,
      CONSTRAINT fk_letter_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE alone_link (
      token ${key} PRIMARY KEY, lesson_id ${key} NOT NULL, revision_id INT NOT NULL,
      CONSTRAINT fk_alone_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ${table}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    for (const name of ['alone_link', 'letter', 'class_student', 'person']) await runner.query(`DROP TABLE ${name}`);
    await runner.query('ALTER TABLE class DROP COLUMN rehearsal, DROP COLUMN invite');
  }
}

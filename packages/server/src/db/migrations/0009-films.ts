import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';

/** Films that stand beside the steps of a lesson, those that are arriving, and what is noted while a lesson is filmed. */
export class Films1700000000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE film_file (
      sha256 CHAR(64) ${exact} PRIMARY KEY, bytes BIGINT NOT NULL, type VARCHAR(20) NOT NULL,
      name VARCHAR(120) NOT NULL, created_at BIGINT NOT NULL
    ) ${table}`);
    await runner.query(`CREATE TABLE film_owner (
      sha256 CHAR(64) ${exact} NOT NULL, instructor_id VARCHAR(32) ${exact} NOT NULL,
      PRIMARY KEY (sha256, instructor_id),
      CONSTRAINT fk_film_owner_file FOREIGN KEY (sha256) REFERENCES film_file (sha256) ON DELETE CASCADE,
      CONSTRAINT fk_film_owner_of FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE film_upload (
      id VARCHAR(32) ${exact} PRIMARY KEY, owner_id VARCHAR(32) ${exact} NOT NULL, name VARCHAR(120) NOT NULL,
      bytes BIGINT NOT NULL, received BIGINT NOT NULL, touched_at BIGINT NOT NULL,
      CONSTRAINT fk_film_upload_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE shoot_link (
      token VARCHAR(32) ${exact} PRIMARY KEY, lesson_id VARCHAR(32) ${exact} NOT NULL,
      CONSTRAINT uq_shoot_link UNIQUE (lesson_id),
      CONSTRAINT fk_shoot_link_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE shoot_note (
      lesson_id VARCHAR(32) ${exact} NOT NULL, id VARCHAR(32) ${exact} NOT NULL, at BIGINT NOT NULL,
      take_id VARCHAR(160) ${exact} NOT NULL, kind VARCHAR(8) NOT NULL,
      PRIMARY KEY (lesson_id, id),
      CONSTRAINT fk_shoot_note_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ${table}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    for (const name of ['shoot_note', 'shoot_link', 'film_upload', 'film_owner', 'film_file'])
      await runner.query(`DROP TABLE ${name}`);
  }
}

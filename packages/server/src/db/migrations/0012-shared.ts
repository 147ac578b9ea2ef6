import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const options = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';

/** Lessons are shared with other instructors, who see each other while they work on one. */
export class Shared1700000000012 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE lesson_share (
      lesson_id VARCHAR(32) ${exact} NOT NULL,
      instructor_id VARCHAR(32) ${exact} NOT NULL,
      role VARCHAR(8) ${exact} NOT NULL,
      PRIMARY KEY (lesson_id, instructor_id),
      KEY ix_share_instructor (instructor_id),
      CONSTRAINT fk_share_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE,
      CONSTRAINT fk_share_instructor FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${options}`);
    await runner.query(`CREATE TABLE lesson_share_link (
      token_hash CHAR(64) ${exact} NOT NULL PRIMARY KEY,
      id VARCHAR(32) ${exact} NOT NULL UNIQUE,
      lesson_id VARCHAR(32) ${exact} NOT NULL,
      role VARCHAR(8) ${exact} NOT NULL,
      made_at BIGINT NOT NULL,
      expires_at BIGINT NOT NULL,
      KEY ix_share_link_lesson (lesson_id),
      CONSTRAINT fk_share_link_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ${options}`);
    // Pictures and films that a shared lesson shows, each put there by somebody who may see it.
    await runner.query(`CREATE TABLE lesson_file (
      lesson_id VARCHAR(32) ${exact} NOT NULL,
      sha256 CHAR(64) ${exact} NOT NULL,
      PRIMARY KEY (lesson_id, sha256),
      KEY ix_lesson_file (sha256),
      CONSTRAINT fk_lesson_file FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ${options}`);
    await runner.query(`CREATE TABLE lesson_here (
      lesson_id VARCHAR(32) ${exact} NOT NULL,
      seat VARCHAR(32) ${exact} NOT NULL,
      instructor_id VARCHAR(32) ${exact} NOT NULL,
      place VARCHAR(40) NOT NULL,
      seen_at BIGINT NOT NULL,
      PRIMARY KEY (lesson_id, seat),
      KEY ix_here_seen (seen_at),
      CONSTRAINT fk_here_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE,
      CONSTRAINT fk_here_instructor FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${options}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['lesson_here', 'lesson_file', 'lesson_share_link', 'lesson_share'])
      await runner.query(`DROP TABLE ${table}`);
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const options = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';

/** Lessons are found by what stands in them, put away, labelled, and ordered in courses. */
export class Shelf1700000000013 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE lesson ADD COLUMN words LONGTEXT NULL');
    await runner.query(`CREATE TABLE shelf_place (
      instructor_id VARCHAR(32) ${exact} NOT NULL,
      lesson_id VARCHAR(32) ${exact} NOT NULL,
      is_archived TINYINT NOT NULL,
      labels VARCHAR(1000) NOT NULL,
      PRIMARY KEY (instructor_id, lesson_id),
      KEY ix_place_lesson (lesson_id),
      CONSTRAINT fk_place_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE,
      CONSTRAINT fk_place_instructor FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${options}`);
    await runner.query(`CREATE TABLE course (
      id VARCHAR(32) ${exact} NOT NULL PRIMARY KEY,
      owner_id VARCHAR(32) ${exact} NOT NULL,
      title VARCHAR(120) NOT NULL,
      lesson_ids TEXT ${exact} NOT NULL,
      updated_at BIGINT NOT NULL,
      KEY ix_course_owner (owner_id),
      CONSTRAINT fk_course_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${options}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE course');
    await runner.query('DROP TABLE shelf_place');
    await runner.query('ALTER TABLE lesson DROP COLUMN words');
  }
}

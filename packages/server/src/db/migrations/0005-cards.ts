import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Titles and cards of their own for lists, kept paces, keys of devices that can be recalled, and what the housekeeping looks for. */
export class Cards1700000000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("ALTER TABLE lesson ADD title VARCHAR(120) NOT NULL DEFAULT '', ADD card LONGTEXT NULL");
    await runner.query('ALTER TABLE lesson ADD KEY ix_lesson_owner (owner_id, updated_at)');
    await runner.query(
      "ALTER TABLE class ADD title VARCHAR(120) NOT NULL DEFAULT '', ADD device_round VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '{}'",
    );
    await runner.query('ALTER TABLE class ADD KEY ix_class_owner (owner_id, opened_at)');
    await runner.query(
      'ALTER TABLE class_student ADD pace_sum DOUBLE NOT NULL DEFAULT 0, ADD pace_count INT NOT NULL DEFAULT 0, ADD pace_seq INT NOT NULL DEFAULT -1',
    );
    await runner.query('ALTER TABLE session ADD KEY ix_session_expires (expires_at)');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE session DROP KEY ix_session_expires');
    await runner.query('ALTER TABLE class_student DROP COLUMN pace_sum, DROP COLUMN pace_count, DROP COLUMN pace_seq');
    await runner.query('ALTER TABLE class DROP COLUMN title, DROP COLUMN device_round');
    await runner.query('ALTER TABLE lesson DROP COLUMN title, DROP COLUMN card');
  }
}

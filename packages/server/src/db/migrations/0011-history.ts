import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Versions of a lesson can be given names; they are found by their time. */
export class History1700000000011 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE lesson_revision ADD COLUMN name VARCHAR(120) NULL,
      ADD KEY ix_revision_time (lesson_id, kind, created_at)`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE lesson_revision DROP KEY ix_revision_time, DROP COLUMN name');
  }
}

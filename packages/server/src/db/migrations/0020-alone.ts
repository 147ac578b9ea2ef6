import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

/** What one painted or filmed alone stands in the log too, each once; letters to oneself for a day to come. */
export class Alone1700000000020 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE class_log ADD COLUMN source VARCHAR(80) ${exact} NULL UNIQUE`);
    await runner.query(`ALTER TABLE letter ADD COLUMN due_at BIGINT NULL, MODIFY class_id VARCHAR(32) ${exact} NULL`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DELETE FROM letter WHERE class_id IS NULL');
    await runner.query(`ALTER TABLE letter DROP COLUMN due_at, MODIFY class_id VARCHAR(32) ${exact} NOT NULL`);
    await runner.query('ALTER TABLE class_log DROP COLUMN source');
  }
}

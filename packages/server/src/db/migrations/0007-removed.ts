import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A lesson that was deleted stands on no shelf; its classes and what happened in them stay, and it can be brought back. */
export class Removed1700000000007 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE lesson ADD removed_at BIGINT NULL');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE lesson DROP COLUMN removed_at');
  }
}

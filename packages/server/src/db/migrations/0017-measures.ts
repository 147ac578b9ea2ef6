import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How an instructor measures. */
export class Measures1700000000017 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE instructor ADD COLUMN measures VARCHAR(200) NULL');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE instructor DROP COLUMN measures');
  }
}

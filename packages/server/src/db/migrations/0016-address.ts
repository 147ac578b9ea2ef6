import type { MigrationInterface, QueryRunner } from 'typeorm';

/** At which of the machine's addresses the phones of a class come in. */
export class Address1700000000016 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE class ADD COLUMN address VARCHAR(200) NULL');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE class DROP COLUMN address');
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

/** In which language phones, wall and letters of a class are; null as its lesson was when it was made. */
export class Language1700000000018 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE class ADD COLUMN language CHAR(2) NULL');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE class DROP COLUMN language');
  }
}

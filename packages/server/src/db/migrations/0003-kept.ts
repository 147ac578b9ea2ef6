import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

/** Steps and methods that an instructor keeps for other lessons. */
export class Kept1700000000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE kept (
      id VARCHAR(32) ${exact} PRIMARY KEY, owner_id VARCHAR(32) ${exact} NOT NULL, kind VARCHAR(8) ${exact} NOT NULL,
      name VARCHAR(120) NOT NULL, document LONGTEXT NOT NULL,
      CONSTRAINT uq_kept_name UNIQUE (owner_id, kind, name),
      CONSTRAINT fk_kept_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE kept');
  }
}

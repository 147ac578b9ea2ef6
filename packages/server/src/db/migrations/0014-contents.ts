import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

/** What a picture's file holds is known by its hash as well; one that came in a package may bear a name that nobody can check. */
export class Contents1700000000014 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE picture ADD COLUMN content_sha256 CHAR(64) ${exact} NULL, ADD COLUMN is_borne TINYINT NOT NULL DEFAULT 0`,
    );
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE picture DROP COLUMN content_sha256, DROP COLUMN is_borne');
  }
}

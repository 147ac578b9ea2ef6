import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';

/** An owner, a second factor, sessions that are listed and run out unused, links by which accounts are made or got back. */
export class Accounts1700000000010 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE instructor
      ADD COLUMN role VARCHAR(10) ${exact} NOT NULL DEFAULT 'instructor',
      ADD COLUMN created_at BIGINT NOT NULL DEFAULT 0,
      ADD COLUMN is_off TINYINT NOT NULL DEFAULT 0,
      ADD COLUMN second_factor VARCHAR(64) ${exact} NULL,
      ADD COLUMN second_factor_pending VARCHAR(64) ${exact} NULL,
      ADD COLUMN second_factor_used BIGINT NOT NULL DEFAULT 0,
      ADD COLUMN spare_codes VARCHAR(1000) ${exact} NOT NULL DEFAULT '[]',
      ADD COLUMN one_owner TINYINT AS (IF(role = 'owner', 1, NULL)) PERSISTENT,
      ADD CONSTRAINT uq_one_owner UNIQUE (one_owner)`);
    await runner.query("UPDATE instructor SET role = 'demo' WHERE name = 'demo'");
    await runner.query(`ALTER TABLE session
      ADD COLUMN id VARCHAR(32) ${exact} NOT NULL DEFAULT '',
      ADD COLUMN created_at BIGINT NOT NULL DEFAULT 0,
      ADD COLUMN seen_at BIGINT NOT NULL DEFAULT 0,
      ADD COLUMN device VARCHAR(120) NOT NULL DEFAULT ''`);
    // Those who are signed in stay so.
    await runner.query(
      'UPDATE session SET id = LEFT(token_hash, 12), created_at = UNIX_TIMESTAMP() * 1000, seen_at = UNIX_TIMESTAMP() * 1000',
    );
    await runner.query('ALTER TABLE session ADD CONSTRAINT uq_session_id UNIQUE (id)');
    await runner.query(`CREATE TABLE account_link (
      token_hash CHAR(64) ${exact} PRIMARY KEY, id VARCHAR(32) ${exact} NOT NULL, kind VARCHAR(8) ${exact} NOT NULL,
      instructor_id VARCHAR(32) ${exact} NULL, made_at BIGINT NOT NULL, expires_at BIGINT NOT NULL,
      CONSTRAINT uq_account_link_id UNIQUE (id),
      CONSTRAINT fk_account_link_of FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ${table}`);
    await runner.query(`CREATE TABLE account_letter (
      id VARCHAR(32) ${exact} PRIMARY KEY, at BIGINT NOT NULL, expires_at BIGINT NOT NULL, to_name VARCHAR(120) NOT NULL,
      subject VARCHAR(200) NOT NULL, text TEXT NOT NULL, link_id VARCHAR(32) ${exact} NULL,
      CONSTRAINT fk_account_letter_link FOREIGN KEY (link_id) REFERENCES account_link (id) ON DELETE CASCADE
    ) ${table}`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE account_letter');
    await runner.query('DROP TABLE account_link');
    await runner.query('ALTER TABLE session DROP COLUMN id, DROP COLUMN created_at, DROP COLUMN seen_at, DROP COLUMN device');
    await runner.query(`ALTER TABLE instructor DROP COLUMN one_owner, DROP COLUMN role, DROP COLUMN created_at, DROP COLUMN is_off, DROP COLUMN second_factor,
      DROP COLUMN second_factor_pending, DROP COLUMN second_factor_used, DROP COLUMN spare_codes`);
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

/** What is kept of classes that were taught: planned against actual, touches, paces; nobody is named. */
export class Log1700000000019 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE class_log (
        id VARCHAR(32) ${exact} NOT NULL PRIMARY KEY,
        owner_id VARCHAR(32) ${exact} NOT NULL,
        lesson_id VARCHAR(32) ${exact} NOT NULL,
        class_id VARCHAR(32) ${exact} NULL UNIQUE,
        code VARCHAR(8) ${exact} NULL,
        at BIGINT NOT NULL,
        card MEDIUMTEXT NOT NULL,
        facts MEDIUMTEXT NOT NULL,
        words MEDIUMTEXT NOT NULL,
        KEY class_log_owner (owner_id, at, id),
        KEY class_log_lesson (lesson_id, at),
        FULLTEXT KEY class_log_words (words),
        CONSTRAINT class_log_owner_fk FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
      ) ENGINE=InnoDB`);
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE class_log');
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

/** What an instructor's studio has and pays; the link by which a lesson's lists are ticked on a phone, and what was ticked. */
export class Kit1700000000008 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE studio (
      instructor_id VARCHAR(32) ${exact} PRIMARY KEY, document LONGTEXT NOT NULL,
      CONSTRAINT fk_studio_owner FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
    await runner.query(`CREATE TABLE kit_link (
      token VARCHAR(32) ${exact} PRIMARY KEY, lesson_id VARCHAR(32) ${exact} NOT NULL,
      CONSTRAINT uq_kit_link UNIQUE (lesson_id),
      CONSTRAINT fk_kit_link_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
    await runner.query(`CREATE TABLE kit_tick (
      lesson_id VARCHAR(32) ${exact} NOT NULL, item VARCHAR(120) NOT NULL, at BIGINT NOT NULL,
      PRIMARY KEY (lesson_id, item),
      CONSTRAINT fk_kit_tick_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
  }
  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['kit_tick', 'kit_link', 'studio']) await runner.query(`DROP TABLE ${table}`);
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

const exact = 'CHARACTER SET ascii COLLATE ascii_bin';
const options = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';
const naming = `body LIKE '%"firstName"%' AND JSON_VALUE(body, '$.type') IN ('joined', 'renamed')`;

/** Names of students stand apart from the log of their class, and can be taken away without it. */
export class Names1700000000015 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE class_name (
      class_id VARCHAR(32) ${exact} NOT NULL,
      seq INT NOT NULL,
      student_id VARCHAR(32) ${exact} NOT NULL,
      first_name VARCHAR(40) NOT NULL,
      PRIMARY KEY (class_id, seq),
      KEY ix_name_student (class_id, student_id),
      CONSTRAINT fk_name_class FOREIGN KEY (class_id) REFERENCES class (id) ON DELETE CASCADE
    ) ${options}`);
    await runner.query(`INSERT INTO class_name (class_id, seq, student_id, first_name)
      SELECT class_id, seq, LEFT(JSON_VALUE(body, '$.studentId'), 32), JSON_VALUE(body, '$.firstName') FROM class_event WHERE ${naming}`);
    await runner.query(`UPDATE class_event SET body = JSON_SET(body, '$.firstName', '') WHERE ${naming}`);
    await runner.query('ALTER TABLE instructor ADD COLUMN retention_days INT NULL');
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE instructor DROP COLUMN retention_days');
    await runner.query(`UPDATE class_event e JOIN class_name n ON n.class_id = e.class_id AND n.seq = e.seq
      SET e.body = JSON_SET(e.body, '$.firstName', n.first_name)`);
    await runner.query('DROP TABLE class_name');
  }
}

import type { MigrationInterface, QueryRunner } from 'typeorm';

const options = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci';
const exact = 'CHARACTER SET ascii COLLATE ascii_bin';

const tables = [
  `CREATE TABLE instructor (
    id VARCHAR(32) ${exact} PRIMARY KEY, name VARCHAR(120) NOT NULL, password_hash VARCHAR(255) ${exact} NOT NULL,
    CONSTRAINT uq_instructor_name UNIQUE (name)
  ) ${options}`,
  `CREATE TABLE session (
    token_hash CHAR(64) ${exact} PRIMARY KEY, instructor_id VARCHAR(32) ${exact} NOT NULL, expires_at BIGINT NOT NULL,
    CONSTRAINT fk_session_instructor FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
  ) ${options}`,
  `CREATE TABLE picture (
    sha256 CHAR(64) ${exact} PRIMARY KEY, width_px INT NOT NULL, height_px INT NOT NULL, format VARCHAR(8) NOT NULL
  ) ${options}`,
  `CREATE TABLE picture_owner (
    sha256 CHAR(64) ${exact} NOT NULL, instructor_id VARCHAR(32) ${exact} NOT NULL, PRIMARY KEY (sha256, instructor_id),
    CONSTRAINT fk_owner_picture FOREIGN KEY (sha256) REFERENCES picture (sha256),
    CONSTRAINT fk_owner_instructor FOREIGN KEY (instructor_id) REFERENCES instructor (id) ON DELETE CASCADE
  ) ${options}`,
  `CREATE TABLE lesson (
    id VARCHAR(32) ${exact} PRIMARY KEY, owner_id VARCHAR(32) ${exact} NOT NULL, revision INT NOT NULL, updated_at BIGINT NOT NULL,
    CONSTRAINT fk_lesson_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE
  ) ${options}`,
  `CREATE TABLE lesson_revision (
    id INT AUTO_INCREMENT PRIMARY KEY, lesson_id VARCHAR(32) ${exact} NOT NULL, number INT NOT NULL, kind VARCHAR(8) NOT NULL,
    author_id VARCHAR(32) ${exact} NOT NULL, document LONGTEXT NOT NULL, created_at BIGINT NOT NULL,
    KEY ix_revision_lesson (lesson_id, number),
    CONSTRAINT fk_revision_lesson FOREIGN KEY (lesson_id) REFERENCES lesson (id) ON DELETE CASCADE
  ) ${options}`,
  `CREATE TABLE class (
    id VARCHAR(32) ${exact} PRIMARY KEY, code CHAR(6) ${exact} NOT NULL, owner_id VARCHAR(32) ${exact} NOT NULL,
    lesson_id VARCHAR(32) ${exact} NOT NULL, revision_id INT NOT NULL, secret VARCHAR(64) ${exact} NOT NULL,
    last_seq INT NOT NULL, phase VARCHAR(8) NOT NULL, opened_at BIGINT NOT NULL,
    CONSTRAINT uq_class_code UNIQUE (code),
    CONSTRAINT fk_class_owner FOREIGN KEY (owner_id) REFERENCES instructor (id) ON DELETE CASCADE,
    CONSTRAINT fk_class_revision FOREIGN KEY (revision_id) REFERENCES lesson_revision (id) ON DELETE CASCADE
  ) ${options}`,
  `CREATE TABLE class_event (
    class_id VARCHAR(32) ${exact} NOT NULL, seq INT NOT NULL, at BIGINT NOT NULL, actor VARCHAR(40) ${exact} NOT NULL,
    command_id VARCHAR(32) ${exact} NOT NULL, body LONGTEXT NOT NULL, PRIMARY KEY (class_id, seq),
    CONSTRAINT uq_event_command UNIQUE (class_id, command_id),
    CONSTRAINT fk_event_class FOREIGN KEY (class_id) REFERENCES class (id) ON DELETE CASCADE
  ) ${options}`,
];

export class First1700000000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.query(table);
  }
  async down(runner: QueryRunner): Promise<void> {
    for (const name of [
      'class_event',
      'class',
      'lesson_revision',
      'lesson',
      'picture_owner',
      'picture',
      'session',
      'instructor',
    ]) {
      await runner.query(`DROP TABLE ${name}`);
    }
  }
}

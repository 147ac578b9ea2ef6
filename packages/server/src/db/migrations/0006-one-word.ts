import type { MigrationInterface, QueryRunner } from 'typeorm';
import { Rooms1700000000002 } from './0002-rooms.js';

/** Fields that have other names since version 7 of the lesson, in what is not read through its upgrade. */
const names = { zoneId: 'areaId', zoneIds: 'areaIds' };
const inWords = (column: string, pairs: [string, string][]) =>
  pairs.reduce((sql, [from, to]) => `REPLACE(${sql}, '"${from}":', '"${to}":')`, column);

/** Areas are called areas in class logs and kept steps too; rooms that are kept lie with all else that is kept. */
export class OneWord1700000000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const forth = Object.entries(names);
    await runner.query(`UPDATE class_event SET body = ${inWords('body', forth)} WHERE body LIKE '%"zoneId%'`);
    await runner.query(
      `UPDATE kept SET document = REPLACE(${inWords('document', forth)}, '"areaIds":[],"markIds":[]', '"areaIds":[],"wholeCanvas":true,"markIds":[]') WHERE kind = 'steps'`,
    );
    await runner.query(
      "INSERT INTO kept (id, owner_id, kind, name, document) SELECT id, owner_id, 'room', name, document FROM room",
    );
    await runner.query('DROP TABLE room');
  }
  async down(runner: QueryRunner): Promise<void> {
    const back = Object.entries(names).map(([from, to]): [string, string] => [to, from]);
    await new Rooms1700000000002().up(runner);
    await runner.query(
      "INSERT INTO room (id, owner_id, name, document) SELECT id, owner_id, name, document FROM kept WHERE kind = 'room'",
    );
    await runner.query("DELETE FROM kept WHERE kind = 'room'");
    await runner.query(`UPDATE kept SET document = ${inWords('document', back)} WHERE kind = 'steps'`);
    await runner.query(`UPDATE class_event SET body = ${inWords('body', back)} WHERE body LIKE '%"areaId%'`);
  }
}

import { dryRun } from './db/dry-run.js';

/** `npm run migrations`: says what an upgrade would do to the database, having tried it on a copy. */
const url = process.env.VIATICUM_DATABASE_URL;
if (!url) throw new Error('VIATICUM_DATABASE_URL says which database.');
dryRun(url).then(
  ({ pending, rows, seconds }) => {
    const list = pending.map((name) => `  ${name}\n`).join('');
    console.log(
      pending.length === 0
        ? 'The database is of this version: nothing is to be migrated.'
        : `Tried on a copy of ${rows} rows, ${seconds.toFixed(1)} s; all went well:\n${list}npm start does the same to the database itself. Back up first.`,
    );
  },
  (error: Error) => {
    console.error(`A migration would fail: ${error.message}\nThe database is as it was.`);
    process.exitCode = 1;
  },
);

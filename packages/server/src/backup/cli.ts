import { resolve } from 'node:path';
import { noteMade } from './made.js';
import { restore } from './restoring.js';
import { writeBackup } from './writing.js';

/** `npm run backup -- FILE` and `npm run restore -- FILE`; also the child that the nightly backup is written by. */
const [what, name, kind = 'elsewhere'] = process.argv.slice(2);
const { VIATICUM_DATABASE_URL: url, VIATICUM_DATA: dataFolder } = process.env;

const MB = 1024 ** 2;
const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

async function main(): Promise<void> {
  if (!url || !dataFolder) throw new Error('VIATICUM_DATABASE_URL and VIATICUM_DATA say which Viaticum.');
  if (!name || (what !== 'backup' && what !== 'restore'))
    throw new Error('Say which file: npm run backup -- FILE, npm run restore -- FILE.');
  const file = resolve(name);
  if (what === 'backup') {
    const { rows, files, missing, bytes } = await writeBackup({ url, dataFolder, to: file });
    await noteMade(dataFolder, kind === 'nightly' ? 'nightly' : 'elsewhere', bytes);
    console.log(
      `${counted(rows, 'row')} and ${counted(files, 'file')} are in ${file}, ${Math.max(1, Math.round(bytes / MB))} MB.`,
    );
    if (missing.length > 0)
      console.log(`${counted(missing.length, 'file')} of them were not there any more: ${missing.slice(0, 3).join(', ')}.`);
  } else {
    const { rows, files, missing, madeAt, upgraded } = await restore({ url, dataFolder, from: file });
    console.log(`${counted(rows, 'row')} and ${counted(files, 'file')} of ${madeAt} are here again.`);
    if (upgraded.length > 0) console.log(`Lifted to this version by ${upgraded.join(', ')}.`);
    if (missing.length > 0) console.log(`${counted(missing.length, 'file')} were not in it: ${missing.slice(0, 3).join(', ')}.`);
  }
}

main().catch((fault: Error) => {
  console.error(fault.message);
  process.exitCode = 1;
});

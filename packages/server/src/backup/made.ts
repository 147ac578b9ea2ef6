import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** When the last backups were made: by night into the data folder, and into a file elsewhere. */
export type Made = Partial<Record<'nightly' | 'elsewhere', { at: number; bytes: number }>>;

export const backupFolder = (dataFolder: string): string => join(dataFolder, 'backups');
const noteOf = (dataFolder: string) => join(backupFolder(dataFolder), 'made.json');

export async function readMade(dataFolder: string): Promise<Made> {
  try {
    return JSON.parse(await readFile(noteOf(dataFolder), 'utf8')) as Made;
  } catch {
    return {};
  }
}

export async function noteMade(dataFolder: string, kind: keyof Made, bytes: number): Promise<void> {
  const made: Made = { ...(await readMade(dataFolder)), [kind]: { at: Date.now(), bytes } };
  await mkdir(backupFolder(dataFolder), { recursive: true, mode: 0o700 });
  await writeFile(`${noteOf(dataFolder)}.new`, JSON.stringify(made), { mode: 0o600 });
  await rename(`${noteOf(dataFolder)}.new`, noteOf(dataFolder));
}

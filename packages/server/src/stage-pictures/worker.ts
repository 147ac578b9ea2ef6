import { mkdir, rename, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Lesson } from '@viaticum/contract';
import { BARE, compose, layingOf, type PlacedReference, type Source } from '@viaticum/core/picture';
import { stageInput } from '@viaticum/core/stage';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession } from '@viaticum/kernels/painting';
import sharp from 'sharp';

/** `text`: the lesson's document; `files`: where the pixels of each picture that may be used are, by its SHA-256; `folder`: where the stages go, a picture a step. */
export type StageJob = { text: string; files: Record<string, string>; folder: string };

/** Wide enough for a phone and a small canvas on the desk; twelve times as quick as what the workbench shows. */
const WIDTH_PX = 560;
const COMPOSE_PIXELS = 500_000;

async function sourceOf(
  { pictureSha256, correction, extend, ...rest }: PlacedReference,
  files: StageJob['files'],
): Promise<Source> {
  const { data, info } = await sharp(files[pictureSha256]).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const pixels = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
  return { ...rest, pixels, ...(correction && { correction }), ...(extend && { extend }) };
}

export default async function work({ text, files, folder }: StageJob): Promise<string[]> {
  const lesson = withFiles(JSON.parse(text) as Lesson, files);
  const { whole, others, ...laying } = layingOf(lesson);
  const picture = whole
    ? compose(
        {
          ...laying,
          whole: await sourceOf(whole, files),
          others: new Map(await Promise.all(others.map(async ([id, one]) => [id, await sourceOf(one, files)] as const))),
          bare: BARE,
        },
        COMPOSE_PIXELS,
      ).picture
    : null;
  const ids = lesson.steps.map((step) => step.id);
  const painted = toEnd(stageSession().paint(stageInput(lesson, picture, WIDTH_PX), ids));
  // Put in place when all of them are there, so that a folder that exists is whole.
  const fresh = `${folder}.new${process.pid}`;
  await mkdir(fresh, { recursive: true, mode: 0o700 });
  for (const [id, { width, height, data }] of painted)
    await writeFile(
      join(fresh, `${id}.webp`),
      await sharp(data, { raw: { width, height, channels: 4 } })
        .webp({ quality: 84 })
        .toBuffer(),
      { mode: 0o600 },
    );
  await mkdir(dirname(folder), { recursive: true, mode: 0o700 });
  await rename(fresh, folder).catch((error: { code?: string }) => {
    // Another server was quicker.
    if (error.code !== 'ENOTEMPTY' && error.code !== 'EEXIST') throw error;
  });
  return [...painted.keys()];
}

/** The lesson without references whose pixels may not be used, nor things that are cut from them. */
function withFiles(lesson: Lesson, files: StageJob['files']): Lesson {
  const references = lesson.references.filter((one) => Object.hasOwn(files, one.pictureSha256));
  const ids = new Set(references.map((one) => one.id));
  return {
    ...lesson,
    references,
    things: lesson.things.filter(({ fromReferenceId: from }) => from === undefined || ids.has(from)),
  };
}

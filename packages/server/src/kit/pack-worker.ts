import '../language.js';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type Lesson, languageOf, type Measures, type PackOptions, type Studio } from '@viaticum/contract';
import { setMeasures } from '@viaticum/core/units';
import { withVariant } from '@viaticum/core/variant';
import { packPdf } from '@viaticum/print';
import sharp from 'sharp';

/** The text of a lesson's document, the folder of the pictures after its steps, its studio, and what is asked for. */
export type PackJob = { text: string; folder: string; studio: Studio; options: PackOptions; measures: Measures };

/** Pictures are shown 53 to 132 mm wide: so many pixels are enough for each (JPEG, for the PDF). */
const STEP_PX = 520;
const TITLE_PX = 1000;
const QUALITY = 84;

export default async function work({ text, folder, studio, options, measures }: PackJob): ReturnType<typeof packPdf> {
  const own = JSON.parse(text) as Lesson;
  const variant = own.variants.find(({ id }) => id === options.variantId);
  const lesson = variant ? withVariant(own, variant).lesson : own;
  const pictures = new Map<string, Uint8Array>();
  const last = lesson.steps.at(-1)?.id;
  for (const { id } of lesson.steps) {
    const webp = await readFile(join(folder, `${id}.webp`)).catch(() => null);
    if (!webp) continue;
    const width = id === last ? TITLE_PX : STEP_PX;
    pictures.set(id, await sharp(webp).resize({ width, withoutEnlargement: true }).jpeg({ quality: QUALITY }).toBuffer());
  }
  // Paper is in the language of its lesson, whoever prints it.
  setMeasures({ ...measures, language: languageOf(lesson.language) });
  return packPdf(lesson, studio, pictures, options);
}

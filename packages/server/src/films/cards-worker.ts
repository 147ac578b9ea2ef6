import '../language.js';
import { type Lesson, languageOf, type Measures, type ShootNote } from '@viaticum/contract';
import { notedSeconds, shootState, timelineOf } from '@viaticum/core/film';
import { setMeasures } from '@viaticum/core/units';
import { filmCards } from '@viaticum/print';
import JSZip from 'jszip';
import sharp from 'sharp';

/** The text of a lesson's document, one of its cuts, and what was noted while it was filmed. */
export type CardsJob = { text: string; cutId: string; notes: ShootNote[]; measures: Measures };

const SIZE = { widthPx: 1920, heightPx: 1080 };
/** The same lesson gives the same bytes: no file says when it was made. */
const NO_DATE = new Date(Date.UTC(2000, 0, 1));

/** The cards of a cut: transparent PNG, SVG with outlines, and their list, in one ZIP. */
export default async function work({ text, cutId, notes, measures }: CardsJob): Promise<Uint8Array> {
  const lesson = JSON.parse(text) as Lesson;
  setMeasures({ ...measures, language: languageOf(lesson.language) });
  const { svgs, list } = filmCards(lesson, timelineOf(lesson, cutId, notedSeconds(shootState(notes))), SIZE);
  const zip = new JSZip();
  const add = (name: string, content: string | Buffer) => zip.file(name, content, { date: NO_DATE, createFolders: false });
  add('cards.csv', list);
  for (const [name, svg] of svgs) {
    add(`cards/${name}.svg`, svg);
    add(`cards/${name}.png`, await sharp(Buffer.from(svg)).png({ compressionLevel: 9, palette: false }).toBuffer());
  }
  return zip.generateAsync({ type: 'uint8array', compression: 'DEFLATE' });
}

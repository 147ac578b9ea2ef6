import type { Lesson, StrokeKind } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { outlineBox } from '@viaticum/core/area';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import { visibleOf } from '@viaticum/core/derived';
import { strokeOf } from '@viaticum/core/draft';
import { capital } from '@viaticum/core/units';
import { relationsOf } from '@viaticum/core/value-relations';
import { labToSrgb, valueStep } from '@viaticum/kernels/colour';
import { PDFDocument, type PDFFont, type PDFPage, StandardFonts } from 'pdf-lib';
import { strokeWays } from '../ui/stroke-ways.js';
import { markWords as w } from '../words/steps.js';
import { bar, grey, MM, plain, put } from './page.js';

const A4 = { widthMm: 210, heightMm: 297 };
const MARGIN_MM = 14;
const BOX = { widthMm: 56, heightMm: 34, gapMm: 7 };
const STUDY_MM = 70;
const VALUES = 5;

/** The strokes that a lesson uses, each with the brush of its first step. */
export function strokesOf(lesson: Lesson): { stroke: StrokeKind; brushId: string | undefined }[] {
  const found = new Map<StrokeKind, string | undefined>();
  for (const step of lesson.steps) {
    const stroke = strokeOf(step);
    if (stroke && !found.has(stroke)) found.set(stroke, step.brushId);
  }
  return [...found].map(([stroke, brushId]) => ({ stroke, brushId }));
}

/**
 * A sheet (A4) to practise on at true size: for every stroke of the lesson one box that shows it and two to try it, as wide as its brush
 * is; and the picture in five values, small. A bar of 100 mm tells whether the printer kept the size.
 */
export async function practiceSheet(lesson: Lesson): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(say`${plain(lesson.title)}: practice sheet`);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  let page = pdf.addPage([A4.widthMm * MM, A4.heightMm * MM]);
  let y = MARGIN_MM;
  heading(page, font, plain(lesson.title), y);
  y += 12;
  for (const { stroke, brushId } of strokesOf(lesson)) {
    if (y + BOX.heightMm + 14 > A4.heightMm - MARGIN_MM) {
      page = pdf.addPage([A4.widthMm * MM, A4.heightMm * MM]);
      y = MARGIN_MM;
    }
    strokeRow(page, font, stroke, brushId, y);
    y += BOX.heightMm + 16;
  }
  if (y + STUDY_MM + 34 > A4.heightMm - MARGIN_MM) {
    page = pdf.addPage([A4.widthMm * MM, A4.heightMm * MM]);
    y = MARGIN_MM;
  }
  valueStudy(page, font, lesson, y);
  for (const each of pdf.getPages()) checkBar(each, font);
  return pdf.save();
}

function heading(page: PDFPage, font: PDFFont, title: string, y: number): void {
  put(page, font, title, MARGIN_MM, y + 4, 16);
}

function strokeRow(page: PDFPage, font: PDFFont, stroke: StrokeKind, brushId: string | undefined, y: number): void {
  const brush = brushOf(brushId);
  const { name, how } = w.strokes[stroke];
  put(page, font, `${capital(name)}${brush ? `, ${brushInWords(brush)}` : ''}`, MARGIN_MM, y + 4, 11);
  put(page, font, how, MARGIN_MM, y + 9, 9, 0.35);
  for (let k = 0; k < 3; k++) {
    const x = MARGIN_MM + k * (BOX.widthMm + BOX.gapMm);
    page.drawRectangle({
      x: x * MM,
      y: (A4.heightMm - y - 12 - BOX.heightMm) * MM,
      width: BOX.widthMm * MM,
      height: BOX.heightMm * MM,
      borderColor: grey(0.7),
      borderWidth: 0.5,
    });
    if (k > 0) continue;
    const scale = (BOX.widthMm / 100) * MM;
    const { leaves, hand } = strokeWays[stroke];
    const at = { x: x * MM, y: (A4.heightMm - y - 12) * MM, scale };
    // As wide as the brush leaves it, where the box has room for that.
    const widthMm = Math.min(brush?.widthMm ?? 6, BOX.heightMm * 0.4);
    for (const path of leaves) page.drawSvgPath(path, { ...at, borderColor: grey(0.78), borderWidth: (widthMm * MM) / scale });
    page.drawSvgPath(hand, { ...at, borderColor: grey(0.25), borderWidth: 0.5 / (scale / MM), borderDashArray: [2, 2] });
  }
}

/** The picture in five values to fill in, with the scale to mix first. */
function valueStudy(page: PDFPage, font: PDFFont, lesson: Lesson, y: number): void {
  const { widthMm, heightMm } = lesson.support;
  const scale = STUDY_MM / Math.max(widthMm, heightMm);
  const own = new Map(relationsOf(lesson).areas.map((area) => [area.areaId, area.target ?? area.last]));
  put(page, font, say('Five values'), MARGIN_MM, y + 4, 11);
  const classOf = (l: number) => Math.max(0, Math.min(VALUES - 1, Math.round((valueStep(l) / 10) * (VALUES - 1))));
  for (let k = 0; k < VALUES; k++) {
    const [tone] = labToSrgb([6 + (90 * k) / (VALUES - 1), 0, 0]);
    page.drawRectangle({
      x: (MARGIN_MM + STUDY_MM + 12 + k * 20) * MM,
      y: (A4.heightMm - y - 30) * MM,
      width: 18 * MM,
      height: 18 * MM,
      color: grey(tone),
      borderColor: grey(0.4),
      borderWidth: 0.4,
    });
    put(page, font, String(k + 1), MARGIN_MM + STUDY_MM + 19 + k * 20, y + 36, 10);
  }
  const [left, top] = [MARGIN_MM, y + 8];
  for (const part of visibleOf(lesson)) {
    const path = part.outline
      .flatMap((polygon) =>
        polygon.map((ring) => `M${ring.map(([px, py]) => `${(px * scale).toFixed(2)} ${(py * scale).toFixed(2)}`).join('L')}Z`),
      )
      .join('');
    if (path === '') continue;
    page.drawSvgPath(path, { x: left * MM, y: (A4.heightMm - top) * MM, scale: MM, borderColor: grey(0.3), borderWidth: 0.25 });
    const box = outlineBox(part.outline);
    const lab = own.get(part.id);
    if (box && lab && Math.min(box.width, box.height) * scale > 4)
      put(
        page,
        font,
        String(classOf(lab[0]) + 1),
        left + (box.x + box.width / 2) * scale - 1,
        top + (box.y + box.height / 2) * scale + 1,
        8,
        0.3,
      );
  }
}

/** 100 mm to lay a ruler on. */
const checkBar = (page: PDFPage, font: PDFFont): void =>
  bar(page, font, MARGIN_MM, A4.heightMm - 8, 100, say('100 mm: measure it, and print without fitting to the page'));

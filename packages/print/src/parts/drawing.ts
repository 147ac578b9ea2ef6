import { say } from '@viaticum/contract';
import { tileSheets } from '@viaticum/core/transfer';
import { sizeInWords } from '@viaticum/core/units';
import type { Pack } from '../model.js';
import { INK, MM } from '../sheet.js';

const MARGIN_MM = 12;
const OVERLAP_MM = 10;
const BAR_MM = 100;

/** The drawing at true size: which sheet lies where, a bar to measure, then the sheets. Lines are the borders of the areas that are seen. */
export function drawing(pack: Pack): void {
  const { sheet, lesson, parts } = pack;
  if (parts.every(({ outline }) => outline.length === 0)) return;
  const { widthMm, heightMm } = lesson.support;
  const { sheets, columns, rows, landscape } = tileSheets(lesson.support, { ...sheet.paper, marginMm: MARGIN_MM }, OVERLAP_MM);
  sheet.chapter(
    say('The drawing'),
    say`${sizeInWords(widthMm, heightMm, lesson.units)} at true size on ${sheets.length} sheets. Print at 100 %, without fitting to the page, and measure the bar before you print the rest.`,
    (y) => {
      const scale = Math.min(110 / widthMm, 130 / heightMm);
      sheet.tagged(
        'Figure',
        {
          alt: say`Map of the sheets: ${columns} across, ${rows} down.`,
          bbox: [sheet.left * MM, y * MM, sheet.right * MM, (y + heightMm * scale) * MM],
        },
        () => {
          outline(pack, sheet.left, y, scale, '#8a8a8a', 0.4);
          sheet.doc.lineWidth(0.5).strokeColor(INK);
          sheets.forEach((one, i) => {
            sheet.doc
              .rect(
                (sheet.left + one.xMm * scale) * MM,
                (y + one.yMm * scale) * MM,
                one.widthMm * scale * MM,
                one.heightMm * scale * MM,
              )
              .stroke();
            sheet.mark(
              String(i + 1),
              sheet.left + (one.xMm + one.widthMm / 2) * scale - 5,
              y + (one.yMm + one.heightMm / 2) * scale - 3,
              10,
              16,
              INK,
            );
          });
        },
      );
      let at = y + heightMm * scale + 12;
      sheet.artefact(() => {
        sheet.doc.lineWidth(0.7).strokeColor(INK);
        sheet.doc
          .moveTo(sheet.left * MM, at * MM)
          .lineTo((sheet.left + BAR_MM) * MM, at * MM)
          .stroke();
        for (let mm = 0; mm <= BAR_MM; mm += 10)
          sheet.doc
            .moveTo((sheet.left + mm) * MM, (at - 1.5) * MM)
            .lineTo((sheet.left + mm) * MM, (at + 1.5) * MM)
            .stroke();
      });
      at += 4;
      at += sheet.text(say('This bar is 100 mm long.'), sheet.left, at, 120, 'small') + 4;
      for (const line of [
        say`Neighbouring sheets share ${OVERLAP_MM} mm: lay cross on cross, tape, then trim along the edge of the canvas.`,
        say('Fix the drawing along its upper edge, so that it can be lifted and laid back.'),
      ])
        at += sheet.text(line, sheet.left, at, 140, 'body') + 1;
    },
  );
  sheets.forEach((one, i) => {
    const [pageWidth, pageHeight] = landscape
      ? [sheet.paper.heightMm, sheet.paper.widthMm]
      : [sheet.paper.widthMm, sheet.paper.heightMm];
    sheet.doc.addPage({ size: [pageWidth * MM, pageHeight * MM], margin: 0 });
    sheet.heads.push('');
    sheet.section(say`Sheet ${i + 1}`, () => {
      const [x, y] = [(pageWidth - one.widthMm) / 2, (pageHeight - one.heightMm) / 2];
      sheet.tagged(
        'Figure',
        {
          alt: say`Sheet ${i + 1} of ${sheets.length} of the drawing at true size.`,
          bbox: [x * MM, y * MM, (x + one.widthMm) * MM, (y + one.heightMm) * MM],
        },
        () => {
          const { doc } = sheet;
          doc.save();
          doc.rect(x * MM, y * MM, one.widthMm * MM, one.heightMm * MM).clip();
          outline(pack, x - one.xMm, y - one.yMm, 1, INK, 0.9);
          doc.restore();
          doc.lineWidth(0.3).strokeColor('#9a9a9a');
          for (const [cx, cy] of [
            [x, y],
            [x + one.widthMm, y],
            [x, y + one.heightMm],
            [x + one.widthMm, y + one.heightMm],
          ] as const)
            doc
              .moveTo((cx - 3) * MM, cy * MM)
              .lineTo((cx + 3) * MM, cy * MM)
              .moveTo(cx * MM, (cy - 3) * MM)
              .lineTo(cx * MM, (cy + 3) * MM)
              .stroke();
        },
      );
      const [column, row] = [(i % columns) + 1, Math.floor(i / columns) + 1];
      sheet.text(
        say`${lesson.title}: sheet ${i + 1} of ${sheets.length}, row ${row}, place ${column}`,
        MARGIN_MM,
        pageHeight - 8,
        pageWidth - 2 * MARGIN_MM,
        'small',
      );
    });
  });
}

/** The borders of all areas and the edge of the canvas, at a scale. */
function outline(
  { sheet: { doc }, lesson, parts }: Pack,
  xMm: number,
  yMm: number,
  scale: number,
  colour: string,
  width: number,
): void {
  doc.lineWidth(width).strokeColor(colour);
  for (const { outline: polygons } of parts)
    for (const polygon of polygons)
      for (const ring of polygon) {
        ring.forEach(([x, y], i) => {
          const at = [(xMm + x * scale) * MM, (yMm + y * scale) * MM] as const;
          i === 0 ? doc.moveTo(...at) : doc.lineTo(...at);
        });
        doc.closePath().stroke();
      }
  doc
    .lineWidth(0.6)
    .dash(4, { space: 3 })
    .rect(xMm * MM, yMm * MM, lesson.support.widthMm * scale * MM, lesson.support.heightMm * scale * MM)
    .stroke()
    .undash();
}

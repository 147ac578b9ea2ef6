import { say } from '@viaticum/contract';
import { mlInWords } from '@viaticum/core/kit';
import { paletteLayout, shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { capital } from '@viaticum/core/units';
import { cssRgb, valueStep } from '@viaticum/kernels/colour';
import type { Pack } from '../model.js';
import { INK, MM } from '../sheet.js';
import { hex, inkOn, recipeBar, spoken } from './common.js';

const AHEAD = () => say('mixed before the class');

/** The palette as it lies before one, and every mix with its parts, its value, and how much of it one painter needs. */
export function palette(pack: Pack): void {
  const { sheet, looks, paint, numbers } = pack;
  const used = paint.mixes.filter(({ premix }) => looks.get(premix.mix.id)?.colour);
  if (used.length === 0) return;
  sheet.chapter(
    say('Palette and mixes'),
    say(
      'Squeeze in this order. Mixes are by volume: count parts, not drops; a touch (t) is a sixteenth part, a speck (s) what stays on the tip of the knife.',
    ),
    (top) => {
      const [first, left] = [sheet.left, sheet.left + 24];
      const columns = [
        { title: '', xMm: first, widthMm: 8 },
        { title: say('Mix'), xMm: left, widthMm: 38 },
        { title: say('Parts'), xMm: left + 40, widthMm: 62 },
        { title: say('Value'), xMm: sheet.right - 42, widthMm: 12 },
        { title: say('Each'), xMm: sheet.right - 29, widthMm: 16 },
        { title: say('Steps'), xMm: sheet.right - 13, widthMm: 15 },
      ] as const;
      const [, name, parts, value, each, inSteps] = columns;
      /** How high the row of a mix is, mm. */
      const rowHigh = ({ premix: { mix, batch } }: Pack['paint']['mixes'][number]): number =>
        1.2 +
        Math.max(
          11.6,
          6 + sheet.heightOf(spoken(looks.get(mix.id)?.words ?? ''), 'tiny', parts.widthMm),
          (batch ? 2 + sheet.heightOf(AHEAD(), 'small', name.widthMm) : 5) +
            sheet.heightOf(capital(mix.name), 'strong', name.widthMm),
        );
      // As high as leaves room for all rows on the page, where that is possible.
      const rows = used.reduce((sum, one) => sum + rowHigh(one), 0);
      const spare = sheet.bottom - top - 14 - rows;
      let y = board(pack, top, used, Math.max(44, Math.min(52, spare))) + 5;
      sheet.within('Table', {}, () => {
        const head = () => {
          sheet.within('TR', {}, () => {
            for (const column of columns)
              if (column.title)
                sheet.text(column.title, column.xMm, y, column.widthMm, 'small', { tag: 'TH', attributes: { scope: 'Column' } });
          });
          y += 5.5;
          sheet.rule(sheet.left, y, sheet.width, 0.6, INK);
          y += 2.2;
        };
        head();
        used.forEach((one, i) => {
          const { premix, volume } = one;
          const look = looks.get(premix.mix.id);
          if (!look?.colour) return;
          const words = spoken(look.words);
          const high = rowHigh(one);
          if (y + high > sheet.bottom) {
            y = sheet.page();
            head();
          }
          sheet.within('TR', {}, () => {
            sheet.swatch(sheet.left + 9, y, 12, 9.2, hex(look.rgb));
            sheet.text(String(i + 1), sheet.left, y + 2.2, 8, 'strong', { tag: 'TD' });
            sheet.tagged('TD', {}, () => {
              const at = sheet.raw(capital(premix.mix.name), name.xMm, y, name.widthMm, 'strong');
              if (premix.batch) sheet.raw(AHEAD(), name.xMm, y + at, name.widthMm, 'small');
            });
            recipeBar(pack, premix.mix.id, parts.xMm, y + 0.3, 56, 4.4);
            sheet.text(words, parts.xMm, y + 5.2, parts.widthMm, 'tiny', { tag: 'TD' });
            sheet.text(String(Math.round(valueStep(look.colour?.lab[0] ?? 0))), value.xMm, y + 0.2, value.widthMm, 'strong', {
              tag: 'TD',
            });
            sheet.text(mlInWords(premix.batch ? volume.portion : volume.total), each.xMm, y + 0.2, each.widthMm, 'body', {
              tag: 'TD',
            });
            sheet.text(
              volume.steps.map((step) => numbers.get(step.id)).join(', '),
              inSteps.xMm,
              y + 0.2,
              inSteps.widthMm,
              'body',
              { tag: 'TD' },
            );
          });
          y += high;
          sheet.rule(sheet.left, y - 1.6, sheet.width, 0.25);
        });
      });
    },
  );
}

/** The palette drawn: heaps in their places sized by what is needed, tubes along the near edge. */
function board({ sheet, lesson, looks }: Pack, yMm: number, used: Pack['paint']['mixes'], high: number): number {
  const { doc, left, width } = sheet;
  const labs = used.map(({ premix }) => looks.get(premix.mix.id)?.colour?.lab as [number, number, number]);
  const { places } = paletteLayout(labs);
  const names = used.map(({ premix }) => premix.mix.name).join(', ');
  const alt = say`The palette: heaps from warm on the left to cool on the right: ${names}; tubes along the near edge.`;
  sheet.tagged('Figure', { alt, bbox: [left * MM, yMm * MM, (left + width) * MM, (yMm + high) * MM] }, () => {
    doc
      .lineWidth(0.6)
      .roundedRect(left * MM, yMm * MM, width * MM, high * MM, 14)
      .fillAndStroke('#fafafa', '#777');
    used.forEach((one, i) => {
      const { premix, volume } = one;
      const [px, py] = places[i] as [number, number];
      const radius = Math.min(6.5, 2.6 + 0.95 * Math.sqrt(volume.total));
      const [x, y] = [left + 6 + px * (width - 12), yMm + 3 + py * (high - 20)];
      const colour = hex(looks.get(premix.mix.id)?.rgb);
      doc
        .circle(x * MM, (y + 2) * MM, radius * MM)
        .lineWidth(0.4)
        .fillAndStroke(colour, '#444');
      sheet.mark(String(i + 1), x - 5, y + 0.4, 10, 9, inkOn(colour));
    });
    const each = (width - 12) / Math.max(1, lesson.tubes.length);
    lesson.tubes.forEach((tube, i) => {
      const x = left + 6 + i * each;
      doc
        .rect((x + 1) * MM, (yMm + high - 12) * MM, (each - 2) * MM, 4.5 * MM)
        .lineWidth(0.4)
        .fillAndStroke(hex(cssRgb(tubeRgb(tube, lesson.finish))), '#444');
      doc.font('sans').fontSize(6.4).fillColor(INK);
      doc.text(shortTubeName(tube), x * MM, (yMm + high - 6.6) * MM, {
        width: each * MM,
        align: 'center',
        height: 14,
        ellipsis: true,
      });
    });
  });
  return yMm + high;
}

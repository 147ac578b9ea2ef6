import type { Step, Technique } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import { capital } from '@viaticum/core/units';
import type { Pack } from '../model.js';
import { HAIR, MM } from '../sheet.js';

/** What the hand does, a sentence for each way of laying paint; common practice, no published source. */
const ways: Record<Technique, string> = worded({
  wash: 'Thin as ink, in rows from above; do not go back into it.',
  glaze: 'Thin and even over dry paint; feather the edge.',
  'dry-brush': 'Little paint, wiped on a towel first; drag lightly.',
  scumble: 'Hardly any paint, small circles, stop early.',
  'block-in': 'Flat and covering, along the shape; edges first.',
  blend: 'Two colours wet, strokes across the seam, ever lighter.',
  loaded: 'Full brush: touch, pull, lift, and do not go back.',
  gesso: 'Even, one way; the next coat across it.',
  impasto: 'Thick, laid and left.',
  'under-film': 'A thin film, even, to paint into.',
  spatter: 'Flick from the wrist; try the distance on scrap paper.',
});
const [BOX_MM, HIGH_MM] = [53, 23];

/** A row for each way of laying paint with its brush: shown once in grey, and two places to try. */
export function practice(pack: Pack): void {
  const { sheet, lesson } = pack;
  const seen = new Map<string, Step>();
  for (const step of lesson.steps)
    if (
      step.kind === 'paint' &&
      step.technique &&
      step.brushId &&
      !seen.has(`${step.technique} ${step.brushId}`) &&
      seen.size < 9
    )
      seen.set(`${step.technique} ${step.brushId}`, step);
  if (seen.size === 0) return;
  sheet.chapter(
    say('Practice sheet'),
    say('On scrap paper or on this page: watch once, then try twice, with the brush of the step and any leftover paint.'),
    (top) => {
      let y = top;
      const gap = (sheet.width - 3 * BOX_MM) / 2;
      for (const step of seen.values()) {
        const brush = brushOf(step.brushId);
        const technique = step.technique as Technique;
        y = sheet.room(y, HIGH_MM + 14);
        sheet.tagged('P', {}, () => {
          sheet.raw(
            `${capital(technique.replace('-', ' '))}${brush ? `, ${brushInWords(brush)}` : ''}`,
            sheet.left,
            y,
            60,
            'strong',
          );
          sheet.raw(ways[technique], sheet.left + 62, y + 0.5, sheet.width - 62, 'small');
        });
        const at = y + 6.4;
        sheet.artefact(() => {
          sheet.doc.lineWidth(0.5).strokeColor(HAIR);
          for (let k = 0; k < 3; k++)
            sheet.doc.rect((sheet.left + k * (BOX_MM + gap)) * MM, at * MM, BOX_MM * MM, HIGH_MM * MM).stroke();
          sheet.doc.save();
          sheet.doc.rect(sheet.left * MM, at * MM, BOX_MM * MM, HIGH_MM * MM).clip();
          shown(pack, technique, Math.min(brush?.widthMm ?? 6, 13), sheet.left, at);
          sheet.doc.restore();
        });
        y += HIGH_MM + 11;
      }
    },
  );
}

/** A stroke as its hairs, in greys: ragged at both ends, with gaps where it is dry. */
function shown({ sheet: { doc } }: Pack, technique: Technique, widthMm: number, xMm: number, yMm: number): void {
  let seed = 7;
  const random = () => {
    seed = (seed * 16807) % 2147483647;
    return seed / 2147483647;
  };
  const grey = (value: number) => {
    const two = Math.max(0, Math.min(250, Math.round(value)))
      .toString(16)
      .padStart(2, '0');
    return `#${two}${two}${two}`;
  };
  const stroke = (y: number, high: number, from: number, to: number, dry = 0) => {
    const hairs = Math.max(3, Math.round(high / 0.34));
    for (let i = 0; i < hairs; i++) {
      const off = (i / (hairs - 1) - 0.5) * high;
      const edge = Math.abs(off) / high;
      doc
        .lineWidth(1.15)
        .lineCap('round')
        .strokeColor(grey(from + (to - from) * (i / (hairs - 1)) + (random() - 0.5) * 12));
      if (dry) doc.dash(2 + random() * 9, { space: dry * (1 + random() * 7) });
      doc
        .moveTo((xMm + 5 + random() * 2 + edge * 2) * MM, (yMm + y + off) * MM)
        .lineTo((xMm + 48 - random() * 3 - edge * 3) * MM, (yMm + y + off) * MM)
        .stroke();
      if (dry) doc.undash();
    }
  };
  if (technique === 'wash' || technique === 'glaze') {
    stroke(7.5, 10, 205, 205);
    stroke(15.5, 10, 214, 214);
  } else if (technique === 'blend') stroke(11.5, 18, 96, 228);
  else if (technique === 'dry-brush') stroke(11.5, 13, 150, 150, 1);
  else if (technique === 'scumble')
    for (let i = 0; i < 90; i++) {
      const [cx, cy] = [8 + random() * 37, 11.5 + (random() - 0.5) * 10];
      doc
        .lineWidth(0.5 + random())
        .strokeColor(grey(190 + random() * 40))
        .circle((xMm + cx) * MM, (yMm + cy) * MM, (1.5 + random()) * MM)
        .stroke();
    }
  else if (technique === 'spatter')
    for (let i = 0; i < 60; i++)
      doc
        .circle((xMm + 4 + random() * 45) * MM, (yMm + 3 + random() * 17) * MM, (0.2 + random() * 0.7) * MM)
        .fill(grey(120 + random() * 60));
  else stroke(11.5, widthMm, 176, 176);
}

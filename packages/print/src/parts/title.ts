import { say } from '@viaticum/contract';
import { counted, sizeInWords } from '@viaticum/core/units';
import type { Pack } from '../model.js';
import { HAIR, INK, MM, SOFT } from '../sheet.js';
import { clock, itemOf, ratioOf } from './common.js';

/** The first page: the finished picture, and what one wants to know first. */
export function title(pack: Pack): void {
  const { sheet, lesson, plan, pictures, heads, isCopy } = pack;
  sheet.page('');
  sheet.section('Title', () => {
    sheet.artefact(() => sheet.doc.rect(sheet.left * MM, 24 * MM, 22 * MM, 1.1).fill(INK));
    sheet.text(
      isCopy ? say('Lesson pack, instructor’s copy') : say('Lesson pack, student’s handout'),
      sheet.left,
      27,
      110,
      'label',
    );
    const high = sheet.text(lesson.title, sheet.left, 35, 150, 'h1', { tag: 'H1' });
    const y = 35 + high + 9;
    const ratio = ratioOf(pack);
    const height = Math.min(132 * ratio, sheet.paper.heightMm - y - 46);
    const width = Math.min(132, height / ratio);
    const names = lesson.areas.map(({ name }) => name).join(', ');
    sheet.picture(
      pictures.get(lesson.steps.at(-1)?.id ?? ''),
      sheet.left,
      y,
      width,
      width * ratio,
      say`The finished painting, ${lesson.title}: ${names}.`,
    );
    facts(pack, sheet.left + width + 8, y, [
      [say('Canvas'), sizeInWords(lesson.support.widthMm, lesson.support.heightMm, lesson.units)],
      [say('Time'), say`${clock(plan.plan.endMin)} h, of it ${Math.round(plan.plan.waitMin)} min waiting`],
      [say('Steps'), say`${lesson.steps.length} in ${counted(lesson.stages.length, 'stage')}`],
      [say('For'), isCopy ? `${heads} ${lesson.level}s` : `${lesson.level}s`],
      [say('Colours'), `${counted(lesson.tubes.length, 'tube')}, ${counted(lesson.mixes.length, 'mix', 'mixes')}`],
    ]);
    const { airC, humidity } = lesson.room;
    const [reference] = lesson.references;
    const by = reference?.permission.by
      ? say`Reference: ${[reference.permission.by, reference.permission.year].filter(Boolean).join(', ')}. `
      : '';
    sheet.text(
      say`${by}Printed colours are not paint: mix by the parts, judge by the value number. Drying times are for ${Math.round(airC)} °C and ${Math.round(humidity * 100)} % humidity.`,
      sheet.left,
      sheet.paper.heightMm - 31,
      131,
      'small',
    );
  });
}

function facts({ sheet }: Pack, xMm: number, yMm: number, rows: readonly (readonly [string, string])[]): void {
  const width = sheet.right - xMm;
  if (width < 20) return;
  let y = yMm;
  for (const [name, fact] of rows) {
    sheet.rule(xMm, y, width, 0.5, INK);
    y += 1.5 + sheet.text(name, xMm, y + 1.5, width, 'small');
    y += sheet.text(fact, xMm, y + 0.8, width, 'strong') + 5;
  }
}

/** Stages in pictures, the clock of the class, and what is in the pack; gives how the contents are filled once all pages are known. */
export function contents(pack: Pack): () => void {
  let fill: () => void = () => undefined;
  const { sheet } = pack;
  sheet.chapter(
    say('The way there'),
    say(
      'From bare canvas to signature. Each picture shows the canvas at the end of a stage; somewhere in the middle it looks unfinished, and should.',
    ),
    (top) => {
      let y = stagesIn(pack, top) + 8;
      y = bigClock(pack, y) + 8;
      sheet.rule(sheet.left, y, sheet.width, 0.5, INK);
      y += 3;
      y += sheet.text(say('In this pack'), sheet.left, y, sheet.width, 'h3', { tag: 'H3' }) + 2;
      const page = sheet.pageCount - 1;
      const element = sheet.doc.struct('TOC');
      sheet.addLater(element);
      fill = () => {
        sheet.doc.switchToPage(page);
        sheet.into(element, () => {
          for (const { title: name, page: at } of sheet.chapters.slice(1)) {
            sheet.tagged('TOCI', {}, () => {
              sheet.raw(name, sheet.left, y, 96, 'body');
              sheet.raw(String(at), sheet.left + 98, y, 12, 'body', { align: 'right' });
            });
            y += 6.6;
          }
        });
        element.end();
      };
    },
  );
  return fill;
}

function stagesIn(pack: Pack, yMm: number): number {
  const { sheet, lesson, pictures, numbers } = pack;
  const shown = lesson.stages
    .map((stage) => ({ stage, steps: lesson.steps.filter((step) => step.stageId === stage.id) }))
    .filter(({ steps }) => steps.length > 0)
    .slice(0, 5);
  const gap = 5;
  const width = Math.min(60, (sheet.width - gap * (shown.length - 1)) / Math.max(1, shown.length));
  const height = width * ratioOf(pack);
  let most = 0;
  shown.forEach(({ stage, steps }, i) => {
    const [first, last] = [steps[0], steps.at(-1)] as [(typeof steps)[number], (typeof steps)[number]];
    const x = sheet.left + i * (width + gap);
    sheet.picture(pictures.get(last.id), x, yMm, width, height, say`After stage ${i + 1}, ${stage.name}.`);
    let y = yMm + height + 2.5;
    y += sheet.text(`${i + 1}  ${stage.name}`, x, y, width, 'label');
    const [from, to] = [itemOf(pack, first.id)?.startMin ?? 0, itemOf(pack, last.id)?.endMin ?? 0];
    y += sheet.text(
      say`Steps ${numbers.get(first.id)}–${numbers.get(last.id)}, ${clock(from)} to ${clock(to)}`,
      x,
      y + 0.4,
      width,
      'small',
    );
    most = Math.max(most, y);
  });
  return most;
}

/** The class as a bar with the numbers of its steps, and half hours below. */
function bigClock({ sheet, plan: { plan }, numbers }: Pack, yMm: number): number {
  const { doc, left, width } = sheet;
  let y = yMm + sheet.text(say('The clock of the class'), left, yMm, width, 'h3', { tag: 'H3' }) + 2;
  sheet.artefact(() => {
    for (const item of plan.items) {
      const x = left + (item.startMin / plan.endMin) * width;
      const long = ((item.endMin - item.startMin) / plan.endMin) * width;
      if (item.kind === 'step') {
        doc.rect(x * MM, y * MM, Math.max(0.5, long - 0.4) * MM, 9 * MM).fill('#3a3a3a');
        if (long > 3.2) sheet.mark(String(numbers.get(item.stepId ?? '') ?? ''), x, y + 3.1, long - 0.4, 6.8, '#ffffff');
      } else if (item.kind === 'break')
        doc
          .lineWidth(0.5)
          .strokeColor('#3a3a3a')
          .rect(x * MM, y * MM, Math.max(0.4, long - 0.4) * MM, 9 * MM)
          .stroke();
      else {
        doc.fillColor('#9a9a9a');
        for (let row = 0; row < 4; row++)
          for (let at = 0.8 + (row % 2) * 0.7; at < long - 0.5; at += 1.4)
            doc.circle((x + at) * MM, (y + 1.5 + row * 2) * MM, 0.55).fill();
      }
    }
    doc.lineWidth(0.3).strokeColor(HAIR);
    for (let minute = 0; minute <= plan.endMin; minute += 30) {
      const x = left + (minute / plan.endMin) * width;
      doc
        .moveTo(x * MM, (y + 10) * MM)
        .lineTo(x * MM, (y + 11.5) * MM)
        .stroke();
      sheet.mark(clock(minute), Math.min(x - 5, sheet.right - 10), y + 12, 10, 7, SOFT);
    }
  });
  y += 19;
  return (
    y +
    sheet.text(
      say('Dark: hands at work, with the number of the step. Dotted: paint drying. Open: the break.'),
      left,
      y,
      width,
      'small',
    )
  );
}

import { say } from '@viaticum/contract';
import {
  cautionsFor,
  doneBy,
  type KitLine,
  mlInWords,
  moneyInWords,
  preparation,
  studentLines,
  studioLines,
  taskTime,
  tubesInWords,
} from '@viaticum/core/kit';
import { capital, minutesInWords } from '@viaticum/core/units';
import type { Pack } from '../model.js';

const title = (pack: Pack, text: string, yMm: number): number =>
  yMm + pack.sheet.text(text, pack.sheet.left, yMm, pack.sheet.width, 'h3', { tag: 'H3' }) + 2;

/** What is needed: for the instructor all that is bought and laid out; for a student only what they bring. */
export function needed(pack: Pack): void {
  if (pack.isCopy) whole(pack);
  else own(pack);
}

function whole(pack: Pack): void {
  const { sheet, paint, lines, studio, heads } = pack;
  sheet.chapter(
    say('What is needed'),
    say`For ${heads} painters and the teaching canvas. Volumes are estimates: weigh what is left, and the next list is nearer.`,
    (top) => {
      const { left, right } = sheet;
      let y = title(pack, say('Paint'), top);
      y =
        sheet.table(
          y,
          [
            { title: say('Tube'), xMm: left, widthMm: 50 },
            { title: say('Each'), xMm: left + 52, widthMm: 20, align: 'right' },
            { title: say('Class'), xMm: left + 76, widthMm: 22, align: 'right' },
            { title: say('Buy'), xMm: left + 106, widthMm: 36 },
            { title: studio.currency, xMm: right - 24, widthMm: 24, align: 'right' },
          ],
          paint.tubes.map((one) => [
            capital(one.name),
            mlInWords(one.headMl),
            mlInWords(one.groupMl),
            tubesInWords(one.buy.sizes),
            one.isPriced ? moneyInWords(one.buy.costMinor, studio.currency) : '',
          ]),
        ) + 6;
      const batches = paint.mixes.filter(({ premix }) => premix.batch);
      if (batches.length > 0) {
        y = title(pack, say('Mixed before the class'), sheet.room(y, 30));
        y =
          sheet.table(
            y,
            [
              { title: say('Mix'), xMm: left, widthMm: 36 },
              { title: say('Amount'), xMm: left + 36, widthMm: 18, align: 'right' },
              { title: say('Measure'), xMm: left + 60, widthMm: 74 },
              { title: say('Fill'), xMm: left + 138, widthMm: sheet.width - 138 },
            ],
            batches.map(({ premix: { mix, batch } }) => [
              capital(mix.name),
              mlInWords(batch?.ml ?? 0),
              (batch?.parts ?? []).map(({ name, ml }) => say`${ml} ml ${name}`).join(' + '),
              `${batch?.portions} × ${mlInWords(batch?.portionMl ?? 0)}`,
            ]),
          ) + 6;
      }
      const rest = studioLines(lines).filter(({ shelf }) => shelf !== 'paint');
      y = title(pack, say('Brushes and everything else'), sheet.room(y, 30));
      sheet.table(
        y,
        [
          { title: say('Thing'), xMm: left, widthMm: 78 },
          { title: say('Each'), xMm: left + 80, widthMm: 22, align: 'right' },
          { title: say('Class'), xMm: left + 104, widthMm: 18, align: 'right' },
          { title: '', xMm: left + 128, widthMm: sheet.width - 128 },
        ],
        rest.map((line) => [capital(line.name), line.each ?? '', line.amount, line.note ?? '']),
      );
    },
  );
}

function own(pack: Pack): void {
  const { sheet, lines } = pack;
  const mine = studentLines(lines);
  const row = (line: KitLine) => [capital(line.name), line.each ?? '', line.note ?? ''];
  sheet.chapter(say('What to bring'), say('For one painter. What the studio gives is not on this list.'), (y) => {
    if (mine.length === 0) {
      return (
        y +
        sheet.text(
          say('Nothing: all is there. Old clothes are a good idea, acrylic paint does not wash out once it is dry.'),
          sheet.left,
          y,
          140,
          'body',
        )
      );
    }
    return sheet.table(
      y,
      [
        { title: say('Thing'), xMm: sheet.left, widthMm: 80 },
        { title: say('How many'), xMm: sheet.left + 84, widthMm: 24, align: 'right' },
        { title: '', xMm: sheet.left + 114, widthMm: sheet.width - 114 },
      ],
      mine.map(row),
    );
  });
}

/** What is prepared, counted back from when the class begins. */
export function before(pack: Pack): void {
  const { sheet, lesson, studio, paint } = pack;
  const tasks = preparation(
    lesson,
    studio,
    paint.mixes.map(({ premix }) => premix),
  );
  sheet.chapter(
    say('Before the class'),
    say('Counted back from when the class begins, drying in this room included. Nothing of it is class time.'),
    (y) =>
      sheet.table(
        y,
        [
          { title: say('When'), xMm: sheet.left, widthMm: 44 },
          { title: say('What'), xMm: sheet.left + 46, widthMm: 78 },
          { title: say('Takes'), xMm: sheet.left + 126, widthMm: 18, align: 'right' },
          { title: '', xMm: sheet.left + 147, widthMm: sheet.width - 147 },
        ],
        tasks.map((task) => {
          const { day, clock } = taskTime(task, lesson.kit?.beginsAt);
          return [
            `${day}, ${clock}`,
            task.what,
            minutesInWords(Math.max(1, task.minutes)),
            [doneBy(task, studio.helpers), task.then].filter(Boolean).join('; '),
          ];
        }),
      ),
    // A head and some rows; the table goes on on the next page.
    90,
  );
}

/** The usual cautions, each with who decides. */
export function cautions(pack: Pack): void {
  const { sheet, lesson } = pack;
  const all = cautionsFor(lesson);
  sheet.chapter(
    say('Cautions'),
    say(
      'The usual cautions for what this lesson uses. They do not replace the label, the maker’s safety sheet, the rules of the place or a licensed person.',
    ),
    (top) => {
      let y = top;
      for (const { words } of all) {
        const high = sheet.heightOf(words, 'body', 150);
        y = sheet.room(y, high + 6);
        sheet.rule(sheet.left, y, sheet.width, 0.3);
        y += 2.4 + sheet.text(words, sheet.left, y + 2.4, 150, 'body') + 3;
      }
      return y;
    },
    45 + all.reduce((sum, { words }) => sum + sheet.heightOf(words, 'body', 150) + 6, 0),
  );
}

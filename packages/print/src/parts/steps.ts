import type { PlanItem, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { brushInMetric, brushInWords, brushOf } from '@viaticum/core/brush';
import { capital, minutesInWords, sizeInWords } from '@viaticum/core/units';
import type { Pack } from '../model.js';
import { INK, MM } from '../sheet.js';
import { classLine, clock, hex, itemOf, ratioOf, spoken, whereIs } from './common.js';

const needWords: Partial<Record<string, string>> = worded({
  touchDry: 'touch-dry',
  paintOver: 'dry enough to paint over',
  wet: 'still wet',
  damp: 'damp',
  firm: 'firm',
});
const brushFor = ({ lesson }: Pack, step: Step): string => {
  const brush = brushOf(step.brushId);
  return brush ? (lesson.units === 'cm' ? brushInMetric(brush) : brushInWords(brush)) : '';
};

/** The steps one after the other with the canvas after each; pauses between them where the class waits. */
export function steps(pack: Pack): void {
  const { sheet, lesson, plan } = pack;
  sheet.chapter(say('The steps'), '', (top) => {
    let y = top;
    let stageId = '';
    const onPage = new Map<number, Set<string>>();
    for (const item of plan.plan.items) {
      const step = lesson.steps.find(({ id }) => id === item.stepId);
      if (!step) {
        const high = pauseHigh(pack, item);
        y = sheet.room(y, high);
        pause(pack, item, y);
        y += high + 7;
        continue;
      }
      const stage = lesson.stages.find(({ id }) => id === step.stageId);
      const isNew = stage !== undefined && step.stageId !== stageId;
      const high = block(pack, step, item, 0, true);
      y = sheet.room(y, high + (isNew ? 9 : 0));
      if (isNew && stage) {
        stageId = step.stageId;
        sheet.rule(sheet.left, y, sheet.width, 0.6, INK);
        y +=
          2 +
          sheet.text(say`Stage ${lesson.stages.indexOf(stage) + 1}, ${stage.name}`, sheet.left, y + 2, sheet.width, 'label') +
          3;
      }
      const page = sheet.pageCount - 1;
      onPage.set(page, (onPage.get(page) ?? new Set()).add(step.id));
      block(pack, step, item, y, false);
      y += high + 9;
    }
    for (const [page, ids] of onPage) sheet.furniture.set(page, () => classLine(pack, 17, ids));
  });
}

const PICTURE_MM = 53;
const MAP_MM = 15;

/** One step beside its picture: measured, or put. Gives its height, mm. */
function block(pack: Pack, step: Step, item: PlanItem, yMm: number, isMeasured: boolean): number {
  const { sheet, looks, numbers, isCopy, pictures, plan } = pack;
  const ratio = ratioOf(pack);
  const wide = ratio > 1.5 ? PICTURE_MM * (1.5 / ratio) : PICTURE_MM;
  const x = sheet.left + PICTURE_MM + 8;
  const width = sheet.right - x;
  let high = 0;
  const put = (text: string, style: 'body' | 'strong' | 'voice', widthMm: number, tag = 'P') => {
    if (text)
      high += isMeasured ? sheet.heightOf(text, style, widthMm) : sheet.text(text, x, yMm + high, widthMm, style, { tag });
  };
  const number = String(numbers.get(step.id));
  const numberMm = number.length > 1 ? 15 : 9.5;
  const titleMm = width - MAP_MM - 4 - numberMm;
  const titleHigh = sheet.heightOf(step.title, 'h3', titleMm);
  if (!isMeasured) {
    sheet.picture(
      pictures.get(step.id),
      sheet.left,
      yMm,
      wide,
      wide * ratio,
      say`The canvas after step ${number}, ${step.title}.${step.finish ? ` ${step.finish}` : ''}`,
    );
    sheet.artefact(() => whereIs(pack, step, sheet.right - MAP_MM, yMm + 1, MAP_MM));
    sheet.tagged('H3', {}, () => {
      sheet.raw(number, x, yMm - 2, numberMm + 3, 'number');
      sheet.raw(step.title, x + numberMm, yMm + 1, titleMm, 'h3');
    });
  }
  high += Math.max(titleHigh + 2.4, 10.5);
  const minutes = plan.minutes.get(step.id);
  const rounded = (value: number) => Math.round(value * 10) / 10;
  const takes =
    isCopy && minutes
      ? say`show ${rounded(minutes.showMin)}, do ${rounded(minutes.doMin)} min`
      : minutesInWords(item.endMin - item.startMin);
  put(say`${clock(item.startMin)} to ${clock(item.endMin)}   ${takes}`, 'strong', width - MAP_MM - 4);
  high += 0.6;
  const cover = step.coverShare !== undefined ? say`cover about ${Math.round(step.coverShare * 100)} %` : '';
  put(
    capital(
      [brushFor(pack, step), step.technique?.replace('-', ' ') ?? '', step.medium?.replace('-', ' ') ?? '', cover]
        .filter(Boolean)
        .join(', '),
    ),
    'body',
    width - MAP_MM - 4,
  );
  const need = needWords[step.needs];
  if (need) put(say`Begin when what lies beneath is ${need}.`, 'body', width - MAP_MM - 4);
  high = Math.max(high, MAP_MM * ratio + 3) + 1.6;
  for (const id of step.mixIds) {
    const look = looks.get(id);
    if (!look) continue;
    const words = spoken(look.words);
    const nameHigh = sheet.heightOf(capital(look.mix.name), 'label', width - 10);
    if (!isMeasured) {
      sheet.swatch(x, yMm + high + 0.2, 7, 7, hex(look.rgb));
      sheet.tagged('P', {}, () => {
        sheet.raw(capital(look.mix.name), x + 9.5, yMm + high - 0.3, width - 10, 'label');
        sheet.raw(words, x + 9.5, yMm + high + nameHigh - 0.5, width - 10, 'small');
      });
    }
    high += Math.max(8, nameHigh + sheet.heightOf(words, 'small', width - 10)) + 1;
  }
  high += 1.2;
  if (step.say) put(isCopy ? `“${step.say}”` : step.say, isCopy ? 'voice' : 'body', width);
  high += 1.8;
  for (const [name, text] of [
    [say('Watch'), step.watch],
    [say('Look'), step.checkpoint],
    [say('Then'), step.finish],
  ] as const) {
    if (!text) continue;
    const rowHigh = sheet.heightOf(text, 'body', width - 16);
    if (!isMeasured)
      sheet.tagged('P', {}, () => {
        sheet.raw(name, x, yMm + high + 0.25, 15, 'label');
        sheet.raw(text, x + 16, yMm + high, width - 16, 'body');
      });
    high += rowHigh + 0.9;
  }
  return Math.max(high, wide * ratio);
}

const pauseText = (item: PlanItem): string[] =>
  [item.reason ?? '', item.meanwhile ? say`Meanwhile: ${item.meanwhile}` : ''].filter(Boolean);
const pauseTitle = (item: PlanItem): string => `${item.title}, ${minutesInWords(item.endMin - item.startMin)}`;
function pauseHigh({ sheet }: Pack, item: PlanItem): number {
  const width = sheet.right - sheet.left - PICTURE_MM - 8;
  return (
    3 +
    sheet.heightOf(pauseTitle(item), 'strong', width) +
    pauseText(item).reduce((sum, text) => sum + sheet.heightOf(text, 'body', width), 0)
  );
}
/** A pause: a stipple field, why it is, and what to do meanwhile. */
function pause({ sheet }: Pack, item: PlanItem, yMm: number): void {
  const x = sheet.left + PICTURE_MM + 8;
  const width = sheet.right - x;
  const { doc } = sheet;
  if (item.kind === 'pause')
    sheet.artefact(() => {
      doc.fillColor('#9a9a9a');
      for (let row = 0; row < 6; row++)
        for (let at = 1 + (row % 2) * 1.5; at < PICTURE_MM; at += 3)
          doc.circle((sheet.left + at) * MM, (yMm + 2 + row * 2.4) * MM, 0.55).fill();
    });
  sheet.rule(x, yMm, width, 0.5, INK);
  let y = yMm + 3;
  y += sheet.text(pauseTitle(item), x, y, width, 'strong');
  for (const text of pauseText(item)) y += sheet.text(text, x, y, width, 'body');
}

/** Everything that one looks up at the easel, on one page as long as it fits. */
export function summary(pack: Pack): void {
  const { sheet, lesson, looks, plan, pictures, numbers, paint } = pack;
  sheet.page('');
  sheet.section(say('On one page'), () => {
    const pictureMm = 56;
    const ratio = ratioOf(pack);
    sheet.picture(
      pictures.get(lesson.steps.at(-1)?.id ?? ''),
      sheet.left,
      16,
      pictureMm,
      pictureMm * ratio,
      say`The finished painting, ${lesson.title}.`,
    );
    const x = sheet.left + pictureMm + 8;
    const width = sheet.right - x;
    let y = 15;
    y += sheet.text(lesson.title, x, y, width, 'h2', { tag: 'H1' }) + 1;
    const size = sizeInWords(lesson.support.widthMm, lesson.support.heightMm, lesson.units);
    y += sheet.text(`${size}, ${clock(plan.plan.endMin)} h, ${lesson.level}s.`, x, y, width, 'body') + 3;
    const column = width / 2;
    for (let i = 0; i < paint.mixes.length; i += 2) {
      const row = paint.mixes.slice(i, i + 2).flatMap(({ premix: { mix } }) => looks.get(mix.id) ?? []);
      const highs = row.map((look, k) => {
        const atX = x + k * column;
        const words = spoken(look.words);
        sheet.swatch(atX, y, 6, 8.4, hex(look.rgb));
        sheet.tagged('P', {}, () => {
          sheet.raw(capital(look.mix.name), atX + 8, y - 0.8, column - 9, 'label');
          sheet.raw(words, atX + 8, y + 3.1, column - 9, 'tiny');
        });
        return 4.6 + sheet.heightOf(words, 'tiny', column - 9);
      });
      y += Math.max(10.4, ...highs);
    }
    y = Math.max(16 + pictureMm * ratio, y) + 6;
    const each = (sheet.width - 8) / 2;
    const half = Math.ceil(lesson.steps.length / 2);
    let at = y;
    lesson.steps.forEach((step, i) => {
      if (i === half) at = y;
      const left = i < half ? sheet.left : sheet.left + each + 8;
      const line = [
        brushFor(pack, step),
        step.technique?.replace('-', ' ') ?? '',
        step.mixIds.map((id) => looks.get(id)?.mix.name ?? '').join(', '),
      ]
        .filter(Boolean)
        .join(' · ');
      const high = [
        sheet.heightOf(step.title, 'strong', each - 20),
        sheet.heightOf(line, 'small', each - 20),
        sheet.heightOf(step.checkpoint, 'small', each - 20),
      ].reduce((sum, one) => sum + one, 0);
      if (at + high > sheet.paper.heightMm - 10) {
        sheet.page('');
        at = 16;
        y = 16;
      }
      sheet.rule(left, at, each, 0.3);
      sheet.tagged('P', {}, () => {
        sheet.raw(String(numbers.get(step.id)), left, at + 0.6, 9, 'h3');
        sheet.raw(clock(itemOf(pack, step.id)?.startMin ?? 0), left + 9, at + 1.5, 12, 'small');
        let line2 = at + 1.2;
        line2 += sheet.raw(step.title, left + 20, line2, each - 20, 'strong');
        line2 += sheet.raw(line, left + 20, line2, each - 20, 'small', { colour: INK });
        sheet.raw(step.checkpoint, left + 20, line2, each - 20, 'small');
      });
      at += high + 3.4;
    });
  });
}

/** A card for each step, four to a sheet with lines to cut along. */
export function cards(pack: Pack): void {
  const { sheet, lesson, looks, pictures, numbers } = pack;
  const [halfWidth, halfHeight] = [sheet.paper.widthMm / 2, sheet.paper.heightMm / 2];
  const ratio = ratioOf(pack);
  const list = lesson.steps.filter(({ kind }) => kind !== 'break');
  for (let from = 0; from < list.length; from += 4) {
    sheet.page('');
    sheet.section(say`Cards ${from / 4 + 1}`, () => {
      sheet.artefact(() =>
        sheet.doc
          .lineWidth(0.3)
          .strokeColor('#bbbbbb')
          .dash(2, { space: 2 })
          .moveTo(halfWidth * MM, 0)
          .lineTo(halfWidth * MM, sheet.paper.heightMm * MM)
          .moveTo(0, halfHeight * MM)
          .lineTo(sheet.paper.widthMm * MM, halfHeight * MM)
          .stroke()
          .undash(),
      );
      list.slice(from, from + 4).forEach((step, place) => {
        const [x, y] = [(place % 2) * halfWidth + 12, Math.floor(place / 2) * halfHeight + 12];
        const width = halfWidth - 24;
        const pictureHigh = Math.min(62, 48 * ratio);
        const pictureMm = pictureHigh / ratio;
        const item = itemOf(pack, step.id);
        const beside = x + pictureMm + 4;
        sheet.picture(
          pictures.get(step.id),
          x,
          y,
          pictureMm,
          pictureHigh,
          say`After step ${numbers.get(step.id)}, ${step.title}.`,
        );
        sheet.tagged('H2', {}, () => {
          sheet.raw(String(numbers.get(step.id)), beside, y - 2, 20, 'number');
        });
        let at = y + 11;
        const narrow = width - pictureMm - 4;
        if (item)
          at += sheet.text(
            `${clock(item.startMin)}, ${minutesInWords(item.endMin - item.startMin)}`,
            beside,
            at,
            narrow,
            'strong',
          );
        at += sheet.text(brushFor(pack, step), beside, at, narrow, 'body') + 1;
        for (const id of step.mixIds.slice(0, 4)) {
          const look = looks.get(id);
          if (!look) continue;
          sheet.swatch(beside, at + 0.5, 5, 5, hex(look.rgb));
          at += Math.max(6.5, sheet.text(look.mix.name, beside + 6.5, at + 0.6, narrow - 6.5, 'small', { colour: INK }) + 1.5);
        }
        at = Math.max(at, y + pictureHigh) + 3;
        at += sheet.text(step.title, x, at, width, 'h3', { tag: 'H3' }) + 1;
        const left = y + halfHeight - 24 - at;
        const look = sheet.heightOf(step.checkpoint, 'strong', width);
        at += sheet.text(fitted(pack, step.say, width, left - look - 2), x, at, width, 'body') + 1.5;
        sheet.text(step.checkpoint, x, at, width, 'strong');
      });
    });
  }
}

/** As many whole sentences of a text as fit into so much height. */
function fitted({ sheet }: Pack, text: string, widthMm: number, highMm: number): string {
  const sentences = text.match(/[^.!?]+[.!?]+["”’]?\s*|[^.!?]+$/g) ?? [];
  while (sentences.length > 0 && sheet.heightOf(sentences.join(''), 'body', widthMm) > highMm) sentences.pop();
  return sentences.join('').trim();
}

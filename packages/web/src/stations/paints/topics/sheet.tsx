import type { Lesson } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { paintOf, paletteLayout, shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { listInWords } from '@viaticum/core/units';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { useLesson } from '../../../lesson/context.js';
import { RecipeBar } from '../../../ui/swatch.js';
import { words } from '../../../words/words.js';
import { paintSide, usePaintJob } from '../paint-context.js';
import paintsCss from '../paints.module.css';
import css from './sheet.module.css';

const w = words.paints;

/** Mixes in the order in which steps use them; those that no step uses come last. */
function inOrderOfUse(lesson: Lesson) {
  const order = [...lesson.steps.flatMap((step) => step.mixIds), ...lesson.mixes.map((mix) => mix.id)];
  const looks = looksOf(lesson);
  return [...new Set(order)].flatMap((id) => {
    const look = looks.get(id);
    return look?.colour ? [look] : [];
  });
}

/** The palette sheet: mixes on a palette's outline, recipes beside it, and the mixing chart; made for paper as for the screen. */
export function SheetTopic() {
  const lesson = useLesson();
  const [without, setWithout] = useState('');
  const looks = inOrderOfUse(lesson);
  const asked = useMemo(() => (without ? { lesson: paintSide(lesson), lacking: [without] } : null), [lesson, without]);
  const { answer, progress } = usePaintJob('without', asked);
  const lacked = lesson.tubes.find((tube) => tube.id === without);
  return (
    <div className={paintsCss.paintsPage}>
      <div className={css.sheetKeys}>
        <Button onClick={() => window.print()}>{w.sheetPrint}</Button>
        <div className="small">
          {w.alternative}
          <Select
            aria-label={w.alternative}
            value={without}
            onChange={(given) => setWithout(given)}
            options={[
              { value: '', label: w.noAlternative },
              ...lesson.tubes.map((tube) => ({ value: tube.id, label: shortTubeName(tube) })),
            ]}
          />
        </div>
        {progress !== null && <span className="small quiet">{w.searching(progress)}</span>}
      </div>
      <article className="print-sheet">
        <h2>{w.sheetTitle(lesson.title)}</h2>
        <p className="small quiet">{w.sheetAbout}</p>
        <PaletteDrawing lesson={lesson} />
        <table className={css.sheetTable} data-testid="sheet-table">
          <thead>
            <tr>
              <th> </th>
              <th>{w.sheetMix}</th>
              <th>{w.sheetRecipe}</th>
              {lacked && <th>{w.withoutColumn(shortTubeName(lacked))}</th>}
              <th>{w.sheetFor}</th>
            </tr>
          </thead>
          <tbody>
            {looks.map((look, i) => {
              const other = answer?.find((one) => one.mixId === look.mix.id);
              return (
                <tr key={look.mix.id}>
                  <td className="numbers">{i + 1}</td>
                  <td>
                    <span className={css.sheetMix}>
                      <i style={{ background: look.wetRgb }} title={w.wet} />
                      <i style={{ background: look.rgb }} title={w.dry} />
                      {look.mix.name}
                    </span>
                  </td>
                  <td>
                    <RecipeBar parts={look.parts} words={look.words} />
                  </td>
                  {lacked && <td className="small">{other ? `${other.words} (${other.off})` : '='}</td>}
                  <td className="small">
                    {lesson.steps.flatMap((step, k) => (step.mixIds.includes(look.mix.id) ? [k + 1] : [])).join(', ') || '–'}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        <h3>{w.chart}</h3>
        <p className="small quiet">{w.chartAbout}</p>
        <Chart lesson={lesson} />
        <p className="small quiet">
          {w.cautions} {w.estimate}
        </p>
      </article>
    </div>
  );
}

/** Height of a row of heaps with their names, and about the width of a letter, in units of the drawing. */
const ROW = 50;
const LETTER = 4.7;
/** A numbered name in at most two lines of so many letters; the number alone where it does not fit. */
function inLines(text: string, letters: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= letters) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.length <= 2 && lines.every((line) => line.length <= letters) ? lines : [text.split(' ')[0] as string];
}

/** A palette's outline with a white at each end and the mixes in rows, warm to cool, numbered in order of use. */
function PaletteDrawing({ lesson }: { lesson: Lesson }) {
  const looks = inOrderOfUse(lesson);
  const { places, rows, pitch } = paletteLayout(looks.map((look) => look.colour?.lab ?? [50, 0, 0]));
  // A name stands where it has room; the number leads to the table in any case.
  const letters = Math.floor((pitch * 400) / LETTER);
  const high = 30 + rows * ROW;
  const whiteAt = high + 14;
  const white = lesson.tubes.find((tube) => tube.pigment === 'PW6') ?? lesson.tubes.find((tube) => tube.pigment === 'PW4');
  const whiteRgb = white ? cssRgb(tubeRgb(white, lesson.finish)) : 'none';
  return (
    <svg className={css.paletteDrawing} viewBox={`0 0 400 ${high + 50}`} role="img" aria-label={w.sheetAbout}>
      <rect x="4" y="4" width="392" height={high + 42} rx="4" fill="var(--grey-87)" stroke="var(--grey-53)" />
      {[
        { x: 0.06, said: w.warmEnd },
        { x: 0.94, said: w.coolEnd },
      ].map(({ x, said }) => (
        <g key={said}>
          <ellipse cx={x * 400} cy={whiteAt} rx={17} ry={14} fill={whiteRgb} stroke="var(--grey-53)" strokeWidth="0.7" />
          <text x={x * 400} y={whiteAt + 26} textAnchor="middle" fontSize="9">
            {said}
          </text>
        </g>
      ))}
      {looks.map((look, i) => {
        const [x, y] = places[i] as [number, number];
        return (
          <g key={look.mix.id}>
            <path
              d={`M${x * 400 - 15} ${20 + y * (high - 30)}c-2-9 6-15 15-14s17 4 15 13-8 13-15 12-14-3-15-11z`}
              fill={look.wetRgb}
              stroke="var(--grey-53)"
              strokeWidth="0.5"
            />
            {inLines(`${i + 1} ${look.mix.name}`, letters).map((line, k) => (
              <text key={line} x={x * 400} y={20 + y * (high - 30) + 21 + 8.5 * k} textAnchor="middle" fontSize="8.5">
                {line}
              </text>
            ))}
          </g>
        );
      })}
    </svg>
  );
}

const RATIOS = [
  [3, 1],
  [1, 1],
  [1, 3],
] as const;

/** Every tube with every other in three ratios: the row's tube comes first. */
function Chart({ lesson }: { lesson: Lesson }) {
  const { finish } = lesson;
  const colour = (row: number, column: number, ratio: readonly [number, number]) =>
    cssRgb(
      labToSrgb(
        mixColour(
          [
            { pigment: paintOf(lesson.tubes[row] as Lesson['tubes'][number]), parts: ratio[0] },
            { pigment: paintOf(lesson.tubes[column] as Lesson['tubes'][number]), parts: ratio[1] },
          ],
          { finish },
        ).lab,
      ),
    );
  return (
    <table className={css.mixingChart} data-testid="mixing-chart">
      <tbody>
        {lesson.tubes.map((tube, row) => (
          <tr key={tube.id}>
            <th scope="row" className="small">
              {shortTubeName(tube)}
            </th>
            {lesson.tubes.slice(0, row + 1).map((other, column) => (
              <td key={other.id} title={listInWords([shortTubeName(tube), shortTubeName(other)])}>
                {row === column ? (
                  <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
                ) : (
                  RATIOS.map((ratio) => <i key={ratio.join()} style={{ background: colour(row, column, ratio) }} />)
                )}
              </td>
            ))}
          </tr>
        ))}
        <tr>
          <td />
          {lesson.tubes.map((tube) => (
            <th key={tube.id} scope="col" className={clsx('small', css.chartFoot)}>
              {shortTubeName(tube)}
            </th>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

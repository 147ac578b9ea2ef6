import type { FollowSheet } from '@viaticum/contract';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { followWords as w } from '../../words/follow.js';
import css from './cells.module.css';

const nameOf = (column: number, row: number) => `${String.fromCharCode(65 + (column % 26))}${row + 1}`;
/** So much of the neighbouring cells is seen, as a share of a cell. */
const BESIDE = 0.12;

/** One cell of the grid at a time, large, with a tick when it is drawn; where one is stands on a small map. Kept while the page is open. */
export function Cells({ sheet, grid: { columns, rows } }: { sheet: FollowSheet; grid: { columns: number; rows: number } }) {
  const [at, setAt] = useState(0);
  const [done, setDone] = useState<ReadonlySet<number>>(new Set());
  const { widthMm, heightMm } = sheet.canvas;
  const [width, height] = [widthMm / columns, heightMm / rows];
  const count = columns * rows;
  const [column, row] = [at % columns, Math.floor(at / columns)];
  const [x, y] = [column * width, row * height];
  const unit = width / 140;
  const tick = () => {
    const next = new Set(done);
    if (next.has(at)) next.delete(at);
    else {
      next.add(at);
      // On to the next that is not drawn yet.
      const open = Array.from({ length: count }, (_, i) => (at + 1 + i) % count).find((i) => !next.has(i));
      if (open !== undefined) setAt(open);
    }
    setDone(next);
  };
  return (
    <fieldset className={css.followCells}>
      <legend>
        {w.cells}: <b className="numbers">{w.cell(nameOf(column, row), done.size, count)}</b>
      </legend>
      <svg
        viewBox={`${x - width * BESIDE} ${y - height * BESIDE} ${width * (1 + 2 * BESIDE)} ${height * (1 + 2 * BESIDE)}`}
        role="img"
        aria-label={w.cell(nameOf(column, row), done.size, count)}
      >
        <rect x={0} y={0} width={widthMm} height={heightMm} fill="var(--grey-99)" stroke="var(--grey-12)" strokeWidth={unit} />
        {sheet.areas.map((area) => (
          <path key={area.id} d={area.path} fill="none" stroke="var(--grey-12)" strokeWidth={unit * 1.6} />
        ))}
        <rect
          x={x}
          y={y}
          width={width}
          height={height}
          fill="none"
          stroke="var(--grey-50)"
          strokeWidth={unit}
          strokeDasharray={`${unit * 4} ${unit * 3}`}
        />
      </svg>
      <div className={css.followCellKeys}>
        <Button type="text" className="plain" aria-label={w.cellBefore} onClick={() => setAt((at + count - 1) % count)}>
          ‹
        </Button>
        <Button type="text" className={clsx('plain', css.wide)} aria-pressed={done.has(at)} onClick={tick}>
          {done.has(at) ? w.cellNotYet : w.cellDone}
        </Button>
        <Button type="text" className="plain" aria-label={w.cellNext} onClick={() => setAt((at + 1) % count)}>
          ›
        </Button>
      </div>
      <div className={css.followCellMap} style={{ gridTemplateColumns: `repeat(${columns}, 1fr)` }} aria-hidden="true">
        {Array.from({ length: count }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: cells have nothing but their order
          <i key={i} className={clsx(done.has(i) && css.done, i === at && css.here)} />
        ))}
      </div>
    </fieldset>
  );
}

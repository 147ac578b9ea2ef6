import { DeleteOutlined } from '@ant-design/icons';
import { Button, InputNumber, Select } from 'antd';
import { clsx } from 'clsx';
import { thingWords as w } from '../words/things.js';
import { NameOf } from './thing-list.js';
import css from './thing-list.module.css';
import { THINNING, type Things } from './use-things.js';

/** Things of lines: how many of each, how wide, and how they end. */
export function LineList({ things }: { things: Things }) {
  if (things.lines.length === 0) return null;
  return (
    <ul className={css.things} aria-label={w.line.list} data-testid="lines">
      {things.lines.map((line, i) => {
        const name = things.lineNames[i] as string;
        const isChosen = things.chosenLine === i;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: things are told apart by their number
          <li key={i} className={clsx(isChosen && css.chosen)}>
            <Button
              type="text"
              size="small"
              className={css.chip}
              aria-pressed={isChosen}
              aria-label={w.choose(name)}
              onClick={() => things.chooseLine(isChosen ? null : i)}
            >
              <svg viewBox="0 0 20 16" width="18" height="14" aria-hidden="true">
                <path d="M3 13Q9 10 17 3" fill="none" stroke="currentColor" strokeWidth="1.6" strokeLinecap="round" />
              </svg>
            </Button>
            <NameOf
              name={line.name}
              placeholder={name}
              isFresh={isChosen && line.name === ''}
              label={w.nameOf(name)}
              onFocus={() => things.chooseLine(i)}
              onName={(next) => things.changeLine(i, { name: next })}
            />
            <span className="numbers quiet small">{w.line.count(line.along.length)}</span>
            <Button
              type="text"
              size="small"
              icon={<DeleteOutlined />}
              aria-label={w.remove(name)}
              onClick={() => things.removeLine(i)}
            />
            {isChosen && (
              <div className={css.what}>
                <InputNumber<number>
                  size="small"
                  aria-label={w.line.widthOf(name)}
                  controls={false}
                  suffix="mm"
                  min={LEAST_MM}
                  max={MOST_MM}
                  value={line.widthMm}
                  onChange={(widthMm) => widthMm !== null && things.changeLine(i, { widthMm })}
                />
                <Select
                  size="small"
                  aria-label={w.line.endOf(name)}
                  value={line.taper > 0 ? 'thin' : 'even'}
                  options={(['thin', 'even'] as const).map((value) => ({ value, label: w.line.ends[value] }))}
                  onChange={(end: 'thin' | 'even') => things.changeLine(i, { taper: end === 'thin' ? THINNING : 0 })}
                />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}
const LEAST_MM = 0.4;
const MOST_MM = 30;

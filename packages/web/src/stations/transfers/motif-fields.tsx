import type { Construction, MotifRing, MotifUnit } from '@viaticum/contract';
import { motifUnits } from '@viaticum/contract';
import { motifMarks, type Point } from '@viaticum/core/transfer';
import { lengthNumber, readLength } from '@viaticum/core/units';
import { App, Button, Checkbox, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useLesson, useSession } from '../../lesson/context.js';
import { CommitInput } from '../../ui/commit-input.js';
import { NumberField } from '../../ui/number-field.js';
import { saveFile } from '../../ui/save-file.js';
import { transferWords } from '../../words/transfers.js';
import css from './transfers.module.css';

const w = transferWords.motif;
type Motif = Extract<Construction, { kind: 'motif' }>;
const MOST_RINGS = 20;

/** The rings of a motif, its sheets at true size, and its units as marks that a step paints and counts. */
export function MotifFields({ one, onChange }: { one: Motif; onChange: (change: object) => boolean }) {
  const lesson = useLesson();
  const session = useSession();
  const { message } = App.useApp();
  const { rings } = one;
  const ring = (k: number, change: Partial<MotifRing>) =>
    onChange({ rings: rings.map((own, i) => (i === k ? { ...own, ...change } : own)) });
  const last = rings.at(-1) as MotifRing;
  const asMarks = () => {
    const areaId = lesson.subjectAreaId ?? lesson.areas.at(-1)?.id;
    if (areaId === undefined) return void message.warning(w.needsArea);
    for (const mark of motifMarks(one)) session.do('addMark', { mark: { ...mark, id: nanoid(8), areaId } });
    void message.success(w.marked);
  };
  const save = async (isSector: boolean) => {
    const { motifPdf } = await import('../../pdf/motif.js');
    const bytes = await motifPdf(lesson, one, isSector);
    saveFile(`${lesson.title}, ${isSector ? w.sector : w.all}.pdf`, new Blob([bytes as BlobPart], { type: 'application/pdf' }));
  };
  return (
    <>
      {rings.map((own, k) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rings have no name but their number
        <fieldset key={k} className={css.motifRing}>
          <legend className="small">{w.ring(k + 1)}</legend>
          <p className={css.numbersRow}>
            <Select
              size="small"
              aria-label={w.unitOf(k + 1)}
              value={own.unit}
              style={{ width: 150 }}
              options={motifUnits.map((unit) => ({ value: unit, label: w.units[unit] }))}
              onChange={(unit: MotifUnit) => ring(k, { unit })}
            />
            {own.unit === 'own' && (
              <Select
                size="small"
                aria-label={w.ownOf(k + 1)}
                placeholder={w.ownLine}
                style={{ width: 150 }}
                options={lesson.drawing.own.map((line, i) => ({ value: line.id, label: line.name ?? w.lineNumber(i + 1) }))}
                onChange={(id: string) => {
                  const line = lesson.drawing.own.find((found) => found.id === id);
                  if (line) ring(k, { own: alongSpoke(line.curve) });
                }}
              />
            )}
            {(['fromMm', 'toMm', 'widthMm'] as const).map((field) => (
              <span key={field} className="small number-said">
                {w[field](lesson.units)}{' '}
                <CommitInput
                  className={css.length}
                  label={w.fieldOf(w[field](lesson.units), k + 1)}
                  value={lengthNumber(own[field], lesson.units)}
                  whileTyping={false}
                  onCommit={(text) => {
                    const mm = readLength(text, lesson.units);
                    return mm !== null && ring(k, { [field]: mm });
                  }}
                />
              </span>
            ))}
            {own.unit === 'dots' && (
              <span className="small number-said">
                {w.dots}{' '}
                <NumberField
                  label={w.fieldOf(w.dots, k + 1)}
                  value={own.dots ?? 5}
                  onValue={(dots) => dots >= 1 && dots <= 40 && ring(k, { dots: Math.round(dots) })}
                />
              </span>
            )}
          </p>
          <p className={css.numbersRow}>
            {(['between', 'turned', 'mirrored'] as const).map((field) => (
              <Checkbox
                key={field}
                className="small"
                checked={own[field] ?? false}
                onChange={(event) => ring(k, { [field]: event.target.checked })}
              >
                {w[field]}
              </Checkbox>
            ))}
            {rings.length > 1 && (
              <Button type="text" size="small" onClick={() => onChange({ rings: rings.filter((_, i) => i !== k) })}>
                {w.remove}
              </Button>
            )}
          </p>
        </fieldset>
      ))}
      <p className={css.keys}>
        <Button
          size="small"
          disabled={rings.length >= MOST_RINGS}
          onClick={() =>
            onChange({
              rings: [
                ...rings,
                { ...last, fromMm: last.toMm, toMm: last.toMm + (last.toMm - last.fromMm), between: !last.between },
              ],
            })
          }
        >
          {w.add}
        </Button>
        <Button size="small" onClick={() => void save(true)}>
          {w.sector}
        </Button>
        <Button size="small" onClick={() => void save(false)}>
          {w.all}
        </Button>
        <Button size="small" onClick={asMarks}>
          {w.asMarks}
        </Button>
      </p>
    </>
  );
}

/** A line as a unit: from its first to its last point along the spoke, and across it in shares of its widest. */
function alongSpoke(curve: readonly (readonly number[])[]): Point[] {
  const points = curve.filter((_, i) => i % 3 === 0).map(([x = 0, y = 0]): Point => [x, y]);
  const [[x0, y0], [x1, y1]] = [points[0] as Point, points.at(-1) as Point];
  const size = Math.hypot(x1 - x0, y1 - y0) || 1;
  const [cos, sin] = [(x1 - x0) / size, (y1 - y0) / size];
  const turned = points.map(
    ([x, y]): Point => [((x - x0) * cos + (y - y0) * sin) / size, ((y - y0) * cos - (x - x0) * sin) / size],
  );
  const widest = Math.max(1e-6, ...turned.map(([, y]) => Math.abs(y)));
  return turned.map(([x, y]): Point => [x, y / widest]);
}

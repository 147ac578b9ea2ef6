import { commonSizes } from '@viaticum/core/document';
import { MM_PER_INCH } from '@viaticum/core/units';
import { Checkbox, InputNumber, Select } from 'antd';
import { words } from '../words/words.js';
import css from './begin.module.css';
import { type Size, turnedSize } from './placement.js';

const OWN = 'own';
const w = words.shelf;
const isSame = (one: Size, other: Size) =>
  Math.abs(Math.max(one.widthMm, one.heightMm) - Math.max(other.widthMm, other.heightMm)) < 0.1 &&
  Math.abs(Math.min(one.widthMm, one.heightMm) - Math.min(other.widthMm, other.heightMm)) < 0.1;

/** A canvas as it is sold, lying or standing, or one's own size. */
export function CanvasSize({
  size,
  isOwn,
  onSize,
}: {
  size: Size;
  isOwn: boolean;
  onSize: (size: Size, isOwn: boolean) => void;
}) {
  const isLying = size.widthMm > size.heightMm;
  const sold = isOwn ? undefined : commonSizes.find((one) => isSame(one, size));
  const perUnit = size.unit === 'in' ? MM_PER_INCH : 10;
  const length = (key: 'widthMm' | 'heightMm', label: string) => (
    <div className="field">
      <span>{label}</span>
      <InputNumber
        aria-label={label}
        min={0.5}
        max={500}
        controls={false}
        value={Math.round((size[key] / perUnit) * 100) / 100}
        onChange={(next) => next && onSize({ ...size, [key]: next * perUnit }, true)}
      />
    </div>
  );
  return (
    <div className={css.canvas}>
      <div className="field">
        <span>{w.size}</span>
        <Select
          aria-label={w.size}
          value={sold?.name ?? OWN}
          onChange={(given) => {
            const chosen = commonSizes.find((one) => one.name === given);
            if (chosen) onSize(turnedSize(chosen, isLying), false);
            else onSize({ widthMm: isLying ? 500 : 400, heightMm: isLying ? 400 : 500, unit: 'cm' }, true);
          }}
          options={[...commonSizes.map((one) => ({ value: one.name, label: one.name })), { value: OWN, label: w.own }]}
        />
      </div>
      {sold ? (
        <Checkbox checked={isLying} onChange={(event) => onSize(turnedSize(size, event.target.checked), false)}>
          {w.turn}
        </Checkbox>
      ) : (
        <>
          {length('widthMm', w.width)}
          {length('heightMm', w.height)}
          <div className="field">
            <span>{w.unit}</span>
            <Select
              aria-label={w.unit}
              value={size.unit}
              onChange={(unit) => onSize({ ...size, unit }, true)}
              options={[
                { value: 'cm', label: 'cm' },
                { value: 'in', label: 'in' },
              ]}
            />
          </div>
        </>
      )}
    </div>
  );
}

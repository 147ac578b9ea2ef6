import { Slider } from 'antd';

/** A number that is turned: its name, what it stands at, and the slider beneath. `onDone` hears where it was let go. */
export function TurnField({
  label,
  said,
  value,
  min,
  max,
  step = 1,
  onChange,
  onDone,
}: {
  label: string;
  said: string | number;
  value: number;
  min: number;
  max: number;
  step?: number;
  onChange: (value: number) => unknown;
  onDone?: (value: number) => void;
}) {
  return (
    <div className="field">
      <span>
        {label} <b className="numbers">{said}</b>
      </span>
      <Slider
        ariaLabelForHandle={label}
        {...{ min, max, step, value }}
        onChange={(next) => void onChange(next)}
        {...(onDone ? { onChangeComplete: onDone } : {})}
      />
    </div>
  );
}

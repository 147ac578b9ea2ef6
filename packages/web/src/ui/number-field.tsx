import { InputNumber } from 'antd';
import { useId, useState } from 'react';
import { Refused, useRefusal } from './refusal.js';

type Given = {
  label: string;
  onValue: (value: number) => boolean;
  className?: string;
  /** What is counted or measured, behind the number. */
  unit?: string;
};
type Optional = { value: number | undefined; placeholder?: string; onClear: () => boolean };

/**
 * A number that takes effect when it is left or Enter is pressed, and goes back where it cannot be, with the sentence why under it. With
 * `onClear` it may be empty.
 */
export function NumberField(props: Given & ({ value: number } | Optional)) {
  const { label, value, onValue, className = 'number-field', unit } = props;
  const id = useId();
  const { sentence, attempt } = useRefusal();
  // Left, it shows what holds: what was refused is gone.
  const [left, setLeft] = useState(0);
  const leave = (input: HTMLInputElement) => {
    const text = input.value.trim().replace(',', '.');
    const isEmpty = text === '';
    const next = Number(text);
    if (isEmpty ? value === undefined : next === value) return;
    const canBe = isEmpty ? 'onClear' in props : Number.isFinite(next);
    if (canBe) attempt(() => (isEmpty ? (props as Optional).onClear() : onValue(next)));
    setLeft(left + 1);
  };
  return (
    <>
      <InputNumber<number>
        key={`${value ?? 'none'} ${left}`}
        className={className}
        controls={false}
        suffix={unit}
        aria-label={label}
        aria-invalid={sentence !== null || undefined}
        aria-describedby={sentence === null ? undefined : id}
        defaultValue={value}
        placeholder={'placeholder' in props ? props.placeholder : undefined}
        onBlur={(event) => leave(event.target)}
        onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
      />
      <Refused id={id} sentence={sentence} />
    </>
  );
}

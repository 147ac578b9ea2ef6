import { useId } from 'react';
import { Refused, useRefusal } from './refusal.js';

type Given = { label: string; onValue: (value: number) => boolean; className?: string };
type Optional = { value: number | undefined; placeholder?: string; onClear: () => boolean };

/**
 * A number that takes effect when it is left or Enter is pressed, and goes back where it cannot be, with the sentence why under it. With
 * `onClear` it may be empty.
 */
export function NumberField(props: Given & ({ value: number } | Optional)) {
  const { label, value, onValue, className = 'number-field' } = props;
  const id = useId();
  const { sentence, attempt } = useRefusal();
  const leave = (input: HTMLInputElement) => {
    const isEmpty = input.value === '';
    const next = Number(input.value);
    if (isEmpty ? value === undefined : next === value) return;
    const canBe = isEmpty ? 'onClear' in props : Number.isFinite(next);
    const isTaken = canBe && attempt(() => (isEmpty ? (props as Optional).onClear() : onValue(next)));
    if (!isTaken) input.value = value === undefined ? '' : String(value);
  };
  return (
    <>
      <input
        key={value ?? 'none'}
        className={className}
        type="number"
        step="any"
        aria-label={label}
        aria-invalid={sentence !== null || undefined}
        aria-describedby={sentence === null ? undefined : id}
        defaultValue={value}
        placeholder={'placeholder' in props ? props.placeholder : undefined}
        onBlur={(event) => leave(event.target)}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <Refused id={id} sentence={sentence} />
    </>
  );
}

import { NumberField } from './number-field.js';

/** A whole number between two bounds, with its word before it. */
export function WholeField({
  label,
  value,
  least,
  most,
  onValue,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onValue: (value: number) => void;
}) {
  return (
    <span className="small number-said">
      {label}{' '}
      <NumberField
        label={label}
        value={value}
        onValue={(next) => {
          const fits = next >= least && next <= most;
          if (fits) onValue(Math.round(next));
          return fits;
        }}
      />
    </span>
  );
}

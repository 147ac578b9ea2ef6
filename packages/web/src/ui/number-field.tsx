/** A small number in a sentence; takes effect when it is left or Enter is pressed, and goes back where it cannot be. */
export function NumberField({ label, value, onValue }: { label: string; value: number; onValue: (value: number) => boolean }) {
  return (
    <input
      key={value}
      className="number-field"
      type="number"
      step="any"
      aria-label={label}
      defaultValue={value}
      onBlur={(event) => {
        const next = Number(event.target.value);
        if (next === value) return;
        if (event.target.value === '' || !Number.isFinite(next) || !onValue(next)) event.target.value = String(value);
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

/** A question with a few answers, its words above. */
export function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string | number;
  options: readonly (readonly [value: string | number, said: string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="small">
      {label}
      <select className="plain-input" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map(([one, said]) => (
          <option key={one} value={one}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}

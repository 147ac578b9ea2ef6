import { Select } from 'antd';

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
    <div className="small choice">
      <span>{label}</span>
      <Select
        aria-label={label}
        value={value}
        options={options.map(([one, said]) => ({ value: one, label: said }))}
        onChange={(given) => onChange(String(given))}
      />
    </div>
  );
}

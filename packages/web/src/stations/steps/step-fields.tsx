import { Select } from 'antd';
import type { ReactNode } from 'react';
import { NumberField } from '../../ui/number-field.js';

type Options<T extends string> = readonly (readonly [T, string])[];
const asOptions = <T extends string>(options: Options<T>) => options.map(([value, label]) => ({ value, label }));
const matches = (input: string, option?: { label: string }) => (option?.label ?? '').toLowerCase().includes(input.toLowerCase());

/** A field with its name over it. */
export function Labelled({ label, wide = false, children }: { label: string; wide?: boolean; children: ReactNode }) {
  return (
    <div className={`field${wide ? ' wide' : ''}`}>
      <span>{label}</span>
      {children}
    </div>
  );
}

/** One of several. */
export function Choice<T extends string>({
  label,
  value,
  options,
  canClear = false,
  onChange,
}: {
  label: string;
  value: T | undefined;
  options: Options<T>;
  canClear?: boolean;
  onChange: (value: T | undefined) => void;
}) {
  return (
    <Labelled label={label}>
      <Select<T, { value: T; label: string }>
        aria-label={label}
        value={value ?? null}
        options={asOptions(options)}
        allowClear={canClear}
        showSearch={{ filterOption: matches }}
        onChange={onChange}
      />
    </Labelled>
  );
}

/** Any number of several. */
export function Several({
  label,
  of,
  value,
  options,
  onChange,
}: {
  label: string;
  /** Whose they are, where several have such a field. */
  of?: string;
  value: string[];
  options: Options<string>;
  onChange: (value: string[]) => void;
}) {
  return (
    <Labelled label={label} wide>
      <Select<string[], { value: string; label: string }>
        mode="multiple"
        aria-label={of === undefined ? label : `${label}, ${of}`}
        value={value}
        options={asOptions(options)}
        showSearch={{ filterOption: matches }}
        onChange={onChange}
      />
    </Labelled>
  );
}

/** A number, or none. */
export function NumberInput({
  label,
  value,
  placeholder = '',
  onValue,
}: {
  label: string;
  value: number | undefined;
  placeholder?: string;
  onValue: (value: number | null) => boolean;
}) {
  return (
    <Labelled label={label}>
      <NumberField
        className=""
        label={label}
        value={value}
        placeholder={placeholder}
        onValue={onValue}
        onClear={() => onValue(null)}
      />
    </Labelled>
  );
}

import { Form, Select, type SelectProps } from 'antd';
import type { ReactNode } from 'react';
import { NumberField } from '../../ui/number-field.js';
import css from './step-fields.module.css';

type Options<T extends string> = readonly (readonly [T, string])[];
const asOptions = <T extends string>(options: Options<T>) => options.map(([value, label]) => ({ value, label }));
const matches = (input: string, option?: { label: string }) => (option?.label ?? '').toLowerCase().includes(input.toLowerCase());
/** Beyond so many choices one types to find. */
const FEW = 8;

/** A row of a form: its name, then its controls beside each other; `why` stands under them. */
export function Labelled({ label, why, children }: { label: string; why?: ReactNode; children: ReactNode }) {
  return (
    <Form.Item label={label} colon={false} {...(why ? { extra: why } : {})}>
      <div className={css.formRow}>{children}</div>
    </Form.Item>
  );
}

/** One of several. */
export function Choice<T extends string>({
  label,
  value,
  options,
  canClear = false,
  none,
  onChange,
}: {
  label: string;
  value: T | undefined;
  options: Options<T>;
  canClear?: boolean;
  /** What stands there while nothing is chosen. */
  none?: string;
  onChange: (value: T | undefined) => void;
}) {
  return (
    <Select<T, { value: T; label: string }>
      aria-label={label}
      value={value ?? null}
      options={asOptions(options)}
      placeholder={none}
      allowClear={canClear}
      popupMatchSelectWidth={false}
      {...(options.length > FEW ? { showSearch: { filterOption: matches } } : {})}
      onChange={onChange}
    />
  );
}

/** Any number of several. */
export function Several({
  label,
  of,
  value,
  options,
  none,
  tag,
  onChange,
}: {
  label: string;
  /** Whose they are, where several have such a field. */
  of?: string;
  value: string[];
  options: Options<string>;
  none?: string;
  tag?: SelectProps['tagRender'];
  onChange: (value: string[]) => void;
}) {
  return (
    <Select<string[], { value: string; label: string }>
      mode="multiple"
      aria-label={of === undefined ? label : `${label}, ${of}`}
      value={value}
      options={asOptions(options)}
      placeholder={none}
      {...(tag ? { tagRender: tag } : {})}
      showSearch={{ filterOption: matches }}
      onChange={onChange}
    />
  );
}

/** A number, or none. */
export function NumberInput({
  label,
  value,
  placeholder = '',
  unit,
  onValue,
}: {
  label: string;
  value: number | undefined;
  placeholder?: string;
  unit?: string;
  onValue: (value: number | null) => boolean;
}) {
  return (
    <NumberField
      label={label}
      value={value}
      placeholder={placeholder}
      {...(unit === undefined ? {} : { unit })}
      onValue={onValue}
      onClear={() => onValue(null)}
    />
  );
}

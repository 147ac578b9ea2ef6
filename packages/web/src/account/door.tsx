import { type Language, languageNow } from '@viaticum/contract';
import { Button, Input } from 'antd';
import { type FormEvent, type ReactNode, useId, useState } from 'react';
import { keepLanguage } from '../ui/measures.js';
import { words } from '../words/words.js';
import css from './door.module.css';

/** The page before one is let in: one card in the middle. */
export function Door({ title, about, children }: { title: string; about?: string; children?: ReactNode }) {
  return (
    <main className={css.door}>
      <div className={css.card}>
        <p className={css.product}>{words.product}</p>
        <h1>{title}</h1>
        {about && <p className="quiet">{about}</p>}
        {children}
      </div>
      <Tongues />
    </main>
  );
}

/** The other language, for who is not known yet. */
function Tongues() {
  const other: [Language, string] = languageNow() === 'de' ? ['en', 'English'] : ['de', 'Deutsch'];
  return (
    <Button
      type="text"
      size="small"
      lang={other[0]}
      onClick={() => {
        keepLanguage(other[0]);
        location.reload();
      }}
    >
      {other[1]}
    </Button>
  );
}

/** What else can be done at the door, under its form. */
export function Others({ children }: { children: ReactNode }) {
  return <div className={css.others}>{children}</div>;
}

type Field = {
  key: string;
  label: string;
  kind?: 'text' | 'password' | 'digits';
  complete?: string;
  value?: string;
  note?: string;
};

/** A short form: its fields one under the other, what went wrong, one key. `onGo` gets what was written by the fields' keys. */
export function ShortForm({
  fields,
  go,
  onGo,
  error,
  isBusy,
}: {
  fields: Field[];
  go: string;
  onGo: (given: Record<string, string>) => void;
  error: Error | null;
  isBusy: boolean;
}) {
  const [given, setGiven] = useState<Record<string, string>>(() =>
    Object.fromEntries(fields.map(({ key, value = '' }) => [key, value])),
  );
  const form = useId();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onGo(given);
  };
  return (
    <form onSubmit={submit}>
      {fields.map(({ key, label, kind = 'text', complete, note }, index) => {
        const same = {
          id: `${form}-${key}`,
          'aria-describedby': note ? `${form}-${key}-note` : undefined,
          value: given[key] ?? '',
          onChange: (event: { target: { value: string } }) => setGiven((was) => ({ ...was, [key]: event.target.value })),
          autoComplete: complete ?? 'off',
          required: true,
          autoFocus: index === 0,
        };
        return (
          <div className="field" key={key}>
            <label className="quiet small" htmlFor={`${form}-${key}`}>
              {label}
            </label>
            {kind === 'password' ? (
              <Input.Password {...same} maxLength={200} />
            ) : (
              <Input {...same} maxLength={120} inputMode={kind === 'digits' ? 'numeric' : 'text'} />
            )}
            {note && <span id={`${form}-${key}-note`}>{note}</span>}
          </div>
        );
      })}
      {error && (
        <p className="signal" role="alert">
          {error.message}
        </p>
      )}
      <Button type="primary" htmlType="submit" loading={isBusy}>
        {go}
      </Button>
    </form>
  );
}

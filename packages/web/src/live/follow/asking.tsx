import type { FollowSheet, Helper } from '@viaticum/contract';
import { Button, Checkbox, Input } from 'antd';
import { clsx } from 'clsx';
import { type FormEvent, useState } from 'react';
import { Fold } from '../../ui/fold.js';
import { followWords as w } from '../../words/follow.js';
import css from './asking.module.css';
import followCss from './follow.module.css';

export function AskCode({ fault, onCode }: { fault: string | null; onCode: (code: string) => void }) {
  const [text, setText] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const code = text.toUpperCase().replace(/\s/g, '');
    if (code) onCode(code);
  };
  return (
    <main className={clsx(followCss.followPage, css.followAsk)} data-testid="follow-page">
      <form onSubmit={submit}>
        <h1>{w.codeTitle}</h1>
        <p className="quiet">{w.codeAbout}</p>
        <Input
          aria-label={w.code}
          className={css.followCode}
          value={text}
          onChange={(event) => setText(event.target.value)}
          maxLength={12}
          autoCapitalize="characters"
          autoComplete="off"
          spellCheck={false}
        />
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main)} htmlType="submit">
          {w.next}
        </Button>
      </form>
    </main>
  );
}

export function AskName({
  title,
  tubes,
  ways,
  fault,
  onName,
}: {
  title: string;
  tubes: FollowSheet['tubes'];
  ways: NonNullable<FollowSheet['ways']>;
  fault: string | null;
  onName: (name: string, kit: string[], has: Helper[]) => void;
}) {
  const [name, setName] = useState('');
  const [has, setHas] = useState<Helper[]>([]);
  // Only what this lesson has a use for is asked.
  const helpers = [...new Set(Object.values(ways).flatMap((list) => list.map((one) => one.helper)))];
  const [lacking, setLacking] = useState<string[]>([]);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // An empty kit says that nothing is lacking.
    const kit = lacking.length === 0 ? [] : tubes.filter((tube) => !lacking.includes(tube.id)).map((tube) => tube.id);
    if (name.trim()) onName(name.trim(), kit.length > 0 || lacking.length === 0 ? kit : ['none'], has);
  };
  return (
    <main className={clsx(followCss.followPage, css.followAsk)} data-testid="follow-page">
      <form onSubmit={submit}>
        <p className="quiet">{title}</p>
        <h1>{w.nameTitle}</h1>
        <p className="quiet">{w.nameAbout}</p>
        <Input
          aria-label={w.nameTitle}
          value={name}
          onChange={(event) => setName(event.target.value)}
          maxLength={40}
          autoComplete="given-name"
        />
        {tubes.length > 0 && (
          <Fold className={css.followKit} head={w.kit(tubes.length, lacking.length)}>
            <p className="quiet">{w.kitAbout}</p>
            {tubes.map((tube) => (
              <Checkbox
                key={tube.id}
                checked={!lacking.includes(tube.id)}
                onChange={(event) =>
                  setLacking(event.target.checked ? lacking.filter((id) => id !== tube.id) : [...lacking, tube.id])
                }
              >
                <i style={{ background: tube.rgb }} />
                {tube.name}
              </Checkbox>
            ))}
          </Fold>
        )}
        {helpers.length > 0 && (
          <fieldset className={css.followHas}>
            <legend>{w.has}</legend>
            {helpers.map((helper) => (
              <Checkbox
                key={helper}
                checked={has.includes(helper)}
                onChange={(event) => setHas(event.target.checked ? [...has, helper] : has.filter((one) => one !== helper))}
              >
                {w.helpers[helper]}
              </Checkbox>
            ))}
          </fieldset>
        )}
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main)} htmlType="submit">
          {w.join}
        </Button>
      </form>
    </main>
  );
}

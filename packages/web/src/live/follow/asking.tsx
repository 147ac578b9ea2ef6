import type { FollowSheet, Helper } from '@viaticum/contract';
import { Button, Input } from 'antd';
import { clsx } from 'clsx';
import { type FormEvent, useState } from 'react';
import { Fold } from '../../ui/fold.js';
import { followWords as w } from '../../words/follow.js';
import { privacyWords } from '../../words/privacy.js';
import css from './asking.module.css';
import followCss from './follow.module.css';
import { AtHand, helpersOf, kitWithout, Tubes } from './kit.js';

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
  sheet,
  offered,
  fault,
  onName,
}: {
  title: string;
  sheet: Pick<FollowSheet, 'tubes' | 'ways'>;
  /** Names on the list that nobody has taken. */
  offered: readonly string[];
  fault: string | null;
  onName: (name: string, kit: string[], has: Helper[]) => void;
}) {
  const [name, setName] = useState('');
  const [isListed, setListed] = useState(true);
  const [has, setHas] = useState<Helper[]>([]);
  const [lacking, setLacking] = useState<string[]>([]);
  const showsList = offered.length > 0 && isListed;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) onName(name.trim(), kitWithout(sheet.tubes, lacking), has);
  };
  return (
    <main className={clsx(followCss.followPage, css.followAsk)} data-testid="follow-page">
      <form onSubmit={submit}>
        <p className="quiet">{title}</p>
        <h1>{showsList ? w.whoTitle : w.nameTitle}</h1>
        {showsList ? (
          <fieldset className={css.offered}>
            <legend className="quiet">{w.whoAbout}</legend>
            {offered.map((one) => (
              <Button
                key={one}
                type="text"
                className={clsx('plain', followCss.bigKey, name === one && followCss.main)}
                aria-pressed={name === one}
                onClick={() => setName(one)}
              >
                {one}
              </Button>
            ))}
            <Button
              type="text"
              className={clsx('plain', followCss.bigKey, followCss.bare)}
              onClick={() => {
                setListed(false);
                setName('');
              }}
            >
              {w.notListed}
            </Button>
          </fieldset>
        ) : (
          <>
            <p className="quiet">{w.nameAbout}</p>
            <Input
              aria-label={w.nameTitle}
              value={name}
              onChange={(event) => setName(event.target.value)}
              maxLength={40}
              autoComplete="given-name"
            />
          </>
        )}
        {sheet.tubes.length > 0 && (
          <Fold head={w.kit(sheet.tubes.length, lacking.length)}>
            <Tubes tubes={sheet.tubes} lacking={lacking} onLacking={setLacking} />
          </Fold>
        )}
        <AtHand helpers={helpersOf(sheet)} has={has} onHas={setHas} />
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main)} htmlType="submit">
          {w.join}
        </Button>
        <p>
          <a className="quiet" href="/stored">
            {privacyWords.phoneLink}
          </a>
        </p>
      </form>
    </main>
  );
}

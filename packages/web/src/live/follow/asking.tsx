import { type FormEvent, useState } from 'react';
import { words } from '../../words.js';

const w = words.follow;

export function AskCode({ fault, onCode }: { fault: string | null; onCode: (code: string) => void }) {
  const [text, setText] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const code = text.toUpperCase().replace(/\s/g, '');
    if (code) onCode(code);
  };
  return (
    <main className="follow-page follow-ask">
      <form onSubmit={submit}>
        <h1>{w.codeTitle}</h1>
        <p className="quiet">{w.codeAbout}</p>
        <input
          aria-label={w.code}
          className="follow-code"
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
        <button type="submit" className="big-key main">
          {w.next}
        </button>
      </form>
    </main>
  );
}

export function AskName({ title, fault, onName }: { title: string; fault: string | null; onName: (name: string) => void }) {
  const [name, setName] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) onName(name.trim());
  };
  return (
    <main className="follow-page follow-ask">
      <form onSubmit={submit}>
        <p className="quiet">{title}</p>
        <h1>{w.nameTitle}</h1>
        <p className="quiet">{w.nameAbout}</p>
        <input
          aria-label={w.nameTitle}
          value={name}
          onChange={(event) => setName(event.target.value)}
          maxLength={40}
          autoComplete="given-name"
        />
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        <button type="submit" className="big-key main">
          {w.join}
        </button>
      </form>
    </main>
  );
}

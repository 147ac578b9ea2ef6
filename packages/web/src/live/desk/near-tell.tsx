import { speaking } from '@viaticum/contract';
import { Button, Input } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { clockTime } from '../../ui/clock.js';
import { useFetched } from '../../ui/language.js';
import { deskWords as w } from '../../words/desk.js';
import deskCss from './desk.module.css';
import css from './near-tell.module.css';
import type { DeskParts } from './parts.js';

/** A sentence to all phones: one of the usual, or one's own. */
export function Tell({ connection, live, sheet }: DeskParts) {
  const [text, setText] = useState('');
  const { said, phase } = live.state;
  const tell = async (words: string) => {
    const { ok } = await connection.say({ type: 'say', text: words });
    if (ok) setText('');
  };
  const isOver = phase === 'ended';
  // What is told is told in the language of the class.
  const hasIt = useFetched(sheet.language);
  const ready = hasIt && sheet.language ? speaking(sheet.language, () => [...w.tellReady]) : [...w.tellReady];
  return (
    <section className={css.deskTell} aria-label={w.tellAll}>
      <h2>{w.tellAll}</h2>
      {ready.map((one) => (
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          key={one}
          disabled={isOver}
          onClick={() => void tell(one)}
        >
          {one}
        </Button>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) void tell(text.trim());
        }}
      >
        <Input aria-label={w.tellField} maxLength={160} value={text} onChange={(event) => setText(event.target.value)} />
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          htmlType="submit"
          disabled={isOver || text.trim() === ''}
        >
          {w.tellSend}
        </Button>
      </form>
      {[...said].reverse().map((one) => (
        <p key={`${one.at} ${one.text}`} className={deskCss.deskQuiet}>
          {w.told(one.text, clockTime(one.at))}
        </p>
      ))}
    </section>
  );
}

import { type RichLine, richLines, withBold, withList } from '@viaticum/core/text';
import { Button, Input } from 'antd';
import type { TextAreaRef } from 'antd/es/input/TextArea.js';
import { clsx } from 'clsx';
import { useId, useRef } from 'react';
import { listWords as w } from '../words/steps.js';
import css from './rich-text.module.css';
import { useTyped } from './use-typed.js';

type Keyed<T> = { key: string; of: T };
/** Lines and runs have nothing but their order to be told apart by. */
const keyed = <T,>(list: readonly T[]): Keyed<T>[] => list.map((of, i) => ({ key: `n${i}`, of }));

/** Words with bold and lists, shown. Never as HTML. */
export function RichText({ text }: { text: string }) {
  const groups: RichLine[][] = [];
  for (const line of richLines(text)) {
    const last = groups.at(-1);
    if (line.isItem && last?.[0]?.isItem) last.push(line);
    else groups.push([line]);
  }
  return keyed(groups).map(({ key, of: lines }) =>
    lines[0]?.isItem ? (
      <ul key={key}>
        {keyed(lines).map((item) => (
          <li key={item.key}>
            <Spans line={item.of} />
          </li>
        ))}
      </ul>
    ) : (
      <p key={key}>
        <Spans line={lines[0] as RichLine} />
      </p>
    ),
  );
}

function Spans({ line }: { line: RichLine }) {
  return keyed(line.spans).map(({ key, of }) => (of.isBold ? <b key={key}>{of.text}</b> : <span key={key}>{of.text}</span>));
}

/** Words to write, with bold and lists; what is pasted comes in as plain words. Takes effect while it is typed, and when it is left. */
export function RichInput({
  label,
  value,
  rows,
  onCommit,
}: {
  label: string;
  value: string;
  rows: number;
  onCommit: (text: string, burst: string) => unknown;
}) {
  const typed = useTyped(value, onCommit);
  const area = useRef<TextAreaRef>(null);
  const id = useId();
  const change = (how: typeof withBold) => {
    const field = area.current?.nativeElement as HTMLTextAreaElement | undefined;
    if (!field) return;
    const next = how(field.value, field.selectionStart, field.selectionEnd);
    typed.type(next.text);
    field.focus();
    // The selection holds once the field shows the new text.
    requestAnimationFrame(() => field.setSelectionRange(next.from, next.to));
  };
  return (
    <div className="field">
      <span className={css.richHead}>
        <label htmlFor={id}>{label}</label>
        <span>
          {/* The field keeps the focus, so that its words are not taken before they are changed. */}
          <Button
            type="text"
            className={clsx('plain', css.richKey)}
            aria-label={`${w.bold}: ${label}`}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => change(withBold)}
          >
            <b>{w.bold}</b>
          </Button>
          <Button
            type="text"
            className={clsx('plain', css.richKey)}
            aria-label={`${w.list}: ${label}`}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => change(withList)}
          >
            {w.list}
          </Button>
        </span>
      </span>
      <Input.TextArea
        ref={area}
        id={id}
        rows={rows}
        value={typed.text}
        onChange={(event) => typed.type(event.target.value)}
        onBlur={() => typed.leave()}
        onKeyDown={(event) => {
          if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'b') return;
          event.preventDefault();
          change(withBold);
        }}
      />
    </div>
  );
}

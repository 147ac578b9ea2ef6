import { letters } from '@viaticum/contract';
import { Input } from 'antd';
import { clsx } from 'clsx';
import { useId } from 'react';
import css from './commit-input.module.css';
import { Refused, useRefusal } from './refusal.js';
import { useTyped } from './use-typed.js';

/** A text that takes effect while it is typed, and when it is left or Enter is pressed; what is refused goes back to what it was. */
export function CommitInput({
  value,
  label,
  onCommit,
  className = '',
  whileTyping = true,
  isBare = false,
  wraps = false,
  onFocus,
  'data-testid': testId,
}: {
  value: string;
  label: string;
  onCommit: (text: string, burst: string) => boolean;
  className?: string;
  /** Whether it takes effect before it is left: not where others see every letter. */
  whileTyping?: boolean;
  /** Without a frame, as the words that it stands in for. */
  isBare?: boolean;
  /** A long text goes on in the next line; it stays one text without breaks. */
  wraps?: boolean;
  onFocus?: () => void;
  'data-testid'?: string;
}) {
  const id = useId();
  const { sentence, attempt } = useRefusal();
  // A name that is empty for a moment is on its way to another one.
  const typed = useTyped(value, (text, burst, isLeaving) => {
    if (isLeaving || (whileTyping && text.trim() !== '')) attempt(() => onCommit(text, burst));
  });
  // Both take the same; their types know of no common one.
  const Field = (wraps ? Input.TextArea : Input) as typeof Input;
  return (
    <>
      <Field
        className={clsx(wraps && css.wraps, className)}
        data-testid={testId}
        variant={isBare ? 'borderless' : 'outlined'}
        value={typed.text}
        {...(wraps ? { rows: 1 } : { htmlSize: Math.max(8, typed.text.length) })}
        aria-label={label}
        aria-invalid={sentence !== null || undefined}
        aria-describedby={sentence === null ? undefined : id}
        maxLength={letters.name}
        onFocus={onFocus}
        onChange={(event) => typed.type(event.currentTarget.value.replace(/\n/g, ' '))}
        onBlur={() => typed.leave()}
        onKeyDown={(event) => {
          if (event.key === 'Escape') typed.forget();
          if (event.key !== 'Enter' && event.key !== 'Escape') return;
          event.preventDefault();
          event.currentTarget.blur();
        }}
      />
      <Refused id={id} sentence={sentence} />
    </>
  );
}

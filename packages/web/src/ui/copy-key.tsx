import { useState } from 'react';

/** A key that copies a text, and says so; where the browser lets nobody copy it does nothing, and the text stands beside it. */
export function CopyKey({
  text,
  label,
  done,
  className = 'key small',
}: {
  text: string;
  label: string;
  done: string;
  className?: string;
}) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    navigator.clipboard?.writeText(text).then(
      () => setCopied(true),
      () => undefined,
    );
  return (
    <button type="button" className={className} onClick={() => void copy()}>
      {copied ? done : label}
    </button>
  );
}

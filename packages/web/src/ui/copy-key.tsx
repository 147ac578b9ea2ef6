import { Button, type ButtonProps } from 'antd';
import { useState } from 'react';

/** A key that copies a text, and says so; where the browser lets nobody copy it does nothing, and the text stands beside it. */
export function CopyKey({
  text,
  label,
  done,
  ...looks
}: { text: string; label: string; done: string } & Pick<ButtonProps, 'type' | 'size' | 'className'>) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    navigator.clipboard?.writeText(text).then(
      () => setCopied(true),
      () => undefined,
    );
  return (
    <Button size="small" {...looks} onClick={() => void copy()}>
      {copied ? done : label}
    </Button>
  );
}

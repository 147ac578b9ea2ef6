import { Button } from 'antd';

/** A small key that is on or off; `letter` is its single key, `label` what it is called where `said` alone is not enough. */
export function ToggleKey({
  said,
  label,
  isOn,
  letter,
  keepsFocus = false,
  onToggle,
}: {
  said: string;
  label?: string;
  isOn: boolean;
  letter?: string;
  /** What has the focus keeps it: a text whose chosen words the key changes. */
  keepsFocus?: boolean;
  onToggle: () => void;
}) {
  return (
    <Button
      size="small"
      type={isOn ? 'primary' : 'default'}
      aria-pressed={isOn}
      aria-label={label}
      onMouseDown={keepsFocus ? (event) => event.preventDefault() : undefined}
      onClick={onToggle}
      {...(letter ? { 'aria-keyshortcuts': letter } : {})}
    >
      {said}
      {letter && <kbd>{letter}</kbd>}
    </Button>
  );
}

import { Button } from 'antd';

/** A small key that is on or off; `letter` is its single key. */
export function ToggleKey({
  said,
  isOn,
  letter,
  onToggle,
}: {
  said: string;
  isOn: boolean;
  letter?: string;
  onToggle: () => void;
}) {
  return (
    <Button
      size="small"
      type={isOn ? 'primary' : 'default'}
      aria-pressed={isOn}
      onClick={onToggle}
      {...(letter ? { 'aria-keyshortcuts': letter } : {})}
    >
      {said}
      {letter && <kbd>{letter}</kbd>}
    </Button>
  );
}

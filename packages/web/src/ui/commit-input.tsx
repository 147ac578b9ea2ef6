/** A text that takes effect when it is left or Enter is pressed; what is refused goes back to what it was. */
export function CommitInput({
  value,
  label,
  onCommit,
  className = '',
  onFocus,
}: {
  value: string;
  label: string;
  onCommit: (text: string) => boolean;
  className?: string;
  onFocus?: () => void;
}) {
  return (
    <input
      key={value}
      className={className}
      defaultValue={value}
      size={Math.max(8, value.length)}
      aria-label={label}
      maxLength={120}
      onFocus={onFocus}
      onBlur={(event) => {
        const input = event.currentTarget;
        if (input.value !== value && !onCommit(input.value)) input.value = value;
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') event.currentTarget.value = value;
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
      }}
    />
  );
}

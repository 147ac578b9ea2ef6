/** A key that chooses a file; the same file can be chosen twice. */
export function FileKey({
  label,
  accept,
  className = 'key small',
  onFile,
}: {
  label: string;
  accept: string;
  className?: string;
  onFile: (file: File) => void;
}) {
  return (
    <label className={className}>
      {label}
      <input
        type="file"
        accept={accept}
        className="hidden-file"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
    </label>
  );
}

export const PICTURES = 'image/png,image/jpeg,image/webp';

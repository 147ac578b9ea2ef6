import { Button, type ButtonProps, Upload } from 'antd';

/** A key that chooses a file; the same file can be chosen twice. */
export function FileKey({
  label,
  name,
  accept,
  onFile,
  ...looks
}: {
  label: string;
  /** What it is called where several say the same. */
  name?: string;
  accept: string;
  onFile: (file: File) => void;
} & Pick<ButtonProps, 'type' | 'size' | 'className' | 'disabled'>) {
  return (
    <Upload
      accept={accept}
      disabled={looks.disabled === true}
      showUploadList={false}
      beforeUpload={(file) => {
        onFile(file);
        return false;
      }}
    >
      <Button size="small" {...(name ? { 'aria-label': name } : {})} {...looks}>
        {label}
      </Button>
    </Upload>
  );
}

export const PICTURES = 'image/png,image/jpeg,image/webp';

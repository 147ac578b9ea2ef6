import { Button, type ButtonProps, Upload } from 'antd';

/** A key that chooses a file; the same file can be chosen twice. */
export function FileKey({
  label,
  accept,
  onFile,
  ...looks
}: {
  label: string;
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
      <Button size="small" {...looks}>
        {label}
      </Button>
    </Upload>
  );
}

export const PICTURES = 'image/png,image/jpeg,image/webp';

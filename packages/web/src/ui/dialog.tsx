import { Modal } from 'antd';
import type { ReactNode } from 'react';

/** A dialog: focus stays inside, Escape closes it. */
export function Dialog({
  title,
  onClose,
  isAnswerNeeded = false,
  children,
  width = 560,
}: {
  title: string;
  onClose?: () => void;
  /** It goes only when one of its answers is pressed. */
  isAnswerNeeded?: boolean;
  children: ReactNode;
  width?: number;
}) {
  return (
    <Modal
      open
      title={<h2 className="dialog-title">{title}</h2>}
      onCancel={() => onClose?.()}
      closable={!isAnswerNeeded}
      keyboard={!isAnswerNeeded}
      mask={{ closable: !isAnswerNeeded }}
      footer={null}
      width={width}
      destroyOnHidden
    >
      {children}
    </Modal>
  );
}

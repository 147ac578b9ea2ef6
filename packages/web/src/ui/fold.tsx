import { Collapse } from 'antd';
import type { ReactNode } from 'react';

/** What is shown when its head is pressed. */
export function Fold({
  head,
  children,
  isOpen = false,
  className = '',
}: {
  head: ReactNode;
  children: ReactNode;
  /** Whether it is open at first. */
  isOpen?: boolean;
  className?: string;
}) {
  return (
    <Collapse
      ghost
      className={className}
      defaultActiveKey={isOpen ? ['it'] : []}
      items={[{ key: 'it', label: head, children }]}
    />
  );
}

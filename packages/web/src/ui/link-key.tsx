import { Button, type ButtonProps } from 'antd';
import type { MouseEventHandler } from 'react';
import { useHref, useLinkClickHandler } from 'react-router';

/** A key that leads to another page of the application. */
export function LinkKey({ to, ...looks }: { to: string } & Omit<ButtonProps, 'href' | 'onClick'>) {
  const go = useLinkClickHandler<HTMLAnchorElement>(to);
  return <Button {...looks} href={useHref(to)} onClick={go as unknown as MouseEventHandler<HTMLElement>} />;
}

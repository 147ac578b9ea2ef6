import { App } from 'antd';
import type { ReactNode } from 'react';
import { Greys } from './greys.js';
import type { Where } from './theme.js';

/** The component library in our greys, with dialogs and messages that are asked for from anywhere. */
export function Themed({ children, where = 'desk' }: { children: ReactNode; where?: Where }) {
  return (
    <Greys where={where}>
      <App component={false}>{children}</App>
    </Greys>
  );
}

import { App, ConfigProvider } from 'antd';
import type { ReactNode } from 'react';
import { theme } from './theme.js';

/** The nonce of this page, which styles made while it runs must carry. */
const nonce = () => document.querySelector<HTMLElement>('meta[property="csp-nonce"]')?.nonce ?? '';

/**
 * Two parts of the component library (what locks scrolling behind a dialog, what measures a scroll bar) make styles without the nonce they
 * could be told. Styles made by scripts get it here; what a script may do at all is another line of the policy.
 */
const create = document.createElement.bind(document);
document.createElement = ((name: string, options?: ElementCreationOptions) => {
  const element = create(name, options);
  if (element instanceof HTMLStyleElement) element.nonce = nonce();
  return element;
}) as typeof document.createElement;

/** The component library in our greys, allowed by the page's content policy. */
export function Themed({ children, dark = false }: { children: ReactNode; dark?: boolean }) {
  return (
    <ConfigProvider theme={dark ? onDark : theme} csp={{ nonce: nonce() }}>
      {/* Dialogs that are asked for from anywhere take the theme from here. */}
      <App component={false}>{children}</App>
    </ConfigProvider>
  );
}

/** For the Desk and the Wall. */
const onDark = {
  ...theme,
  token: {
    ...theme.token,
    colorText: '#f3f3f3',
    colorTextSecondary: '#c9c9c9',
    colorTextHeading: '#f3f3f3',
    colorBgContainer: '#3c3c3c',
    colorBgElevated: '#2c2c2c',
    colorWarning: '#ffb097',
    colorBorder: '#8f8f8f',
    colorPrimary: '#f3f3f3',
    colorTextLightSolid: '#1f1f1f',
  },
};

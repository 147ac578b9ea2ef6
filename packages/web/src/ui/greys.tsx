import { StyleProvider } from '@ant-design/cssinjs';
import { ConfigProvider } from 'antd';
import type { ReactNode } from 'react';
import { componentWords } from './component-words.js';
import { themeFor, type Where } from './theme.js';

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

/** The component library in our greys, below our own rules, allowed by the page's content policy. */
export function Greys({ children, where = 'desk' }: { children: ReactNode; where?: Where }) {
  const words = componentWords();
  return (
    <StyleProvider layer>
      <ConfigProvider
        theme={themeFor(where)}
        csp={{ nonce: nonce() }}
        {...(words ? { locale: words } : {})}
        button={{ autoInsertSpace: false }}
        wave={{ disabled: true }}
        virtual={false}
      >
        {children}
      </ConfigProvider>
    </StyleProvider>
  );
}

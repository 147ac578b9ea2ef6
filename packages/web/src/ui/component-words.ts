import { languageNow } from '@viaticum/contract';
import type { ConfigProviderProps } from 'antd';

let german: ConfigProviderProps['locale'];

/** The component library's own words (dates, empty lists, what can be searched) in the language of this page. */
export const componentWords = (): ConfigProviderProps['locale'] => (languageNow() === 'de' ? german : undefined);

/** Fetches them, and the names of months and days. */
export async function fetchComponentWords(): Promise<void> {
  if (languageNow() !== 'de' || german) return;
  const [library, { default: dayjs }] = await Promise.all([
    import('antd/locale/de_DE'),
    import('dayjs'),
    import('dayjs/locale/de'),
  ]);
  german = library.default;
  dayjs.locale('de');
}

import type { ClassAnswer, Language } from '@viaticum/contract';
import { App, Segmented, Select } from 'antd';
import { useChooseAddress, useChooseLanguage } from '../../api/class-queries.js';
import { Fold } from '../../ui/fold.js';
import { words } from '../../words/words.js';

const w = words.class;

/** "192.168.1.20:4870" of an address. */
const hostOf = (address: string): string => new URL(address).host;

/** At which of the machine's addresses phones come in, and what they lack over plain http. */
export function Where({ one }: { one: ClassAnswer }) {
  const choose = useChooseAddress(one.code);
  const speak = useChooseLanguage(one.code);
  const { message } = App.useApp();
  const [address = ''] = one.addresses;
  const hosts = one.addresses.map((url) => ({ value: url, label: hostOf(url) }));
  const isPlain = address.startsWith('http:');
  return (
    <>
      <p className="small">
        {w.spoken}{' '}
        <Segmented
          size="small"
          aria-label={w.spoken}
          value={one.language}
          options={[
            { value: 'en', label: 'English' },
            { value: 'de', label: 'Deutsch' },
          ]}
          onChange={(language: Language) =>
            speak.mutate(language, { onError: (fault: Error) => void message.error(fault.message) })
          }
        />
      </p>
      {hosts.length > 1 && (
        <Select
          aria-label={w.where}
          size="small"
          style={{ minWidth: 210 }}
          value={address}
          // In an order of their own, so that choosing moves none.
          options={[...hosts].sort((a, b) => a.label.localeCompare(b.label))}
          onChange={(url: string) => choose.mutate(url, { onError: (fault: Error) => void message.error(fault.message) })}
        />
      )}
      {one.reachable && isPlain && (
        <Fold className="small" head={w.plain}>
          <ul>
            {w.plainLacks.map((lack) => (
              <li key={lack}>{lack}</li>
            ))}
          </ul>
          <p>
            {w.plainMend} <code>npm run certificate</code>
          </p>
        </Fold>
      )}
    </>
  );
}

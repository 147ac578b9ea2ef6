import { useState } from 'react';
import { followWords as w } from '../../words/follow.js';

export type PhoneSettings = { large: boolean; metric: boolean; vibrate: boolean };
const KEY = 'viaticum-phone';

/** What this phone is set to; kept on it. */
export function usePhoneSettings(units: 'in' | 'cm' | undefined): [PhoneSettings, (change: Partial<PhoneSettings>) => void] {
  const [settings, set] = useState<PhoneSettings>(() => {
    const usual = { large: false, metric: units === 'cm', vibrate: true };
    try {
      return { ...usual, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<PhoneSettings>) };
    } catch {
      return usual;
    }
  });
  return [
    settings,
    (change) => {
      const next = { ...settings, ...change };
      localStorage.setItem(KEY, JSON.stringify(next));
      set(next);
    },
  ];
}

export function Settings({
  settings,
  onChange,
}: {
  settings: PhoneSettings;
  onChange: (change: Partial<PhoneSettings>) => void;
}) {
  const tick = (key: keyof PhoneSettings, label: string) => (
    <label>
      <input type="checkbox" checked={settings[key]} onChange={(event) => onChange({ [key]: event.target.checked })} /> {label}
    </label>
  );
  return (
    <details className="follow-settings">
      <summary>{w.settings}</summary>
      {tick('large', w.largeType)}
      {tick('metric', w.metric)}
      {tick('vibrate', w.vibrate)}
    </details>
  );
}

import { useState } from 'react';

/** `left`: the keys lie for the left hand. */
export type PhoneSettings = { large: boolean; metric: boolean; vibrate: boolean; left: boolean };
const KEY = 'viaticum-phone';

/** What this phone is set to; kept on it. */
export function usePhoneSettings(units: 'in' | 'cm' | undefined): [PhoneSettings, (change: Partial<PhoneSettings>) => void] {
  const [settings, set] = useState<PhoneSettings>(() => {
    const usual = { large: false, metric: units === 'cm', vibrate: true, left: false };
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

import { isLanguage, type Language } from '@viaticum/contract';
import { useState } from 'react';

/** `left`: the keys lie for the left hand; `language`: another than that of the class. */
export type PhoneSettings = { large: boolean; metric: boolean; vibrate: boolean; left: boolean; language?: Language };
const KEY = 'viaticum-phone';

/** The language that was chosen on this phone. */
export function phoneLanguage(): Language | undefined {
  try {
    const { language } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<PhoneSettings>;
    return isLanguage(language) ? language : undefined;
  } catch {
    return undefined;
  }
}

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

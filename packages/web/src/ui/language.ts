import { firstSpoken, type Language, languageNow, learn, speak } from '@viaticum/contract';
import { useEffect, useState } from 'react';

const known = new Set<Language>(['en']);

/** Fetches the sentences of a language, once. */
export async function fetchLanguage(language: Language): Promise<void> {
  if (known.has(language)) return;
  const { german } = await import('./german.js');
  learn(language, german);
  known.add(language);
}

/** The first language of this browser that is spoken here. */
export const browserLanguage = (): Language => firstSpoken(globalThis.navigator?.languages ?? []);

/** From here on everything on this page is said in a language whose sentences are there. */
export function speakOnPage(language: Language): void {
  speak(language);
  document.documentElement.lang = language;
}

/** Whether this page speaks a language already; where not, it does so as soon as its sentences are there. */
export function useSpoken(language: Language | undefined): boolean {
  const [spoken, setSpoken] = useState(languageNow());
  useEffect(() => {
    if (!language || language === spoken) return;
    let isWanted = true;
    fetchLanguage(language).then(
      () => {
        if (!isWanted) return;
        speakOnPage(language);
        setSpoken(language);
      },
      () => undefined,
    );
    return () => {
      isWanted = false;
    };
  }, [language, spoken]);
  return !language || language === spoken;
}

/** Whether the sentences of a language are there, to say something in it in the midst of another; they are fetched where not. */
export function useFetched(language: Language | undefined): boolean {
  const [has, setHas] = useState(() => !language || known.has(language));
  useEffect(() => {
    if (language)
      fetchLanguage(language).then(
        () => setHas(true),
        () => undefined,
      );
  }, [language]);
  return has;
}

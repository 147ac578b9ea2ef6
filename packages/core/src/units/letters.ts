import { languageNow } from '@viaticum/contract';

/** A text with its first letter large. */
export const uncapital = (text: string): string =>
  languageNow() === 'de' ? text : `${text.charAt(0).toLowerCase()}${text.slice(1)}`;

export const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

/** A word of a heading in the midst of other words; a language that writes nouns large keeps it. */
export const lowered = (text: string): string => (languageNow() === 'de' ? text : text.toLowerCase());

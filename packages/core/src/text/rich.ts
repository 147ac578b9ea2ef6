/** A run of words, bold or not. */
type RichSpan = { text: string; isBold: boolean };
/** A line of words, or an item of a list. */
export type RichLine = { isItem: boolean; spans: RichSpan[] };

/** Words with **bold** and lines that begin with "- " as list items. Nothing else has a meaning; tags are shown as they were typed. */
export function richLines(text: string): RichLine[] {
  return text.split('\n').map((line): RichLine => {
    const isItem = line.startsWith('- ');
    const spans = (isItem ? line.slice(2) : line)
      .split(/(\*\*[^*]+\*\*)/)
      .filter(Boolean)
      .map((part) => (/^\*\*[^*]+\*\*$/.test(part) ? { text: part.slice(2, -2), isBold: true } : { text: part, isBold: false }));
    return { isItem, spans };
  });
}

/** The words alone. */
export const plainWords = (text: string): string =>
  richLines(text)
    .map(({ spans }) => spans.map((span) => span.text).join(''))
    .join('\n');

/** Lines as they are stored: the inverse of `richLines`. A bold run that has a star in it cannot be marked and is stored plain. */
export const richWords = (lines: readonly RichLine[]): string =>
  lines
    .map(({ isItem, spans }) => {
      const words = spans.map(({ text, isBold }) => (isBold && /^[^*]+$/.test(text) ? `**${text}**` : text)).join('');
      return isItem ? `- ${words}` : words;
    })
    .join('\n');

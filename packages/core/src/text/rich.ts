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

/** Sets a selection in bold, or takes it back where it is already; gives the text with the new selection. */
export function withBold(text: string, from: number, to: number): { text: string; from: number; to: number } {
  const [before, chosen, after] = [text.slice(0, from), text.slice(from, to), text.slice(to)];
  if (before.endsWith('**') && after.startsWith('**'))
    return { text: `${before.slice(0, -2)}${chosen}${after.slice(2)}`, from: from - 2, to: to - 2 };
  const words = chosen || 'words';
  return { text: `${before}**${words}**${after}`, from: from + 2, to: from + 2 + words.length };
}

/** Makes list items of the lines that a selection touches, or plain lines again where all of them are items. */
export function withList(text: string, from: number, to: number): { text: string; from: number; to: number } {
  const start = text.lastIndexOf('\n', from - 1) + 1;
  const found = text.indexOf('\n', to);
  const end = found < 0 ? text.length : found;
  const lines = text.slice(start, end).split('\n');
  const isList = lines.every((line) => line.startsWith('- '));
  const changed = lines.map((line) => (isList ? line.slice(2) : line.startsWith('- ') ? line : `- ${line}`)).join('\n');
  return { text: text.slice(0, start) + changed + text.slice(end), from: start, to: start + changed.length };
}

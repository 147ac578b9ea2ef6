import { type RichLine, richLines } from '@viaticum/core/text';

type Keyed<T> = { key: string; of: T };
/** Lines and runs have nothing but their order to be told apart by. */
const keyed = <T,>(list: readonly T[]): Keyed<T>[] => list.map((of, i) => ({ key: `n${i}`, of }));

/** Words with bold and lists, shown. Never as HTML. */
export function RichText({ text }: { text: string }) {
  const groups: RichLine[][] = [];
  for (const line of richLines(text)) {
    const last = groups.at(-1);
    if (line.isItem && last?.[0]?.isItem) last.push(line);
    else groups.push([line]);
  }
  return keyed(groups).map(({ key, of: lines }) =>
    lines[0]?.isItem ? (
      <ul key={key}>
        {keyed(lines).map((item) => (
          <li key={item.key}>
            <Spans line={item.of} />
          </li>
        ))}
      </ul>
    ) : (
      <p key={key}>
        <Spans line={lines[0] as RichLine} />
      </p>
    ),
  );
}

function Spans({ line }: { line: RichLine }) {
  return keyed(line.spans).map(({ key, of }) => (of.isBold ? <b key={key}>{of.text}</b> : <span key={key}>{of.text}</span>));
}

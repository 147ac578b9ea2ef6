import type { SheetMix } from '@viaticum/contract';
import './swatch.css';

/** A brush-out: left half wet, right half dry, on a strip of the ground, with a black bar under one corner. */
export function BrushOut({
  rgb,
  wetRgb,
  groundRgb,
  cover = 1,
  label,
}: {
  rgb: string;
  wetRgb: string;
  groundRgb: string;
  cover?: number;
  label: string;
}) {
  return (
    <svg className="brush-out" viewBox="0 0 64 30" role="img" aria-label={label}>
      <rect width="64" height="30" fill={groundRgb} />
      <rect x="50" y="14" width="14" height="16" fill="var(--grey-12)" />
      <path d="M3 5c6-2 15 0 29-1v22c-11 1-20-1-28 0z" fill={wetRgb} />
      <path d="M32 4c12-1 20 1 29 0l1 22c-9 1-20-1-30 0z" fill={rgb} fillOpacity={cover} />
      <path d="M8 9l12-2M7 14l16-3" stroke="var(--white)" strokeOpacity="0.5" strokeWidth="1.6" strokeLinecap="round" />
    </svg>
  );
}

/** A recipe in words that no line begins with its colon. */
export const unbroken = (words: string): string => words.replaceAll(' : ', '\u00a0: ');

/** Below this share of a recipe a part would be hardly a hair's breadth of its bar. */
const DOT_SHARE = 0.02;

/** A recipe as a bar of the tubes' own colours, true to scale; what is too little to be seen in it lies beside it as a dot. */
export function RecipeBar({ parts, words, name }: { parts: SheetMix['parts']; words: string; name?: string }) {
  const total = parts.reduce((sum, part) => sum + part.weight, 0);
  const isDot = (part: SheetMix['parts'][number]) => part.weight < DOT_SHARE * total;
  return (
    <div className="recipe">
      <div className="recipe-scale" aria-hidden="true">
        <div className="recipe-bar">
          {parts.map((part) =>
            isDot(part) ? null : <i key={part.name} style={{ background: part.rgb, flexGrow: part.weight }} title={part.name} />,
          )}
        </div>
        {parts.map((part) =>
          isDot(part) ? (
            <i
              key={part.name}
              className="recipe-dot"
              style={{ background: part.rgb }}
              title={part.name}
              data-testid="recipe-dot"
            />
          ) : null,
        )}
      </div>
      <div className="recipe-words" data-testid="recipe-words">
        {name && <b>{name} </b>}
        {unbroken(words)}
      </div>
    </div>
  );
}

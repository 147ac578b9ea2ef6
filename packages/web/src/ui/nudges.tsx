import type { Lab } from '@viaticum/contract';
import { Button } from 'antd';
import { words } from '../words/words.js';

const w = words.paints;

const clampLab = ([l, a, b]: Lab): Lab =>
  [Math.min(100, Math.max(0, l)), a, b].map((value) => Math.round(value * 10) / 10) as Lab;
const moves: Record<keyof typeof w.nudges, (lab: Lab) => Lab> = {
  lighter: ([l, a, b]) => [l + 3, a, b],
  darker: ([l, a, b]) => [l - 3, a, b],
  warmer: ([l, a, b]) => [l, a + 1.5, b + 3],
  cooler: ([l, a, b]) => [l, a - 1.5, b - 3],
  stronger: ([l, a, b]) => [l, a * 1.12, b * 1.12],
  duller: ([l, a, b]) => [l, a * 0.88, b * 0.88],
};

/** Moves a target colour in a painter's words, or takes it away. */
export function Nudges({ lab, clear, onLab }: { lab: Lab; clear: string; onLab: (lab: Lab | null) => void }) {
  return (
    <fieldset className="mix-nudges">
      <legend className="visually-hidden">{w.nudgeLabel}</legend>
      {(Object.keys(moves) as (keyof typeof moves)[]).map((word) => (
        <Button type="text" size="small" key={word} onClick={() => onLab(clampLab(moves[word](lab)))}>
          {w.nudges[word]}
        </Button>
      ))}
      <Button type="text" size="small" onClick={() => onLab(null)}>
        {clear}
      </Button>
    </fieldset>
  );
}

import type { Look } from '@viaticum/core/picture';
import type { ThingMark } from '@viaticum/kernels/things';
import { Button, Segmented } from 'antd';
import type { Point } from '../ui/point.js';
import { thingWords as w } from '../words/things.js';
import type { ShownArea } from '../workers/picture-jobs.js';
import { LineList } from './line-list.js';
import { ThingList } from './thing-list.js';
import css from './thing-tools.module.css';
import type { MarkTool, Things } from './use-things.js';

/** Points of a stroke lie at least so far apart, as shares of the canvas. */
const EVERY = 0.003;
const LEAST_OF_RING = 4;
/** What things look like is worked out when the hand rests. */
export const LOOK_AFTER_MS = 700;

/** A stroke of the hand as a mark, in shares of the canvas: with the ring as tool what it goes round, if it goes round anything. */
export function strokeInShares(
  points: readonly Point[],
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  tool: MarkTool,
): [kind: ThingMark['kind'], points: [number, number][]] {
  const shares = points
    .map(([x, y]): [number, number] => [x / widthMm, y / heightMm])
    .filter(([x, y], i, all) => {
      const before = all[i - 1];
      return !before || i === all.length - 1 || Math.hypot(x - before[0], y - before[1]) >= EVERY;
    });
  return [tool === 'ring' && shares.length >= LEAST_OF_RING ? 'ring' : 'stroke', shares];
}

/** What one marks with, what is told so far, and the way to another thing. */
export function ThingTools({
  things,
  areas,
  looks,
  canvasMm2,
  tool,
  onTool,
  isClear,
}: {
  things: Things;
  areas: readonly ShownArea[];
  /** What each of the things looks like, as far as it is known. */
  looks: readonly (Look | null)[];
  canvasMm2: number;
  tool: MarkTool;
  onTool: (tool: MarkTool) => void;
  /** Whether the first proposal holds a subject. */
  isClear: boolean;
}) {
  const isFresh = things.chosen === null && things.chosenLine === null;
  return (
    <>
      <p className="quiet small">{tool === 'line' ? w.lineHint : isClear || things.isTouched ? w.guess : w.unclear}</p>
      <div className={css.tools}>
        <Segmented<MarkTool>
          size="small"
          aria-label={w.tools}
          value={tool}
          options={(['stroke', 'ring', 'line'] as const).map((one) => ({ value: one, label: w.tool[one] }))}
          onChange={onTool}
        />
        <Button size="small" type="text" disabled={!things.isTouched} onClick={things.takeBack}>
          {w.takeBack}
        </Button>
      </div>
      <div className={css.list}>
        <ThingList things={things} areas={areas} looks={looks} canvasMm2={canvasMm2} />
        <LineList things={things} />
        <Button
          size="small"
          block
          type={isFresh ? 'primary' : 'default'}
          aria-pressed={isFresh}
          title={w.freshAbout}
          onClick={() => things.choose(null)}
        >
          {w.fresh}
        </Button>
      </div>
    </>
  );
}

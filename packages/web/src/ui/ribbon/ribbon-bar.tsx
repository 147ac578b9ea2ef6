import type { Thing } from '@viaticum/contract';
import { Button, Segmented } from 'antd';
import { words } from '../../words/words.js';
import { farthest, nearest } from './axis.js';
import { type RibbonHeight, ribbonHeights } from './heights.js';
import css from './ribbon-bar.module.css';

const w = words.ribbon;

/** How high the section stands. */
export function Heights({ height, onHeight }: { height: RibbonHeight; onHeight: (height: RibbonHeight) => void }) {
  return (
    <Segmented<RibbonHeight>
      className={css.ribbonHeights}
      size="small"
      aria-label={w.height}
      aria-keyshortcuts="R"
      value={height}
      options={ribbonHeights.map((one) => ({ value: one, label: w.heights[one] }))}
      onChange={onHeight}
    />
  );
}

/** How the section is looked at: its chain, from how near, as a table, on paper; which things show each of their areas. */
export function Looks({
  endMin,
  zoom,
  onZoom,
  withChain,
  onChain,
  groups,
  unfolded,
  onFold,
  asTable,
  onTable,
}: {
  endMin: number;
  zoom: number;
  onZoom: (zoom: number) => void;
  withChain: boolean;
  onChain: () => void;
  groups: readonly Thing[];
  unfolded: ReadonlySet<string>;
  onFold: (id: string) => void;
  asTable: boolean;
  onTable: () => void;
}) {
  const looks = { type: 'text', size: 'small' } as const;
  return (
    <span className={css.ribbonLooks}>
      <span className="quiet small">{w.scale}</span>
      <Button {...looks} aria-pressed={withChain} onClick={onChain}>
        {w.chain}
      </Button>
      <Button {...looks} disabled={zoom <= farthest(endMin)} onClick={() => onZoom(zoom - 1)}>
        {w.farther}
      </Button>
      <Button {...looks} disabled={zoom >= nearest(endMin)} onClick={() => onZoom(zoom + 1)}>
        {w.closer}
      </Button>
      {zoom !== 0 && (
        <Button {...looks} onClick={() => onZoom(0)}>
          {w.whole}
        </Button>
      )}
      {groups.map((one) => (
        <Button key={one.id} {...looks} aria-expanded={unfolded.has(one.id)} onClick={() => onFold(one.id)}>
          {unfolded.has(one.id) ? w.together(one.name) : w.apart(one.name)}
        </Button>
      ))}
      <Button {...looks} onClick={onTable} aria-pressed={asTable}>
        {w.table}
      </Button>
      <Button {...looks} onClick={() => globalThis.print()}>
        {w.print}
      </Button>
    </span>
  );
}

import type { PlanItem } from '@viaticum/contract';
import { waitInWords } from '@viaticum/core/units';
import { words } from '../../words/words.js';
import { AXIS_PX, HANDS_PX } from './axis.js';
import css from './track.module.css';

/** A stretch of work as brush tracks, or bare linen with its length for a pause. A pinned one carries a nail. */
export function Track({
  item,
  number,
  x,
  width,
  seed,
  isSelected,
  isPinned,
}: {
  item: PlanItem;
  number: number;
  x: number;
  width: number;
  seed: number;
  isSelected: boolean;
  isPinned: boolean;
}) {
  const middle = AXIS_PX + HANDS_PX / 2;
  const length = waitInWords(item.endMin - item.startMin);
  if (item.kind !== 'step') {
    const minutes = Math.round(item.endMin - item.startMin);
    const labels = item.kind === 'break' ? [`${words.kinds.break} ${length}`, words.kinds.break, length] : [length];
    const label = minutes > 0 ? [...labels, String(minutes)].find((one) => width > one.length * 6.6 + 4) : undefined;
    return (
      <g data-pause={item.title}>
        <title>{`${item.title}: ${length}`}</title>
        <rect x={x} y={AXIS_PX} width={width} height={HANDS_PX} fill="transparent" />
        {label && (
          <text x={x + width / 2} y={middle + 4.5} textAnchor="middle" className={css.ribbonPause}>
            {label}
          </text>
        )}
      </g>
    );
  }
  const wobble = (k: number) => (((seed * 7 + k * 13) % 5) - 2) * 0.5;
  const [from, to] = [x + 1.5, x + Math.max(3, width - 1.5)];
  const label = fitting(item.title, width - 12) || (width > 13 ? String(number) : '');
  return (
    <g data-step={item.stepId} className={css.ribbonStep}>
      <title>{`${item.title}: ${length}. ${words.ribbon.dragToPin}`}</title>
      <rect x={x} y={AXIS_PX} width={width} height={HANDS_PX} fill="transparent" />
      {[-8, -4, 0, 4, 8].map((dy, k) => (
        <path
          key={dy}
          d={`M${(from + Math.abs(wobble(k)) * 1.6).toFixed(1)} ${middle + dy + wobble(k)}Q${((from + to) / 2).toFixed(1)} ${middle + dy + wobble(k + 1)} ${(to - Math.abs(wobble(k + 2)) * 2).toFixed(1)} ${middle + dy + wobble(k + 3)}`}
          stroke={isSelected ? 'var(--grey-12)' : 'var(--grey-31)'}
          strokeWidth={4.3}
          strokeLinecap="round"
          fill="none"
        />
      ))}
      {isSelected && <path d={`M${from} ${AXIS_PX + 2.5}H${to}`} stroke="var(--grey-0)" strokeWidth={2.5} />}
      {label && (
        <text x={x + width / 2} y={middle + 4.3} textAnchor="middle" className={css.ribbonTrack}>
          {label}
        </text>
      )}
      {isPinned && (
        <g data-testid="ribbon-nail">
          <path d={`M${x} ${AXIS_PX - 4}V${AXIS_PX + HANDS_PX}`} stroke="var(--grey-0)" strokeWidth={1.6} />
          <circle cx={x} cy={AXIS_PX - 3} r={4} fill="var(--grey-0)" />
          <circle cx={x - 1} cy={AXIS_PX - 4} r={1.2} fill="var(--white)" />
        </g>
      )}
    </g>
  );
}

/** As many whole words of a title as fit into so many pixels; none rather than a stump. */
function fitting(title: string, px: number): string {
  const most = Math.floor(px / 6.3);
  if (title.length <= most) return title;
  const parts = title.replace(/,.*$/, '').split(' ');
  while (parts.length > 0 && (parts.join(' ').length > most || /^(the|a|in|on|and|of|from|the whole)$/i.test(parts.at(-1) ?? '')))
    parts.pop();
  return parts.join(' ').length >= 3 ? parts.join(' ') : '';
}

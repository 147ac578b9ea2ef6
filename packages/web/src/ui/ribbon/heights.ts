/** One line of the hands; half, with thin lanes; tall, with lanes in which films are seen. */
export const ribbonHeights = ['hands', 'half', 'tall'] as const;
export type RibbonHeight = (typeof ribbonHeights)[number];

const HALF_LANE_PX = 13;
/** How high a lane is, px: with many lanes they come closer. */
export const laneOf = (height: RibbonHeight, lanes: number): number =>
  height === 'hands' ? 0 : height === 'half' ? HALF_LANE_PX : lanes > 8 ? 23 : 27;

/** The height that a grip dragged by `px` upwards comes nearest to. */
export function draggedTo(from: RibbonHeight, px: number, heights: Record<RibbonHeight, number>): RibbonHeight {
  const at = heights[from] + px;
  return ribbonHeights.reduce((best, one) => (Math.abs(heights[one] - at) < Math.abs(heights[best] - at) ? one : best));
}

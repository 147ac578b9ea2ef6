import { type RibbonHeight, ribbonHeights } from '../ui/ribbon/heights.js';
import { useRemembered } from '../ui/use-remembered.js';

/** Where time is the question the section stands half open; elsewhere it is a line of the hands. */
const ofTime = new Set(['plans', 'whatIf', 'drying']);

/** How high the section stands under a topic, remembered; null where there is none. */
export function useRibbonHeight(station: string, topic: string) {
  const [kept, keep] = useRemembered<Record<string, RibbonHeight>>('viaticum-ribbon', {});
  const has = station === 'steps' || (station === 'class' && (topic === '' || topic === 'teach'));
  const place = `${station}/${ofTime.has(topic) ? 'time' : ''}`;
  const height = kept[place] ?? (ofTime.has(topic) ? 'half' : 'hands');
  const set = (next: RibbonHeight) => keep({ ...kept, [place]: next });
  return {
    height: has ? height : null,
    set,
    /** The next height, and from the highest back to the lowest. */
    next: () => has && set(ribbonHeights[(ribbonHeights.indexOf(height) + 1) % ribbonHeights.length] as RibbonHeight),
  };
}

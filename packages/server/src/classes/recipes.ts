import type { OtherRecipes } from '@viaticum/contract';
import { pool } from '../work/pool.js';
import type { RecipesJob } from './recipes-worker.js';

const KEPT = 200;

/** Recipes for students who lack some tubes, worked out in a thread of their own; the same question is answered once. */
export function recipesForKits() {
  // A room of sixty behind one address asks at the same moment.
  const worker = pool<RecipesJob, OtherRecipes>('classes/recipes-worker.js', { queue: 200, perCaller: 60 });
  const known = new Map<string, Promise<OtherRecipes>>();
  return {
    /** `revisionId` names the pinned lesson; tubes that it does not know are passed over. */
    without(revisionId: number, text: () => Promise<string>, tubes: readonly string[], caller: string): Promise<OtherRecipes> {
      const lacking = [...new Set(tubes)].sort();
      const key = JSON.stringify([revisionId, lacking]);
      const found = known.get(key);
      if (found) return found;
      const fresh = text().then((lesson) => worker.ask({ text: lesson, lacking }, caller));
      fresh.catch(() => known.delete(key));
      known.set(key, fresh);
      const [oldest] = known.keys();
      if (known.size > KEPT && oldest !== undefined) known.delete(oldest);
      return fresh;
    },
    close: worker.close,
  };
}

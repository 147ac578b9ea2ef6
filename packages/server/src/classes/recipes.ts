import type { Lesson, OtherRecipes } from '@viaticum/contract';
import { thread } from '../thread.js';
import type { RecipesJob } from './recipes-worker.js';

const KEPT = 200;

/** Recipes for students who lack some tubes, worked out in a thread of their own; the same question is answered once. */
export function recipesForKits() {
  const worker = thread<RecipesJob, OtherRecipes>('classes/recipes-worker.js');
  const known = new Map<string, Promise<OtherRecipes>>();
  return {
    /** `revisionId` names the pinned lesson; tubes that it does not know are passed over. */
    without(revisionId: number, lesson: Lesson, tubes: readonly string[]): Promise<OtherRecipes> {
      const lacking = lesson.tubes.filter((tube) => tubes.includes(tube.id)).map((tube) => tube.id);
      if (lacking.length === 0) return Promise.resolve({});
      const key = JSON.stringify([revisionId, lacking]);
      const found = known.get(key);
      if (found) return found;
      const fresh = worker.ask({ lesson, lacking });
      fresh.catch(() => known.delete(key));
      known.set(key, fresh);
      const [oldest] = known.keys();
      if (known.size > KEPT && oldest !== undefined) known.delete(oldest);
      return fresh;
    },
    close: worker.close,
  };
}

import type { Lesson } from '@viaticum/contract';
import { layingOf, type PlacedReference, wholeOf } from '@viaticum/core/picture';
import { pictureUrl } from '../api/queries.js';
import type { LayArgs, SourceAt } from '../workers/picture-jobs.js';

export { wholeOf };

const sourceAt = ({ pictureSha256, ...placed }: PlacedReference): SourceAt => ({
  url: pictureUrl(pictureSha256, 'work'),
  ...placed,
});

/** What the worker needs to lay this lesson's picture. */
export function layArgs(lesson: Lesson): LayArgs {
  const { whole, others, ...rest } = layingOf(lesson);
  return { ...rest, whole: whole && sourceAt(whole), others: others.map(([id, one]) => [id, sourceAt(one)]) };
}

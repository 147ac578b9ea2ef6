import type { Lesson, Reference } from '@viaticum/contract';
import { pictureUrl } from '../api/queries.js';
import type { LayArgs, SourceAt } from '../workers/picture-jobs.js';

const sourceAt = (reference: Reference): SourceAt => ({
  url: pictureUrl(reference.pictureSha256, 'work'),
  widthPx: reference.widthPx,
  heightPx: reference.heightPx,
  placement: reference.placement,
  correction: reference.correction,
  extend: reference.extend,
});

/** The reference that shows the whole picture: the first of that role. */
export const wholeOf = (lesson: Lesson): Reference | undefined =>
  lesson.references.find((reference) => reference.role === 'whole') ?? lesson.references[0];

/** What the worker needs to lay this lesson's picture; zones only as far as they change it. */
export function layArgs(lesson: Lesson): LayArgs {
  const whole = wholeOf(lesson);
  const matters = !whole || lesson.elements.some((element) => element.fate !== 'kept');
  const cutFrom = new Set(lesson.elements.map((element) => element.fromReferenceId));
  return {
    canvas: { widthMm: lesson.support.widthMm, heightMm: lesson.support.heightMm },
    whole: whole ? sourceAt(whole) : null,
    others: lesson.references
      .filter((reference) => cutFrom.has(reference.id))
      .map((reference) => [reference.id, sourceAt(reference)]),
    zones: matters ? lesson.zones.map(({ id, outline, elementId, targetLab }) => ({ id, outline, elementId, targetLab })) : [],
    elements: matters ? lesson.elements : [],
  };
}

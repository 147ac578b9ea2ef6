import type { Lesson, Mix } from '@viaticum/contract';
import { filmOf, groundUnder, looksOf } from '@viaticum/core/derived';
import { HIDES_AT, recipeParts } from '@viaticum/core/mix';
import { listInWords } from '@viaticum/core/units';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { useMemo } from 'react';
import { BrushOut } from '../ui/swatch.js';
import { words } from '../words/words.js';

const w = words.paints;

/** How well a single layer covers: 1 where it hides the ground, else its contrast ratio, so that the ground shows in the brush-out. */
function coverShare(lesson: Lesson, mix: Mix): number {
  const parts = recipeParts(mix, lesson);
  if (!parts) return 1;
  const { dryUm } = filmOf(lesson, mix.id);
  const { contrastRatio = 1 } = mixColour(parts, { finish: lesson.finish, film: { dryUm } });
  return contrastRatio >= HIDES_AT ? 1 : Math.max(0.25, contrastRatio);
}

/** The colour that lies under a mix where it is first used, as a paint of the page. */
export const groundRgb = (lesson: Lesson, mixId: string): string => cssRgb(labToSrgb(groundUnder(lesson, mixId)));

/** A mix brushed out, wet and dry, on what lies under it where it is first used. */
export function MixSample({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const look = looksOf(lesson).get(mix.id);
  const cover = useMemo(() => coverShare(lesson, mix), [lesson, mix]);
  if (!look) return null;
  return (
    <BrushOut
      rgb={look.rgb}
      wetRgb={look.wetRgb}
      groundRgb={groundRgb(lesson, mix.id)}
      cover={cover}
      label={`${mix.name}, ${listInWords([w.wet, w.dry])}`}
    />
  );
}

import { followSheet, looksOf } from '@viaticum/core/derived';
import { captionsOf, cardsOf } from '@viaticum/core/film';
import { useEffect, useMemo, useState } from 'react';
import { useStageBlobs } from '../../read/read-stages.js';
import type { FilmParts } from './film-picture.js';
import type { Filmed } from './use-film.js';

/** What the animatic of the present cut is drawn from; its stages come one after the other. */
export function useAnimatic({ lesson, timeline }: Filmed): FilmParts & { isPainted: boolean } {
  const wanted = useMemo(
    () => [
      ...new Set(
        timeline.takes.flatMap(({ afterStepId, stepIds, kind }) => [
          ...(afterStepId ? [afterStepId] : []),
          ...(kind === 'canvas' ? stepIds : []),
        ]),
      ),
    ],
    [timeline.takes],
  );
  const blobs = useStageBlobs(lesson, wanted);
  const stages = useLoaded(blobs);
  return useMemo(
    () => ({
      lesson,
      timeline,
      cards: cardsOf(lesson, timeline),
      cues: captionsOf(lesson, timeline).cues,
      stages,
      looks: looksOf(lesson),
      bareRgb: followSheet(lesson).canvas.bareRgb,
      isPainted: stages.size > 0,
    }),
    [lesson, timeline, stages],
  );
}

/** Pictures once they are decoded. */
function useLoaded(blobs: readonly (readonly [string, Blob])[]): ReadonlyMap<string, ImageBitmap> {
  const [loaded, setLoaded] = useState<ReadonlyMap<string, ImageBitmap>>(new Map());
  useEffect(() => {
    if (blobs.length === 0) return;
    let gone = false;
    Promise.all(blobs.map(async ([id, blob]) => [id, await createImageBitmap(blob)] as const)).then(
      (all) => !gone && setLoaded(new Map(all)),
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [blobs]);
  return loaded;
}

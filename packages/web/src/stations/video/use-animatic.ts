import { followSheet, looksOf } from '@viaticum/core/derived';
import { captionsOf, cardsOf } from '@viaticum/core/film';
import { useEffect, useMemo, useState } from 'react';
import { useReadStages } from '../../read/read-stages.js';
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
  const urls = useReadStages(lesson, wanted);
  const stages = useLoaded(urls);
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
function useLoaded(urls: ReadonlyMap<string, string>): ReadonlyMap<string, ImageBitmap> {
  const [loaded, setLoaded] = useState<ReadonlyMap<string, ImageBitmap>>(new Map());
  useEffect(() => {
    if (urls.size === 0) return;
    let gone = false;
    const load = async ([id, url]: [string, string]) => [id, await createImageBitmap(await (await fetch(url)).blob())] as const;
    Promise.all([...urls].map(load)).then(
      (all) => !gone && setLoaded(new Map(all)),
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [urls]);
  return loaded;
}

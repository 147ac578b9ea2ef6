import { type Lesson, noWords } from '@viaticum/contract';
import type { AreaOff } from '@viaticum/core/stage';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { pictureUrl } from '../../api/queries.js';
import { useView, useWorkedOut } from '../../lesson/context.js';
import { LayingProvider, useJob } from '../../lesson/laid.js';
import { useHeld } from '../../ui/use-held.js';

/** The canvas after every step as it was painted, by step; empty while nothing is painted yet. */
export type Painted = {
  urls: ReadonlyMap<string, string>;
  /** How far each painted canvas lies from the picture, squinted at (ΔE00), by step; empty without a picture. */
  offs: { stepId: string; mean: number; p95: number }[];
  progress: number | null;
  fault: string | null;
};
const nothing: Painted = { urls: new Map(), offs: [], progress: null, fault: null };
const PaintedContext = createContext<{ painted: Painted; begin: () => void }>({ painted: nothing, begin: () => {} });

export const usePainted = (): Painted => useContext(PaintedContext).painted;
/** The stage pictures, painted now rather than when there is time. */
export function usePaintedNow(): Painted {
  const { painted, begin } = useContext(PaintedContext);
  useEffect(begin, [begin]);
  return painted;
}

const WIDTH_PX = 560;
/** Painting begins when the station has been looked at for so long, or when its pictures are asked for. */
const QUIET_MS = 5000;

/** What the painting stands on: words, minutes (but of passes over surfaces) and pins do not change it. */
const asPainted = (lesson: Lesson): Lesson => ({
  ...lesson,
  planning: { pins: [] },
  setAside: [],
  samples: [],
  variants: [],
  steps: lesson.steps.map(({ doMin, showMin: _, photoSha256: __, ...step }) => ({
    ...step,
    // Strokes over a surface are as many as there is time for.
    ...(step.pass && doMin !== undefined ? { doMin } : {}),
    ...noWords,
  })),
});

/** Photographs stand in for the pictures of their steps. */
function withPhotos(urls: ReadonlyMap<string, string>, lesson: Lesson): ReadonlyMap<string, string> {
  const photos = lesson.steps.filter((step) => step.photoSha256);
  if (photos.length === 0) return urls;
  return new Map([...urls, ...photos.map((step) => [step.id, pictureUrl(step.photoSha256 as string, 'work')] as const)]);
}

/** Keeps the stage pictures up to date with the lesson, beside what is shown. */
export function PaintedProvider({ children }: { children: ReactNode }) {
  const [painted, setPainted] = useState(nothing);
  const [isOn, setOn] = useState(false);
  const begin = useCallback(() => setOn(true), []);
  useEffect(() => {
    const timer = setTimeout(begin, QUIET_MS);
    return () => clearTimeout(timer);
  }, [begin]);
  const value = useMemo(() => ({ painted, begin }), [painted, begin]);
  return (
    <PaintedContext.Provider value={value}>
      {children}
      {isOn && (
        <LayingProvider>
          <Painter onPainted={setPainted} />
        </LayingProvider>
      )}
    </PaintedContext.Provider>
  );
}

const noAreas: readonly AreaOff[] = [];

const forgetUrls = (urls: ReadonlyMap<string, string>): void => {
  for (const url of urls.values()) URL.revokeObjectURL(url);
};

function Painter({ onPainted }: { onPainted: (painted: Painted) => void }) {
  const lesson = useWorkedOut();
  const args = useMemo(() => {
    const painted = asPainted(lesson);
    if (painted.steps.length === 0 || painted.areas.length === 0) return null;
    const wanted = painted.steps.map((step) => step.id);
    return { lesson: painted, widthPx: WIDTH_PX, wanted, withPicture: painted.references.length > 0 };
  }, [lesson]);
  const { answer, progress, fault } = useJob('stages', args, 400);
  const make = useCallback(
    (): ReadonlyMap<string, string> =>
      answer ? new Map(answer.images.map(([id, blob]) => [id, URL.createObjectURL(blob)])) : nothing.urls,
    [answer],
  );
  const { setSeen } = useView();
  const areas = args ? (answer?.areas ?? noAreas) : noAreas;
  useEffect(() => {
    setSeen(areas);
    return () => setSeen(noAreas);
  }, [setSeen, areas]);
  const urls = useHeld(make, forgetUrls) ?? nothing.urls;
  const shown = useMemo(() => withPhotos(urls, lesson), [urls, lesson]);
  useEffect(
    () =>
      onPainted({
        urls: args ? shown : nothing.urls,
        offs: args ? (answer?.offs ?? nothing.offs) : nothing.offs,
        progress,
        fault,
      }),
    [onPainted, args, shown, answer, progress, fault],
  );
  return null;
}

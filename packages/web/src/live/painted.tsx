import type { FollowSheet, Plan } from '@viaticum/contract';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { type AreaWetness, type ShownLayer, StageCanvas } from '../ui/stage-canvas.js';

/** Where the stage pictures of the class (or of the lesson painted alone) are; null where there are none. */
const Stages = createContext<string | null>(null);
export const StagesAt = ({ base, children }: { base: string; children: ReactNode }) => <Stages value={base}>{children}</Stages>;

/** Where the lesson's or class's own files are fetched; null where they are not. */
export const useStagesBase = (): string | null => useContext(Stages);

/**
 * The step after whose picture a canvas looks so, when these steps are done: those that leave a trace must be the first of the lesson, in its
 * order. Null: the bare canvas; undefined: no picture shows it, because something was left out or done in another order.
 */
export function pictureAfter(sheet: FollowSheet, done: ReadonlySet<string>): string | null | undefined {
  const leaving = Object.entries(sheet.steps)
    .filter(([, step]) => step.layers.length > 0)
    .sort(([, a], [, b]) => a.number - b.number)
    .map(([id]) => id);
  const count = leaving.filter((id) => done.has(id)).length;
  if (!leaving.slice(0, count).every((id) => done.has(id))) return undefined;
  return leaving[count - 1] ?? null;
}

/** The steps that were done when the class stands at an item of its plan (that item's own among them where `withItem`). */
export const doneAt = (plan: Plan, index: number, withItem: boolean): Set<string> =>
  new Set(plan.items.slice(0, index + (withItem ? 1 : 0)).flatMap((item) => item.stepId ?? []));

type Props = {
  sheet: FollowSheet;
  done: ReadonlySet<string>;
  /** The same in flat layers: shown until the picture is there, and where there is none. */
  layers: readonly ShownLayer[];
  wetness?: readonly AreaWetness[];
  label: string;
  shownPx: number;
};

/** A canvas as it is painted so far: its stage picture, computed from the lesson's own brushes and mixes. */
export function Painted({ sheet, done, layers, wetness, label, shownPx }: Props) {
  const picture = useLoaded(pictureAfter(sheet, done));
  return (
    <StageCanvas
      sheet={sheet}
      layers={picture ? [] : layers}
      allLayers={layers}
      {...(picture && { picture })}
      {...(wetness && { wetness })}
      label={label}
      shownPx={shownPx}
    />
  );
}

/** The address of a step's picture once the browser has it. */
function useLoaded(stepId: string | null | undefined): string | null {
  const base = useContext(Stages);
  const url = base && stepId ? `${base}/stages/${encodeURIComponent(stepId)}` : null;
  const [loaded, setLoaded] = useState<string | null>(null);
  useEffect(() => {
    if (!url) return;
    let gone = false;
    const image = new Image();
    image.onload = () => !gone && setLoaded(url);
    image.src = url;
    return () => {
      gone = true;
    };
  }, [url]);
  return loaded === url ? url : null;
}

import type { ProposedThing } from '@viaticum/kernels/things';
import { useRef, useState } from 'react';
import { LOOK_AFTER_MS, ThingTools } from '../things/thing-tools.js';
import { ThingsOnCanvas } from '../things/things-on-canvas.js';
import type { MarkTool, Things } from '../things/use-things.js';
import type { Point } from '../ui/point.js';
import { PointFace } from '../ui/point-face.js';
import { useWidth } from '../ui/use-width.js';
import { thingWords as w } from '../words/things.js';
import type { PictureJobs } from '../workers/picture-jobs.js';
import type { PictureWorker } from '../workers/picture-worker.js';
import { useJobOf } from '../workers/use-job.js';
import css from './begin.module.css';
import { PlacedOnCanvas, type PlacedPicture } from './placed.js';

/** The frame is so high; see begin.module.css. */
const FRAME_PX = 560;

/** The picture on its canvas, over which one strokes what the things are; `children` stand at the foot of the list. */
export function ThingsPage({
  worker,
  things,
  proposed,
  picture,
  support,
  children,
}: {
  worker: PictureWorker | null;
  things: Things;
  proposed: readonly ProposedThing[] | null;
  picture: PlacedPicture;
  support: { widthMm: number; heightMm: number };
  children: React.ReactNode;
}) {
  const [tool, setTool] = useState<MarkTool>('stroke');
  const svg = useRef<SVGSVGElement>(null);
  const { widthMm, heightMm } = support;
  const [frame, framePx] = useWidth<HTMLDivElement>(FRAME_PX);
  const unit = Math.max(widthMm / Math.max(1, framePx), heightMm / FRAME_PX);
  const toMm = ({ clientX, clientY }: { clientX: number; clientY: number }): Point => {
    const seen = svg.current?.getScreenCTM()?.inverse();
    if (!seen) return [0, 0];
    const at = new DOMPoint(clientX, clientY).matrixTransform(seen);
    return [at.x, at.y];
  };
  const args = things.marked ? { count: 2, taps: [], refined: false, marked: things.marked } : null;
  const { answer, fault } = useJobOf<PictureJobs, 'propose'>(worker, 'propose', proposed ? args : null, { afterMs: 0 });
  const seen = useJobOf<PictureJobs, 'looks'>(worker, 'looks', proposed && things.marked ? { marked: things.marked } : null, {
    afterMs: LOOK_AFTER_MS,
  });
  const areas = things.things.length > 1 ? (answer?.areas ?? []) : [];
  return (
    <div className={css.page}>
      <div className={css.easel} ref={frame}>
        <PlacedOnCanvas picture={picture} widthMm={widthMm} heightMm={heightMm} svg={svg}>
          <ThingsOnCanvas
            things={things}
            areas={areas}
            doubt={answer?.doubt ?? null}
            tool={tool}
            support={support}
            unit={unit}
            face={(handlers) => proposed && <PointFace {...handlers} support={support} unit={unit} toMm={toMm} />}
          />
        </PlacedOnCanvas>
      </div>
      <div className={css.side}>
        {proposed === null && (
          <p className="quiet small" role="status">
            {w.firstLook}
          </p>
        )}
        {fault && <p className="signal">{fault}</p>}
        {proposed && (
          <ThingTools
            things={things}
            areas={areas}
            looks={seen.answer ?? []}
            canvasMm2={widthMm * heightMm}
            tool={tool}
            onTool={setTool}
            isClear={proposed.some(({ kind }) => kind === 'subject')}
          />
        )}
        {children}
      </div>
    </div>
  );
}

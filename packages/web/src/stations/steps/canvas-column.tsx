import type { Step } from '@viaticum/contract';
import type { Contact } from '@viaticum/core/contact';
import { borderLine, looksOf, surfaceStrokes } from '@viaticum/core/derived';
import { hourMinute, lowered } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { useLesson, usePlan, useSheet, useView, useWorkedOut } from '../../lesson/context.js';
import { MixSample } from '../../lesson/mix-sample.js';
import { Closer } from '../../ui/closer.js';
import { CloserKeys } from '../../ui/closer-keys.js';
import { PracticeStrip } from '../../ui/practice-strip.js';
import { StageCanvas, type TouchedBorder } from '../../ui/stage-canvas.js';
import { laidAtHome, layersAt, wetnessAt } from '../../ui/stage-layers.js';
import { StrokeDiagram } from '../../ui/stroke-diagram.js';
import { RecipeBar } from '../../ui/swatch.js';
import { ToggleKey } from '../../ui/toggle-key.js';
import { markWords } from '../../words/steps.js';
import { words } from '../../words/words.js';
import css from './canvas-column.module.css';
import { usePainted } from './painted.js';

/** The canvas at the light's minute, and what the marked step is painted with. */
export function CanvasColumn() {
  const lesson = useLesson();
  const { stepId } = useView();
  const step = lesson.steps.find((one) => one.id === stepId);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard
    <section className={css.canvasColumn} aria-label={words.steps.canvas} tabIndex={0}>
      <CanvasMap />
      {step && <PaintedWith step={step} />}
    </section>
  );
}

/** The mixes of a step as brush-outs and recipes, and how its stroke goes. */
function PaintedWith({ step }: { step: Step }) {
  const lesson = useLesson();
  const looks = looksOf(lesson);
  return (
    <div className={css.paintedWith}>
      {step.mixIds.map((id) => {
        const look = looks.get(id);
        return look ? (
          <div key={id} className={css.paintedMix}>
            <MixSample lesson={lesson} mix={look.mix} />
            <RecipeBar parts={look.parts} words={look.words} name={look.mix.name} />
          </div>
        ) : null;
      })}
      <Practised step={step} />
      {step.stroke && !step.pass && (
        <p className={clsx(css.stepStroke, 'small')}>
          <StrokeDiagram stroke={step.stroke} size={30} />
          <span>
            <b>{markWords.strokes[step.stroke].name}</b> {markWords.strokes[step.stroke].how}
          </span>
        </p>
      )}
    </div>
  );
}

/** The strokes of a pass over a surface, to be practised on scrap before: how they look, how large they are and how many. */
function Practised({ step }: { step: Step }) {
  const lesson = useLesson();
  const [strokes] = surfaceStrokes(lesson, step);
  if (!strokes) return null;
  const said = markWords.practised(strokes.count, Math.round(strokes.widthMm * 2) / 2, Math.round(strokes.lengthMm));
  return (
    <div className={css.practised}>
      <PracticeStrip strokes={strokes} label={said} />
      <p className="small">{said}</p>
    </div>
  );
}

/** The borders along which the marked step meets other paint, with what each asks for. */
function useTouchedBorders(): TouchedBorder[] {
  const lesson = useWorkedOut();
  const { contacts } = usePlan();
  const { stepId } = useView();
  return useMemo(() => {
    const edges = contacts.filter((one) => one.toStepId === stepId && one.kind === 'edge' && !one.waived);
    const slowest = new Map<string, Contact>();
    for (const one of edges) {
      const key = [one.ownAreaId, one.areaId].join();
      if ((slowest.get(key)?.waitMin ?? -1) < one.waitMin) slowest.set(key, one);
    }
    return [...slowest.values()].flatMap((one): TouchedBorder[] => {
      const pieces = borderLine(lesson, one.ownAreaId, one.areaId);
      if (pieces.length === 0) return [];
      const path = pieces
        .map(([[x1, y1], [x2, y2]]) => `M${x1.toFixed(1)} ${y1.toFixed(1)}L${x2.toFixed(1)} ${y2.toFixed(1)}`)
        .join('');
      const asks = one.waitMin > 0 ? 'wait' : one.wish === 'clean' ? 'nothing' : 'softness';
      return [{ path, asks }];
    });
  }, [lesson, contacts, stepId]);
}

/** The canvas at the light's minute, in its true proportion. */
function CanvasMap() {
  const { plan } = usePlan();
  const lesson = useLesson();
  const sheet = useSheet();
  const view = useView();
  const minute = Math.min(view.minute, plan.endMin);
  const item = plan.items.findLast((one) => one.stepId && one.startMin < minute);
  const number = item ? lesson.steps.findIndex((step) => step.id === item.stepId) + 1 : 0;
  const label = number > 0 ? words.steps.after(number, hourMinute(minute)) : words.steps.atStart;
  const { urls } = usePainted();
  const touched = useTouchedBorders();
  const [isHeld, setHeld] = useState(false);
  // Painted up to the last step that has ended; held down, up to the one before it.
  const ended = plan.items.filter((one) => one.stepId && one.endMin <= minute + 1e-6 && urls.has(one.stepId));
  const home = laidAtHome(plan).filter((id) => urls.has(id));
  const shownStep = [...home, ...ended.map((one) => one.stepId as string)].at(isHeld ? -2 : -1);
  const picture = shownStep ? urls.get(shownStep) : undefined;
  const layers = layersAt(sheet, plan, minute);
  const going = item?.stepId && item.endMin > minute + 1e-6 ? item.stepId : null;
  const own = new Set(going ? sheet.steps[going]?.layers.map((layer) => layer.areaId) : []);
  const onTop =
    going && picture ? layers.slice(-(sheet.steps[going]?.layers.length ?? 0)).filter((layer) => own.has(layer.areaId)) : [];
  return (
    <figure
      className={css.canvasMap}
      data-testid="canvas-map"
      onPointerDown={(event) => setHeld((event.target as Element).closest('[data-scale]') !== null)}
      onPointerUp={() => setHeld(false)}
      onPointerLeave={() => setHeld(false)}
      onPointerCancel={() => setHeld(false)}
    >
      <Closer
        keys={(closer) => (
          <figcaption className="small">
            <span className="quiet">{label}</span>
            <span className={css.canvasToggles}>
              <CloserKeys {...closer} />
              <ToggleKey
                said={lowered(words.picture.outlines)}
                letter="O"
                isOn={view.outlines}
                onToggle={() => view.toggle('outlines')}
              />
              <ToggleKey
                said={lowered(words.picture.squint)}
                letter="V"
                isOn={view.squint}
                onToggle={() => view.toggle('squint')}
              />
            </span>
          </figcaption>
        )}
      >
        <StageCanvas
          sheet={sheet}
          {...(picture ? { picture } : {})}
          allLayers={layers}
          layers={picture ? (isHeld ? [] : onTop) : layers}
          wetness={minute > 0 ? wetnessAt(sheet, plan.coats, minute, true) : []}
          outlines={view.outlines}
          borders={touched}
          label={label}
          className={clsx(view.squint && css.squint)}
          shownPx={250}
        />
      </Closer>
    </figure>
  );
}

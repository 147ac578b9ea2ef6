import { type ReactNode, useState } from 'react';
import type { Point } from '../ui/point.js';
import type { Handlers } from '../ui/point-face.js';
import { thingWords as w } from '../words/things.js';
import type { ShownArea } from '../workers/picture-jobs.js';
import { MarksOnCanvas } from './marks-on-canvas.js';
import { strokeInShares } from './thing-tools.js';
import type { MarkTool, Things } from './use-things.js';

/** Things as they stand and the face on which they are marked: strokes, rings, taps, and lines drawn freely or from end to end. */
export function ThingsOnCanvas({
  things,
  areas,
  doubt,
  tool,
  support,
  unit,
  face,
}: {
  things: Things;
  areas: readonly ShownArea[];
  doubt: readonly [number, number] | null;
  tool: MarkTool;
  support: { widthMm: number; heightMm: number };
  unit: number;
  /** The face of the canvas with these handlers; nothing where it cannot be marked yet. */
  face: (handlers: Handlers) => ReactNode;
}) {
  const [growing, setGrowing] = useState<Point[]>([]);
  const [from, setFrom] = useState<Point | null>(null);
  const { widthMm, heightMm } = support;
  const isLine = tool === 'line';
  const begun = isLine ? from : null;
  const onTap = (at: Point) => {
    if (!isLine) return things.add('tap', [[at[0] / widthMm, at[1] / heightMm]]);
    if (begun) things.addLine([begun, at]);
    setFrom(begun ? null : at);
  };
  const onStroke = (points: Point[], isDone: boolean) => {
    setGrowing(isDone ? [] : points);
    setFrom(null);
    if (!isDone) return;
    if (isLine) things.addLine(points);
    else things.add(...strokeInShares(points, support, tool));
  };
  return (
    <>
      <MarksOnCanvas
        areas={areas}
        marks={things.marks}
        lines={things.lines}
        growing={growing}
        begun={begun}
        chosen={things.chosen}
        chosenLine={things.chosenLine}
        doubt={things.isTouched ? doubt : null}
        doubtWords={w.whose}
        support={support}
        unit={unit}
      />
      {face({ label: isLine ? w.lineHint : w.hint, onTap, onStroke })}
    </>
  );
}

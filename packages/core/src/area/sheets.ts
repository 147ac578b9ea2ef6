import type { Area, Outline } from '@viaticum/contract';
import { common, united, without } from './clip.js';
import { type Box, meets, outlineArea, outlineBox } from './outline.js';

/** The painted face; a taped margin makes its window smaller, sides that are painted round (`wrapMm` deep) make it larger. */
type Canvas = { widthMm: number; heightMm: number; marginMm?: number | undefined; wrapMm?: number | undefined };
export type VisiblePart = { id: string; outline: Outline; areaCm2: number };

/** The canvas's own rectangle as an outline in mm. */
export function canvasOutline({ widthMm, heightMm }: Canvas): Outline {
  return [
    [
      [
        [0, 0],
        [widthMm, 0],
        [widthMm, heightMm],
        [0, heightMm],
      ],
    ],
  ];
}

/** The window that is painted, as an outline in mm: the face less its taped margin, or with its sides folded out. */
function windowOutline({ widthMm, heightMm, marginMm = 0, wrapMm = 0 }: Canvas): Outline {
  const by = Math.min(marginMm - wrapMm, widthMm / 2 - 1, heightMm / 2 - 1);
  return [
    [
      [
        [by, by],
        [widthMm - by, by],
        [widthMm - by, heightMm - by],
        [by, heightMm - by],
      ],
    ],
  ];
}

const EDGE_MM = 0.6;
/** An area's outline carried on round the sides: what ends at the face's edge goes on to the end of the sides. */
function wrapped(outline: Outline, { widthMm, heightMm, wrapMm = 0 }: Canvas): Outline {
  if (wrapMm === 0) return outline;
  const out = (value: number, size: number) => (value <= EDGE_MM ? -wrapMm : value >= size - EDGE_MM ? size + wrapMm : value);
  return outline.map((polygon) =>
    polygon.map((ring) => ring.map(([x, y]): [number, number] => [out(x, widthMm), out(y, heightMm)])),
  );
}

/**
 * What is seen of each area. Areas are sheets stacked back to front; an area's visible part is its outline within the painted
 * window less all sheets in front of it. Same order as `areas`; an area wholly covered has an empty outline.
 */
export function visibleParts(given: readonly Area[], canvas: Canvas): VisiblePart[] {
  const face = windowOutline(canvas);
  const areas = given.map((area) => ({ id: area.id, outline: wrapped(area.outline, canvas) }));
  const window = outlineBox(face) as Box;
  const boxes = areas.map((area) => outlineBox(area.outline));
  return areas.map((area, i) => {
    const box = boxes[i];
    const isInside =
      box &&
      box.x >= window.x &&
      box.y >= window.y &&
      box.x + box.width <= window.x + window.width &&
      box.y + box.height <= window.y + window.height;
    const sheet = isInside ? area.outline : common(area.outline, face);
    // All sheets in front at once: what lies under any of them is hidden.
    const front = areas.flatMap((other, k) => {
      const there = boxes[k];
      return k > i && there && box && meets(there, box) ? other.outline : [];
    });
    const outline = front.length > 0 ? without(sheet, front) : isInside ? united(sheet, []) : sheet;
    return { id: area.id, outline, areaCm2: outlineArea(outline) / 100 };
  });
}

/** The part of an outline that lies on the canvas; empty where none does. */
export function clipToCanvas(outline: Outline, canvas: Canvas): Outline {
  return common(outline, canvasOutline(canvas));
}

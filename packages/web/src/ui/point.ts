export type Point = [number, number];
/** From the screen to the canvas, in mm. */
export type ToMm = (event: { clientX: number; clientY: number }) => Point;

const arrows: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** How far an arrow key moves something, in mm: `step`, or with Shift `wide`. Null for another key. */
export function arrowStep(event: { key: string; shiftKey: boolean }, step: number, wide: number): Point | null {
  const arrow = arrows[event.key];
  const by = event.shiftKey ? wide : step;
  return arrow ? [arrow[0] * by, arrow[1] * by] : null;
}

export const insideCanvas = ([x, y]: Point, { widthMm, heightMm }: { widthMm: number; heightMm: number }): Point => [
  Math.min(widthMm, Math.max(0, x)),
  Math.min(heightMm, Math.max(0, y)),
];

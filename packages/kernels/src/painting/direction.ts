import { turnOfVector } from './chance.js';
import type { StageArea } from './scene.js';

/** The direction of strokes of an area at a place: towards or round its point, or its own. */
export function turnAt({ turn, flow }: StageArea, x: number, y: number): number {
  if (!flow) return turn;
  const [dx, dy] = [flow.x - x, flow.y - y];
  return flow.kind === 'towards' ? turnOfVector(dx, dy) : turnOfVector(-dy, dx);
}

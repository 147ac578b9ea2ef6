import type { Step, Surface } from '@viaticum/contract';
import { type SurfacePass, type SurfaceRow, surfaces } from './table.js';

export { type SurfacePass, type SurfaceRow, surfaces };

/** What a pass over a surface is; null where the surface has no such pass. */
export const surfacePass = (surface: Surface | undefined, pass: Step['pass']): SurfacePass | null =>
  (surface && surfaces[surface].passes.find((one) => one.pass === pass)) ?? null;

import type { Rung } from '@viaticum/core/step';

/** "rgb(12 200 3)" moved in lightness by enough to be seen on itself: lighter on darks, darker on lights. */
function markOn(rgb: string): string {
  const [r = 0, g = 0, b = 0] = (rgb.match(/\d+/g) ?? []).map(Number);
  const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const to = luma > 130 ? 0 : 255;
  const share = luma > 130 ? 0.34 : 0.42;
  return `rgb(${[r, g, b].map((value) => Math.round(value + (to - value) * share)).join(' ')})`;
}

/** The texture of a rung: gloss streaks for workable, stipple for damp, nothing for matt. */
export function textureOf(rung: Rung): 'gloss' | 'stipple' | null {
  if (rung === 'workable') return 'gloss';
  if (rung === 'damp') return 'stipple';
  return null;
}

/** One SVG pattern that shows wetness in a paint's own colour. `unit` is the size of a screen pixel in user units. */
export function TexturePattern({
  id,
  kind,
  rgb,
  unit = 1,
}: {
  id: string;
  kind: 'gloss' | 'stipple';
  rgb: string;
  unit?: number;
}) {
  const mark = markOn(rgb);
  return kind === 'gloss' ? (
    <pattern id={id} width={7 * unit} height={7 * unit} patternUnits="userSpaceOnUse" patternTransform="rotate(38)">
      <rect width={2.4 * unit} height={7 * unit} fill={mark} />
    </pattern>
  ) : (
    <pattern id={id} width={5 * unit} height={5 * unit} patternUnits="userSpaceOnUse" patternTransform="rotate(20)">
      <circle cx={1.3 * unit} cy={1.3 * unit} r={0.95 * unit} fill={mark} />
      <circle cx={3.8 * unit} cy={3.8 * unit} r={0.95 * unit} fill={mark} />
    </pattern>
  );
}

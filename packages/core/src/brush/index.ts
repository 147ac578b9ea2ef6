import { languageNow, say, worded } from '@viaticum/contract';
export type BrushType = 'flat' | 'filbert' | 'round' | 'angled' | 'fan' | 'rigger' | 'rake' | 'mop' | 'hake' | 'knife';

/** A brush as the trade sells it. Widths across the hairs as they lie on the canvas, in mm; from memory. */
export type Brush = { id: string; type: BrushType; size: string; widthMm: number; also: string[] };

const inch = (size: number) => size * 25.4;
const row = (type: BrushType, size: string, widthMm: number, also: string[] = []): Brush => ({
  id: `${type}-${size}`.replace(/[^a-z0-9]+/gi, '-').replace(/-$/, ''),
  type,
  size,
  widthMm: Math.round(widthMm * 10) / 10,
  also,
});

/** The brush table, wide to narrow within a type. */
export const brushes: readonly Brush[] = [
  row('hake', '3 in', inch(3), ['wide wash brush']),
  row('flat', '2 in', inch(2), ['varnish brush']),
  row('flat', '1 in', inch(1), ['wash']),
  row('flat', '3/4 in', inch(0.75)),
  row('flat', '1/2 in', inch(0.5), ['bright 12']),
  row('flat', '6', 8, ['bright 6']),
  row('flat', '2', 4, ['bright 2']),
  row('filbert', '12', 19, ['cat’s tongue 12']),
  row('filbert', '8', 12),
  row('filbert', '4', 7),
  row('round', '12', 10),
  row('round', '8', 6.5),
  row('round', '4', 3.5),
  row('round', '2', 2),
  row('round', '0', 1),
  row('angled', '1/2 in', inch(0.5), ['angular']),
  row('fan', '6', 32, ['blender']),
  row('rigger', '2', 1.6, ['liner', 'script']),
  row('rigger', '0', 0.9, ['liner', 'script']),
  row('rake', '1/2 in', inch(0.5), ['comb']),
  row('mop', '3/4 in', inch(0.75), ['soft blender']),
  row('knife', 'small', 18, ['painting knife']),
];

const types: Record<BrushType, string> = worded({
  flat: 'brush|flat',
  filbert: 'brush|filbert',
  round: 'brush|round',
  angled: 'brush|angled',
  fan: 'brush|fan',
  rigger: 'brush|rigger',
  rake: 'brush|rake',
  mop: 'brush|mop',
  hake: 'brush|hake',
  knife: 'brush|knife',
});
/** The kinds of brush, in words. */
export const brushTypeWords = types;

const table = new Map(brushes.map((brush) => [brush.id, brush]));

/** The brush with this id, or null where the table has none. */
export function brushOf(id: string | undefined): Brush | null {
  return (id && table.get(id)) || null;
}

/** "1 in flat", "rigger 2". */
export function brushInWords({ size, type }: Brush): string {
  if (languageNow() === 'de') return `${types[type]} ${size.endsWith('in') ? size.replace('in', 'Zoll') : say(size)}`;
  return size.endsWith('in') ? `${size} ${types[type]}` : `${types[type]} ${size}`;
}

/** "25 mm flat", "rigger 2": sizes that have a name keep it. */
export function brushInMetric(brush: Brush): string {
  return brush.size.endsWith('in') ? say`${Math.round(brush.widthMm)} mm ${types[brush.type]}` : brushInWords(brush);
}

/** A loaded brush left in the air hardens within these minutes (common practice, no published source). */
export const BRUSH_HARDENS_MIN = 12;

/** Mixes used from one pot of water before it dulls the next (common practice, no published source). */
export const MIXES_A_POT = 6;

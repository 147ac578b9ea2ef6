import type { AreaRole, Lab, Outline, Surface } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { type Labels, type LabRaster, labelMeans } from '@viaticum/kernels/raster';
import { outlineArea, outlineBox } from '../area/index.js';
import { depthOrder } from './depth.js';
import { bordersOf, outlineOf, sheetsOf, traceArcs } from './outline/index.js';
import { colourInWords } from './words.js';

/** A proposed area: its sheet, a name from colour and place, its mean colour. `region` is its number in the label map. */
export type ProposedArea = { region: number; name: string; outline: Outline; meanLab: Lab };

/** A thing as its instructor told it apart from the others. */
export type ToldThing = { name: string; role: AreaRole; surface?: Surface | undefined };

/** What is nearer lies in front: the order of roles from back to front. */
const ranks: Record<AreaRole, number> = {
  sky: 0,
  background: 0,
  water: 1,
  ground: 1,
  foliage: 2,
  made: 2,
  subject: 3,
  feature: 4,
};

const TOLERANCE_MM = 0.45;
/** Things are drawn as curves, flattened to within this. */
const CURVE_TOLERANCE_MM = 0.25;
const MOST_NODES = 60;

/**
 * Areas from a label map: borders simplified to clean polygons (coarser until an area has about sixty points a part), depth proposed,
 * sheets stacked back to front, each with a name. Things that were told (by label) keep their names, and what they are says which lies
 * in front; their borders are drawn as curves.
 */
export function proposeAreas(
  map: Labels,
  areas: number,
  lab: LabRaster,
  mmPerPx: number,
  told: readonly ToldThing[] = [],
): ProposedArea[] {
  const isTold = told.length > 0;
  let tolerance = isTold ? CURVE_TOLERANCE_MM : Math.max(TOLERANCE_MM, 1.2 * mmPerPx);
  const traced = traceArcs(map);
  let borders = bordersOf(map, areas, mmPerPx, tolerance, traced, isTold);
  for (let round = 0; round < (isTold ? 0 : 2); round++) {
    const most = Math.max(
      ...Array.from({ length: areas }, (_, area) => {
        const outline = outlineOf(borders, (one) => one === area);
        return outline.flat(2).length / Math.max(1, outline.length);
      }),
    );
    if (most <= MOST_NODES) break;
    tolerance *= 1.25;
    borders = bordersOf(map, areas, mmPerPx, tolerance, traced);
  }
  const [widthMm, heightMm] = [map.width * mmPerPx, map.height * mmPerPx];
  const rankOf = (area: number) => ranks[told[area]?.role ?? 'made'];
  const order = depthOrder(borders, widthMm, heightMm).sort((a, b) => rankOf(a) - rankOf(b));
  const sheets = sheetsOf(borders, order);
  const colours = labelMeans(map, lab, areas);
  const seen = order.map((area) => outlineOf(borders, (one) => one === area));
  const names = namesOf(
    order.map((area) => colours[area] as Lab),
    seen,
    widthMm,
    heightMm,
  );
  return order.map((region, i) => ({
    region,
    name: told[region]?.name ?? (names[i] as string),
    outline: withoutSpecks(sheets[i] as Outline),
    meanLab: colours[region] as Lab,
  }));
}

const SPECK_MM2 = 0.05;
/** Without rings that enclose next to nothing: what simplifying left of them no contract takes. */
const withoutSpecks = (outline: Outline): Outline =>
  outline
    .map((part) => part.filter((ring) => outlineArea([[ring]]) >= SPECK_MM2))
    .filter((part, i) => part.length > 0 && part[0] === outline[i]?.[0]);

/** Names from colour; where two are alike, with their place; where that does not part them either, with a number. */
function namesOf(colours: readonly Lab[], outlines: readonly Outline[], widthMm: number, heightMm: number): string[] {
  const plain = colours.map(colourInWords);
  const placed = plain.map((name, i) => {
    if (plain.filter((other) => other === name).length === 1) return name;
    return `${name}, ${placeOf(outlines[i] as Outline, widthMm, heightMm)}`;
  });
  return placed.map((name, i) => {
    const before = placed.slice(0, i).filter((other) => other === name).length;
    return placed.filter((other) => other === name).length === 1 ? name : `${name} ${before + 1}`;
  });
}

const places: Record<string, string> = worded({
  upper: 'upper',
  lower: 'lower',
  left: 'left',
  right: 'right',
  'upper left': 'upper left',
  'upper right': 'upper right',
  'lower left': 'lower left',
  'lower right': 'lower right',
});
function placeOf(outline: Outline, widthMm: number, heightMm: number): string {
  const box = outlineBox(outline);
  if (!box || outlineArea(outline) <= 0) return say('middle');
  const [x, y] = [(box.x + box.width / 2) / widthMm, (box.y + box.height / 2) / heightMm];
  const down = y < 0.36 ? 'upper' : y > 0.64 ? 'lower' : '';
  const across = box.width > 0.7 * widthMm ? '' : x < 0.36 ? 'left' : x > 0.64 ? 'right' : '';
  return places[[down, across].filter(Boolean).join(' ')] ?? say('middle');
}

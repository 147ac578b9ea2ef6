import type { Outline } from '@viaticum/contract';
import clipper, { type IntPath } from 'clipper-lib';

/** Clipping is done on a grid of a tenth of a micrometre, where it is exact. */
const GRID = 10_000;
const { Clipper, ClipperOffset, ClipType, PolyFillType, PolyType, JoinType, EndType, PolyTree } = clipper;
const nonZero = PolyFillType.pftNonZero;

/** Outer rings run one way round, holes the other, so that overlapping parts of one area unite. */
function toPaths(outline: Outline): IntPath[] {
  return outline.flatMap((polygon) =>
    polygon.map((ring, i) => {
      const path = ring.map(([x, y]) => ({ X: Math.round(x * GRID), Y: Math.round(y * GRID) }));
      return Clipper.Orientation(path) === (i === 0) ? path : path.reverse();
    }),
  );
}

type Node = { Contour(): IntPath; Childs(): Node[]; IsHole(): boolean };

function fromTree(tree: Node): Outline {
  const out: Outline = [];
  const ring = (node: Node) => node.Contour().map(({ X, Y }): [number, number] => [X / GRID, Y / GRID]);
  const visit = (node: Node) => {
    if (!node.IsHole() && node.Contour().length >= 3) out.push([ring(node), ...node.Childs().map(ring)]);
    for (const child of node.Childs()) visit(child);
  };
  for (const child of tree.Childs()) visit(child);
  return out;
}

function run(kind: number, subject: Outline, clip: Outline): Outline {
  const engine = new Clipper();
  engine.AddPaths(toPaths(subject), PolyType.ptSubject, true);
  engine.AddPaths(toPaths(clip), PolyType.ptClip, true);
  const tree = new PolyTree();
  engine.Execute(kind, tree, nonZero, nonZero);
  return fromTree(tree);
}

/** What lies in either outline. */
export const united = (one: Outline, other: Outline): Outline => run(ClipType.ctUnion, one, other);
/** What lies in both. */
export const common = (one: Outline, other: Outline): Outline => run(ClipType.ctIntersection, one, other);
/** What lies in the first and not in the second. */
export const without = (one: Outline, other: Outline): Outline => run(ClipType.ctDifference, one, other);

/** An outline grown by so many mm (shrunk where negative), with round corners (to a tenth of a mm). */
export function offset(outline: Outline, mm: number): Outline {
  if (mm === 0 || outline.length === 0) return outline;
  const engine = new ClipperOffset(2, 0.1 * GRID);
  engine.AddPaths(toPaths(outline), JoinType.jtRound, EndType.etClosedPolygon);
  const tree = new PolyTree();
  engine.Execute(tree, mm * GRID);
  return fromTree(tree);
}

/** An outline that crosses itself, made sound: the same area by the even-odd rule, without crossings or needles. */
export function repaired(outline: Outline): Outline {
  const paths = outline.flat().map((ring) => ring.map(([x, y]) => ({ X: Math.round(x * GRID), Y: Math.round(y * GRID) })));
  const clean = Clipper.CleanPolygons(Clipper.SimplifyPolygons(paths, PolyFillType.pftEvenOdd), 0.02 * GRID);
  const engine = new Clipper();
  engine.AddPaths(clean, PolyType.ptSubject, true);
  const tree = new PolyTree();
  engine.Execute(ClipType.ctUnion, tree, PolyFillType.pftEvenOdd, PolyFillType.pftEvenOdd);
  return fromTree(tree);
}

declare module 'clipper-lib' {
  export type IntPath = { X: number; Y: number }[];
  interface Tree {
    Contour(): IntPath;
    Childs(): Tree[];
    IsHole(): boolean;
  }
  interface Engine {
    AddPaths(paths: IntPath[], type: number, closed: boolean): boolean;
    Execute(kind: number, tree: Tree, subject: number, clip: number): boolean;
  }
  interface OffsetEngine {
    AddPaths(paths: IntPath[], join: number, end: number): void;
    Execute(tree: Tree, delta: number): void;
  }
  const clipper: {
    Clipper: {
      new (): Engine;
      Orientation(path: IntPath): boolean;
      CleanPolygons(paths: IntPath[], distance: number): IntPath[];
      SimplifyPolygons(paths: IntPath[], fill: number): IntPath[];
    };
    ClipperOffset: new (miterLimit: number, arcTolerance: number) => OffsetEngine;
    PolyTree: new () => Tree;
    ClipType: { ctIntersection: number; ctUnion: number; ctDifference: number };
    PolyType: { ptSubject: number; ptClip: number };
    PolyFillType: { pftEvenOdd: number; pftNonZero: number };
    JoinType: { jtRound: number };
    EndType: { etClosedPolygon: number };
  };
  export default clipper;
}

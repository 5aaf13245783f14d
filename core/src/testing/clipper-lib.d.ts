/** What of clipper-lib the specs use: it brings no types of its own. */
declare module 'clipper-lib' {
  interface Point {
    X: number;
    Y: number;
  }
  interface Clipper {
    AddPaths(paths: readonly (readonly Point[])[], type: number, closed: boolean): boolean;
    Execute(kind: number, solution: Point[][], subject: number, clip: number): boolean;
  }
  const lib: {
    Clipper: { new (): Clipper; Area(path: readonly Point[]): number };
    Paths: new () => Point[][];
    PolyType: { ptSubject: number };
    ClipType: { ctUnion: number };
    PolyFillType: { pftNonZero: number };
  };
  export default lib;
}

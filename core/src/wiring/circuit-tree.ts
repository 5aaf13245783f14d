import type { HouseReader } from '../derive/reader.js';
import { standingPull } from '../house/box-facts.js';
import type { Run } from '../house/model.js';

/** The runs of one circuit as a tree that grows from the panel. */
export interface CircuitTree {
  readonly panelId: string;
  /** Reached boxes, panel first, every box after the one that feeds it. */
  readonly boxes: readonly string[];
  /** The run that feeds a box, and the box it comes from. */
  readonly feed: ReadonlyMap<string, { readonly run: Run; readonly from: string }>;
  /** Runs that would close a loop. */
  readonly loops: readonly Run[];
  /** Runs that hang together with nothing that reaches the panel. */
  readonly islands: readonly Run[];
  /** Runs whose far end is not in a box yet. */
  readonly loose: readonly Run[];
}

/** Lower first: which runs make the tree where there is a choice (power, then pulled, then id). */
function preference(reader: HouseReader, run: Run): string {
  const power = run.purpose === 'power' ? 0 : 1;
  const pulled = standingPull(reader, run.id)?.state === 'in' ? 0 : 1;
  return `${power}${pulled}${run.id}`;
}

class Groups {
  private readonly leaders = new Map<string, string>();
  leader(id: string): string {
    let at = id;
    for (let up = this.leaders.get(at); up !== undefined; up = this.leaders.get(at)) at = up;
    if (at !== id) this.leaders.set(id, at);
    return at;
  }
  /** False when both were in one group already. */
  join(a: string, b: string): boolean {
    const left = this.leader(a);
    const right = this.leader(b);
    if (left === right) return false;
    this.leaders.set(left, right);
    return true;
  }
}

export function circuitTree(reader: HouseReader, circuitId: string, panelId: string): CircuitTree {
  const runs = reader
    .mentioning('runs', circuitId)
    .filter((run) => run.kind !== 'low-voltage' && run.circuitIds.includes(circuitId))
    .map((run) => ({ run, key: preference(reader, run) }))
    .sort((a, b) => (a.key < b.key ? -1 : 1))
    .map(({ run }) => run);
  const groups = new Groups();
  const edges = new Map<string, { run: Run; to: string }[]>();
  const loops: Run[] = [];
  const loose: Run[] = [];
  const between: { run: Run; a: string; b: string }[] = [];
  for (const run of runs) {
    if (!('boxId' in run.to)) {
      loose.push(run);
      continue;
    }
    const [a, b] = [run.from.boxId, run.to.boxId];
    if (!groups.join(a, b)) {
      loops.push(run);
      continue;
    }
    between.push({ run, a, b });
    for (const [here, there] of [
      [a, b],
      [b, a],
    ] as const) {
      const list = edges.get(here);
      if (list) list.push({ run, to: there });
      else edges.set(here, [{ run, to: there }]);
    }
  }
  const boxes = [panelId];
  const feed = new Map<string, { run: Run; from: string }>();
  for (let next = 0; next < boxes.length; next++) {
    const here = boxes[next]!;
    for (const { run, to } of edges.get(here) ?? []) {
      if (to === panelId || feed.has(to)) continue;
      feed.set(to, { run, from: here });
      boxes.push(to);
    }
  }
  const reached = new Set(boxes);
  const islands = [
    ...between.filter(({ a }) => !reached.has(a)).map(({ run }) => run),
    ...loops,
    ...loose,
  ].filter((run) => !reached.has(run.from.boxId));
  const lost = new Set(islands);
  return {
    panelId,
    boxes,
    feed,
    loops: loops.filter((run) => !lost.has(run)),
    islands,
    loose: loose.filter((run) => !lost.has(run)),
  };
}

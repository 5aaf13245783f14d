import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, isLooseEnd, standingPull } from '../../facts/box-facts.js';
import { NamedUnion } from '../../structures/union.js';
import type { Run } from '../../house/model.js';
import { NumberedTree } from './numbered-tree.js';

/**
 * The runs of one wiring group as a tree that grows from the panel. Its nodes are boxes. A run that arrives at a box which
 * is fed already makes a node of its own there (`<box>#<run>`) once it is known to carry a complete set of its own: what is
 * joined at that node is joined to nothing else in the box, and to the rest of the circuit only where the run begins.
 */
export interface CircuitTree {
  readonly panelId: string;
  /** Node ids, panel first, every node after the one that feeds it. */
  readonly nodes: readonly string[];
  readonly boxOf: ReadonlyMap<string, string>;
  /** The run that feeds a node, and the node it comes from. */
  readonly feed: ReadonlyMap<string, { readonly run: Run; readonly from: string }>;
  /** The node at each end of a run of the tree, by box. */
  readonly ends: ReadonlyMap<string, ReadonlyMap<string, string>>;
  /** Where devices stand that are not at their box's own node. */
  readonly moved: ReadonlyMap<string, string>;
  /** The run that closes a ring of which both ends come home: it carries hot and neutral like the others. */
  readonly ring?: Run;
  /** Runs that close a loop and carry no complete set of their own. */
  readonly loops: readonly Run[];
  /** Runs that hang together with nothing that reaches the panel. */
  readonly islands: readonly Run[];
  /** Runs that end at a buried point on which nothing has been put yet. */
  readonly loose: readonly Run[];
}

/** Lower first: which runs make the tree where there is a choice (power, then pulled, then id). */
function preference(reader: HouseReader, run: Run): string {
  const power = run.purpose === 'power' ? 0 : 1;
  const pulled = standingPull(reader, run.id)?.state === 'in' ? 0 : 1;
  return `${power}${pulled}${run.id}`;
}

/** The spanning tree of these runs; every run that closes a loop is listed and left out. */
export function circuitTree(
  reader: HouseReader,
  panelId: string,
  unordered: readonly Run[],
  isRing = false,
): CircuitTree {
  const runs = unordered
    .map((run) => ({ run, key: preference(reader, run) }))
    .sort((a, b) => (a.key < b.key ? -1 : 1))
    .map(({ run }) => run);
  const groups = new NamedUnion();
  const edges = new Map<string, { run: Run; to: string }[]>();
  const loops: Run[] = [];
  const loose: Run[] = [];
  const between: { run: Run; a: string; b: string }[] = [];
  for (const run of runs) {
    const [a, b] = boxesOf(run);
    if (isLooseEnd(reader, a) || isLooseEnd(reader, b)) {
      loose.push(run);
      continue;
    }
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
  const nodes = [panelId];
  const boxOf = new Map([[panelId, panelId]]);
  const feed = new Map<string, { run: Run; from: string }>();
  const ends = new Map<string, Map<string, string>>();
  for (let next = 0; next < nodes.length; next++) {
    const here = nodes[next]!;
    for (const { run, to } of edges.get(here) ?? []) {
      if (to === panelId || feed.has(to)) continue;
      feed.set(to, { run, from: here });
      boxOf.set(to, to);
      nodes.push(to);
      ends.set(
        run.id,
        new Map([
          [here, here],
          [to, to],
        ]),
      );
    }
  }
  const islands = [
    ...between.filter(({ a }) => !boxOf.has(a)).map(({ run }) => run),
    ...loops,
    ...loose,
  ].filter((run) => boxesOf(run).every((boxId) => !boxOf.has(boxId)));
  const lost = new Set(islands);
  const branchOf = (boxId: string): string | undefined => {
    let branch: string | undefined;
    for (let at: string | undefined = boxId; at !== undefined && at !== panelId; at = feed.get(at)?.from)
      branch = feed.get(at)?.run.id;
    return branch;
  };
  // A ring is closed by a run between what hangs on two of its home runs, or by one that comes home itself.
  const ring = isRing
    ? loops.find((run) => {
        const [a, b] = boxesOf(run).map(branchOf);
        return !lost.has(run) && a !== b;
      })
    : undefined;
  if (ring) ends.set(ring.id, new Map(boxesOf(ring).map((boxId) => [boxId, boxId])));
  return {
    panelId,
    nodes,
    boxOf,
    feed,
    ends,
    moved: new Map(),
    ...(ring && { ring }),
    loops: loops.filter((run) => !lost.has(run) && run !== ring),
    islands,
    loose: loose.filter((run) => !lost.has(run)),
  };
}

/**
 * The tree with one more run: it leads from box `from` to a new node in box `to`, to which these devices and these runs
 * that lead on from there are moved.
 */
export function withBranch(
  tree: CircuitTree,
  run: Run,
  from: string,
  to: string,
  devices: readonly string[],
  onward: readonly string[],
): CircuitTree {
  const node = `${to}#${run.id}`;
  const boxOf = new Map(tree.boxOf).set(node, to);
  const feed = new Map(tree.feed).set(node, { run, from });
  const ends = new Map(tree.ends);
  ends.set(
    run.id,
    new Map([
      [tree.boxOf.get(from)!, from],
      [to, node],
    ]),
  );
  const goes = new Set(onward);
  for (const [child, { run: lead, from: parent }] of tree.feed) {
    if (tree.boxOf.get(parent) !== to || !goes.has(lead.id)) continue;
    feed.set(child, { run: lead, from: node });
    ends.set(lead.id, new Map([...tree.ends.get(lead.id)!, [to, node]]));
  }
  const moved = new Map(tree.moved);
  for (const device of devices) moved.set(device, node);
  // Parents first again.
  const children = new Map<string, string[]>();
  for (const [child, { from: parent }] of feed)
    children.set(parent, [...(children.get(parent) ?? []), child]);
  const nodes = [tree.panelId];
  for (let next = 0; next < nodes.length; next++) nodes.push(...(children.get(nodes[next]!) ?? []));
  return { ...tree, nodes, boxOf, feed, ends, moved, loops: tree.loops.filter((other) => other !== run) };
}

/** The nodes from this one up to the panel. */
export function wayUp(tree: CircuitTree, node: string): string[] {
  const way: string[] = [];
  for (let at: string | undefined = node; at !== undefined; at = tree.feed.get(at)?.from) way.push(at);
  return way;
}

/** A tree of a circuit on numbers: its nodes in their order. */
export interface Numbers {
  readonly tree: NumberedTree;
  readonly of: ReadonlyMap<string, number>;
  /** The run that feeds each node, by its number; the root has none. */
  readonly runIds: readonly string[];
}

const KNOWN = new WeakMap<CircuitTree, Numbers>();

export function numbersOf(tree: CircuitTree): Numbers {
  let known = KNOWN.get(tree);
  if (!known) {
    const of = new Map(tree.nodes.map((node, number) => [node, number]));
    known = {
      of,
      tree: new NumberedTree(
        Int32Array.from(tree.nodes, (node) => of.get(tree.feed.get(node)?.from ?? '') ?? -1),
        Int32Array.from(tree.nodes, (_, number) => number),
      ),
      runIds: tree.nodes.map((node) => tree.feed.get(node)?.run.id ?? ''),
    };
    KNOWN.set(tree, known);
  }
  return known;
}

/** In which runs of the tree a set of nodes must be joined: those with nodes of the set on both sides. */
export function runsBetween(tree: CircuitTree, nodes: readonly string[]): Set<string> {
  const { tree: numbered, of, runIds } = numbersOf(tree);
  return new Set(numbered.between(nodes.map((node) => of.get(node)!)).map((run) => runIds[run]!));
}

import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { NamedUnion } from '../../structures/union.js';
import { devicesIn } from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { wayUp, withBranch } from '../circuit/circuit-tree.js';
import type { TreeNeeds } from './needs.js';
import { needsOn } from './needs.js';

/** Things of a box that hang together by their controls and can only go over to a branch together. */
interface Piece {
  readonly devices: readonly string[];
  /** Runs that lead on from here. */
  readonly onward: readonly string[];
}

/** Above so many pieces only one at a time is tried. */
const ALL_SETS_TO = 6;

function piecesAt(reader: HouseReader, needs: TreeNeeds, boxId: string): Piece[] {
  const { tree, controls } = needs;
  const devices = devicesIn(reader, boxId)
    .map(({ id }) => id)
    .filter((id) => !tree.moved.has(id));
  const children = [...tree.feed].filter(([, { from }]) => from === boxId);
  const itemOf = new Map<string, string>();
  for (const device of devices) itemOf.set(device, device);
  const below = new Map<string, string>();
  for (const [child, { run }] of children) {
    itemOf.set(run.id, run.id);
    for (const node of tree.nodes) if (wayUp(tree, node).includes(child)) below.set(node, run.id);
  }
  const together = new NamedUnion();
  for (const control of controls.wired) {
    const points = new Set([...control.places, ...control.loads]);
    const items = needs.points
      .filter(({ point }) => points.has(point.id))
      .flatMap(({ device, node }) => (node === boxId ? [device.id] : (below.get(node) ?? [])));
    for (const item of items.slice(1)) together.join(item, items[0]!);
  }
  const pieces = new Map<number, { devices: string[]; onward: string[] }>();
  for (const item of itemOf.keys()) {
    const piece = pieces.get(together.find(item)) ?? { devices: [], onward: [] };
    (devices.includes(item) ? piece.devices : piece.onward).push(item);
    pieces.set(together.find(item), piece);
  }
  // In the order of ids, so that among ways that are as good the same one is taken whatever the order of the lists.
  const least = ({ devices, onward }: Piece): string => [...devices, ...onward].sort()[0]!;
  return [...pieces.values()].sort((a, b) => (least(a) < least(b) ? -1 : 1));
}

function subsets<T>(items: readonly T[]): T[][] {
  if (items.length > ALL_SETS_TO) return [[], ...items.map((item) => [item])];
  return items.reduce<T[][]>((sets, item) => [...sets, ...sets.map((set) => [...set, item])], [[]]);
}

const isBetter = (a: TreeNeeds, b: TreeNeeds): boolean =>
  a.missing !== b.missing ? a.missing < b.missing : a.conductors < b.conductors;

/**
 * Tries to give every run that closes a loop a complete set of its own at its far end, so that its currents cancel within
 * it: some of the devices and onward runs of that box go over to it. Taken when fewer conductors are missing then; else the
 * run stays a loop.
 */
export function withBranches(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  plain: CircuitTree,
): TreeNeeds {
  let best = needsOn(reader, group, plain);
  for (const run of plain.loops) {
    if (best.missing === 0) continue;
    let chosen: TreeNeeds | undefined;
    for (const tree of branchings(reader, best, run, run.to.boxId)) {
      const tried = needsOn(reader, group, tree);
      if (tried.missing < best.missing && (!chosen || isBetter(tried, chosen))) chosen = tried;
    }
    if (chosen) best = chosen;
  }
  return best;
}

function branchings(reader: HouseReader, needs: TreeNeeds, run: Run, toBox: string): CircuitTree[] {
  const { tree } = needs;
  return (
    [
      [run.from.boxId, toBox],
      [toBox, run.from.boxId],
    ] as const
  ).flatMap(([from, to]) => {
    // Power comes from the end that is not itself fed through the other.
    if (to === tree.panelId || !tree.boxOf.has(to) || wayUp(tree, from).includes(to)) return [];
    return subsets(piecesAt(reader, needs, to)).map((pieces) =>
      withBranch(
        tree,
        run,
        from,
        to,
        pieces.flatMap(({ devices }) => devices),
        pieces.flatMap(({ onward }) => onward),
      ),
    );
  });
}

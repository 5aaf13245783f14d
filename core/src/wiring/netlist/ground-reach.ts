import type { HouseReader } from '../../derive/reader.js';
import { shapeOfBox } from '../../facts/box-facts.js';
import type { BoxJoint } from '../joints/box-joint.js';
import type { Netlist } from './netlist.js';
import { BOX_GROUND, terminalKey } from '../../vocabulary/terminal.js';
import { isGroundBar } from '../circuit/panel-terminals.js';
import type { PairMap } from '../../structures/pair-map.js';
import type { Union } from '../../structures/union.js';
import type { CircuitWiring } from '../conductors/circuit-wiring.js';

/**
 * Whether the ground of each thing reaches the panel: through bare conductors, and through metal raceway between metal boxes
 * (a plastic box does not join the raceways that enter it, NEC 314.3, from memory).
 */
export function groundReach(
  reader: HouseReader,
  list: readonly { readonly boxId: string; readonly joint: BoxJoint }[],
  terminals: PairMap<number>,
  ground: Union,
  wirings: readonly CircuitWiring[],
  things: readonly { boxId: string; deviceId?: string; joint: number | undefined }[],
): Netlist['grounded'] {
  const bar = ground.make();
  const homes = new Set(wirings.map(({ tree }) => tree.panelId));
  // What a feeder brings has to reach the panel that the feeder comes from.
  const fed = new Set(
    wirings.flatMap(({ tree }) => [...tree.boxOf.values()].filter((id) => id !== tree.panelId)),
  );
  list.forEach(({ boxId, joint }, index) => {
    if (!homes.has(boxId) || fed.has(boxId)) return;
    if (joint.landings.some(isGroundBar)) ground.join(index, bar);
  });
  const metal = new Map<string, number>();
  const boxNode = (boxId: string): number => {
    const { kind, material } = shapeOfBox(reader, boxId);
    if (material !== 'metal') return ground.make();
    let node = metal.get(boxId);
    if (node === undefined) {
      metal.set(boxId, (node = ground.make()));
      const screw = terminals.get(boxId, terminalKey(BOX_GROUND));
      if (screw !== undefined) ground.join(node, screw);
      if (kind === 'panel' && homes.has(boxId)) ground.join(node, bar);
    }
    return node;
  };
  for (const { tree } of wirings) {
    for (const { run } of tree.feed.values())
      if (run.kind === 'raceway') ground.join(boxNode(run.from.boxId), boxNode(run.to.boxId));
  }
  return things.map(({ boxId, deviceId, joint }) => {
    const byBox = deviceId === undefined && metal.has(boxId) ? ground.find(metal.get(boxId)!) : undefined;
    const reached = joint !== undefined && ground.find(joint) === ground.find(bar);
    const ok = reached || byBox === ground.find(bar);
    return deviceId === undefined ? { boxId, ok } : { boxId, deviceId, ok };
  });
}

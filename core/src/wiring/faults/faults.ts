import type { HouseReader } from '../../derive/reader.js';
import { shapeOfBox } from '../../facts/box-facts.js';
import type { JointsByBox } from '../netlist/netlist.js';
import { faultsAcross, faultsOfDevice, faultsOfPanel } from './device-faults.js';
import type { Edit } from './edits.js';
import { without } from './edits.js';
import type { Fault } from './fault-kinds.js';
import { boxUnbonded, faultsOfJoints, unmarked } from './joint-faults.js';

/** Every fault and every harmless change that can be put into these joints. */
export function faultsIn(reader: HouseReader, all: JointsByBox): Fault[] {
  const faults: Fault[] = [];
  for (const [boxId, joints] of all) {
    const isPanel = shapeOfBox(reader, boxId).kind === 'panel';
    const add = (kind: Fault['kind'], edit: Edit, harmless = false): void => {
      faults.push({
        kind,
        boxId,
        harmless,
        into: (before) => new Map(before).set(boxId, without(edit(before.get(boxId)!))),
      });
    };
    if (isPanel) {
      faultsOfPanel(joints, add);
      continue;
    }
    const devices = new Set(joints.flatMap((joint) => joint.landings.flatMap((to) => to.deviceId ?? [])));
    for (const deviceId of devices) faultsOfDevice(reader, deviceId, joints, add);
    faultsOfJoints(reader, joints, add);
    faultsAcross(joints, add);
    unmarked(joints, add);
    boxUnbonded(joints, add);
  }
  return faults;
}

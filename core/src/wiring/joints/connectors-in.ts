import type { HouseReader } from '../../derive/reader.js';
import { boxJoints } from './box-joints.js';
import { heldInTerminal, isLead, isSpliced, tailsOf } from './splice-tails.js';

/** How many insulated connectors there are in a box: on splices, between a wire and a lead of a device, over the end of a spare. */
export const connectorsIn = (reader: HouseReader, boxId: string): number =>
  boxJoints(reader, boxId).joints.filter((joint) => {
    switch (joint.kind) {
      case 'cap':
        // A bare ground needs no cap.
        return joint.role !== 'ground';
      case 'land':
        return joint.landings.some((to) => isLead(reader, to));
      case 'splice':
        return (
          // Wires from screw to screw alone need none.
          isSpliced(joint) &&
          !heldInTerminal(reader, joint) &&
          joint.ends.length > 0 &&
          joint.ends.length + tailsOf(reader, joint).filter(({ inSplice }) => inSplice).length > 1
        );
      default:
        return false;
    }
  }).length;

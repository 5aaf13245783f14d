import type { Derivation } from '../../derive/reader.js';
import { areaFt2, sizeOfRoom } from '../../furnish/room-size.js';
import { roomLayout } from '../../plan/room-layout.js';
import type { Finding } from '../../findings/finding.js';
import { lightFindings, outletFindings, isLargeFoyer } from './outlet-findings.js';
import { panelFindings, placeFindings } from './place-findings.js';
import { ownCircuitFindings } from './own-circuit-findings.js';
import { heightFindings, spacingFindings } from './spacing-findings.js';
import { switchOrderFindings } from './switch-order.js';

/** A box that says that a room is being laid out, and is not only on the list. */
const SAYS_NOTHING: ReadonlySet<string> = new Set(['panel', 'low-voltage']);

/**
 * What a room lacks, and what stands in the wrong place of it, by room id. What a room is asked for is asked of rooms of which
 * somebody has said how large they are, and in which boxes have been set: one that is only on the list is not laid out yet.
 */
export const LAYOUT_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'layout findings',
  compute: (reader, roomId) => {
    const layout = roomLayout(reader, roomId);
    if (!layout) return [];
    const size = sizeOfRoom(reader, layout.room);
    const isLaidOut = !size.isAssumed && layout.boxes.some(({ facts }) => !SAYS_NOTHING.has(facts.kind));
    return [
      ...panelFindings(reader, layout),
      ...placeFindings(reader, layout),
      ...heightFindings(reader, layout),
      ...switchOrderFindings(reader, layout),
      ...(isLaidOut
        ? [
            ...spacingFindings(reader, layout, isLargeFoyer(reader, areaFt2(size))),
            ...outletFindings(reader, layout, size),
            ...lightFindings(reader, layout),
            ...ownCircuitFindings(reader, layout),
          ]
        : []),
    ];
  },
};

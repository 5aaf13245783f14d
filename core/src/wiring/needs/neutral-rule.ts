import type { HouseReader } from '../../derive/reader.js';
import { BOX_EXCUSED, roomOf } from '../../facts/box-facts.js';
import type { Control } from '../../house/model.js';
import type { ReachedPoint } from '../circuit/controls.js';

/** Places of a control at which the rule asks for a neutral. */
export interface NeutralDuty {
  readonly controlId: string;
  readonly places: readonly ReachedPoint[];
  /** All places of the control, those that are excused or outside of the rooms of the rule too. */
  readonly all: readonly ReachedPoint[];
  /** The whole area is seen from the places: a neutral at one of them is enough. */
  readonly one: boolean;
}

/**
 * Whether the switches of a control are asked to have a neutral, and where. Undefined when not: no light among the loads,
 * no room of the list, every box excused by a reason that the lead picked or by a raceway.
 */
export function neutralDuty(
  reader: HouseReader,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
): NeutralDuty | undefined {
  if (!reader.rules().flag('neutral.atSwitch')) return undefined;
  const lights = control.loads.some((id) => where.get(id)!.point.role === 'lamp');
  if (!lights) return undefined;
  const all = control.places.map((id) => where.get(id)!);
  const places = all.filter(({ boxId }) => {
    if (reader.part(BOX_EXCUSED, boxId)!.neutralException) return false;
    if (reader.mentioning('runs', boxId).some((run) => run.kind === 'raceway')) return false;
    const room = roomOf(reader, boxId);
    return room !== undefined && reader.rules().jurisdiction.neutralRooms.includes(room.kind);
  });
  if (places.length === 0) return undefined;
  const rooms = new Set(
    [...control.places, ...control.loads].map((id) => roomOf(reader, where.get(id)!.boxId)?.id),
  );
  const seen = control.wholeAreaSeen ?? rooms.size === 1;
  // With a place excused, the others still have to have theirs, unless one of all is enough.
  return { controlId: control.id, places, all, one: seen };
}

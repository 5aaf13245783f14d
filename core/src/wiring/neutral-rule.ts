import type { HouseReader } from '../derive/reader.js';
import type { Control, RoomKind } from '../house/model.js';
import type { ReachedPoint } from './controls.js';

/**
 * Rooms in which a grounded conductor is asked for at the switches of their lights: bathrooms, hallways, stairways and
 * habitable rooms (NEC 404.2(C), from memory; which rooms are habitable is the local code's to say).
 */
export const NEUTRAL_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'bath',
  'water-closet',
  'hall',
  'stairs',
  'office',
];

/** Reasons for which a switch box may go without a neutral (NEC 404.2(C) exceptions, from memory); a lead picks one. */
export const NEUTRAL_EXCEPTIONS: readonly string[] = [
  'Raceway to the box is large enough to add a neutral',
  'Box can be reached without taking finish off',
  'Snap switch with integral enclosure',
  'Lighting is controlled automatically',
  'Switch controls a receptacle',
];

/** Places of a control at which the rule asks for a neutral. */
export interface NeutralDuty {
  readonly controlId: string;
  readonly places: readonly ReachedPoint[];
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
  const roomOf = (boxId: string) => reader.get('rooms', reader.get('boxes', boxId)!.roomId)!;
  const places = control.places
    .map((id) => where.get(id)!)
    .filter(({ boxId }) => {
      if (reader.get('boxes', boxId)!.neutralException) return false;
      if (reader.mentioning('runs', boxId).some((run) => run.kind === 'raceway')) return false;
      return NEUTRAL_ROOMS.includes(roomOf(boxId).kind);
    });
  if (places.length === 0) return undefined;
  const rooms = new Set([...control.places, ...control.loads].map((id) => roomOf(where.get(id)!.boxId).id));
  const seen = control.wholeAreaSeen ?? rooms.size === 1;
  // With a place excused, the others still have to have theirs, unless one of all is enough.
  return { controlId: control.id, places, one: seen };
}

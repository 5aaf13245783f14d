import type { HouseReader } from '../derive/reader.js';

/** A cable as far as it bears on where it enters. */
export interface SlotCable {
  readonly runId: string;
  readonly role: 'power' | 'leg' | 'travelers' | 'other';
  /** It brings the power. */
  readonly isFeed: boolean;
  /** Where it has been entered. */
  readonly slot: number | undefined;
  /** First gang that it serves, where it is a leg or travelers. */
  readonly gang: number | undefined;
}

interface Entries {
  readonly slots: number;
  /** Slots that legs have by their gang. */
  readonly reserved: ReadonlySet<number>;
}

const range = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from + 1) }, (_, at) => from + at);

/**
 * The slots that a school wants for a cable, the best first. *Slot order*: slot 1 is for power; the leg of the k-th switch goes
 * to slot k + 1; power on shares slot 1 only where no slot is left at the far end. *Label*: any, one after another, because the
 * label says what it is. *Bottom in, top out*: the upper half of the numbers is the bottom of the box.
 */
const SCHOOLS: Readonly<Record<string, (cable: SlotCable, entries: Entries) => readonly number[]>> = {
  'slot-order': ({ role, isFeed, gang }, { slots, reserved }) => {
    if (gang !== undefined) return [Math.min(gang + 1, slots)];
    if (role !== 'power') return [];
    const free = range(2, slots)
      .filter((slot) => !reserved.has(slot))
      .reverse();
    return isFeed ? [1] : [...free, 1];
  },
  label: (_cable, { slots }) => range(1, slots),
  'bottom-in': ({ isFeed }, { slots }) => {
    const half = Math.ceil(slots / 2);
    return isFeed ? range(half + 1, slots) : range(1, half);
  },
};

/** Cables that one slot takes by the rules of the house. */
const slotLimit = (reader: HouseReader): number =>
  reader.rules().flag('slot.onePerClamp') ? 1 : reader.rules().number('slot.cables');

/** Order in which cables are given a slot: what is fixed by its meaning first. */
const rank = ({ slot, isFeed, gang, role }: SlotCable): number =>
  slot !== undefined ? 0 : isFeed ? 1 : gang !== undefined ? 2 : role === 'power' ? 3 : 4;

/**
 * The slot for every cable of a box by the school of the house, by run id. Never more in a slot than the house allows; a cable
 * for which no slot is left has none.
 */
export function suggestSlots(
  reader: HouseReader,
  cables: readonly SlotCable[],
  slots: number,
): ReadonlyMap<string, number> {
  const wanted = SCHOOLS[reader.rules().text('slot.order')]!;
  const limit = slotLimit(reader);
  const reserved = new Set(
    cables.flatMap(({ gang }) => (gang === undefined ? [] : [Math.min(gang + 1, slots)])),
  );
  const taken = new Map<number, number>();
  const suggested = new Map<string, number>();
  const put = (runId: string, slot: number): void => {
    taken.set(slot, (taken.get(slot) ?? 0) + 1);
    suggested.set(runId, slot);
  };
  for (const cable of [...cables].sort((a, b) => rank(a) - rank(b))) {
    if (cable.slot !== undefined) {
      put(cable.runId, cable.slot);
      continue;
    }
    const first = wanted(cable, { slots, reserved });
    const all = [...first, ...range(1, slots)];
    const room = (most: number): number | undefined => all.find((slot) => (taken.get(slot) ?? 0) < most);
    // The leg of a switch keeps to its slot as long as that takes one more; everything else looks for an empty one first.
    const own =
      cable.gang !== undefined && first.length === 1
        ? first.find((slot) => (taken.get(slot) ?? 0) < limit)
        : undefined;
    const slot = own ?? room(1) ?? room(limit);
    if (slot !== undefined) put(cable.runId, slot);
  }
  return suggested;
}

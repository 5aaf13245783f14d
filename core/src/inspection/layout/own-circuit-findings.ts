import type { HouseReader } from '../../derive/reader.js';
import { circuitOfPoint } from '../../facts/box-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import { hasReceptacle, isGeneral } from '../../facts/outlets.js';
import type { Finding } from '../../findings/finding.js';
import type { LaidBox, RoomLayout } from '../../plan/room-layout.js';
import type { RoomKind } from '../../vocabulary/kinds.js';
import { COUNTER_FROM_IN, pointsOn } from './protection-findings.js';
import { ownCircuits } from './rewiring.js';

/** Whether a circuit is large enough; split receptacles on two of 15 A with a shared neutral serve a counter as well, where that is done. */
function isEnough(reader: HouseReader, circuitId: string, amps: number): boolean {
  const supply = supplyOf(reader, circuitId);
  const isSplit =
    supply?.neutralGroup !== undefined &&
    reader.rules().has('layout.splitCounter') &&
    reader.rules().flag('layout.splitCounter');
  return supply !== undefined && (supply.breakerAmps >= amps || isSplit);
}

/** Circuits that serve the receptacles of such rooms and nothing else. */
function serves(reader: HouseReader, circuitId: string, kinds: readonly RoomKind[], amps: number): boolean {
  return (
    isEnough(reader, circuitId, amps) &&
    pointsOn(reader, circuitId).every(
      ({ point, room }) => point.role === 'receptacle' && room && kinds.includes(room.kind),
    )
  );
}

const USES = { bath: 'bath', laundry: 'laundry', garage: 'garage', kitchen: 'counter' } as const;

/** The circuits that serve the receptacles of a bath, laundry, garage or kitchen and nothing else, where the code asks for them. */
export function ownCircuitFindings(reader: HouseReader, { room, boxes }: RoomLayout): Finding[] {
  const outlets = boxes.filter((box) => hasReceptacle(box) && isGeneral(box));
  const circuits = (of: typeof outlets): string[] => [
    ...new Set(
      of.flatMap(({ points }) =>
        points.flatMap((point) => (point.role === 'receptacle' ? (circuitOfPoint(reader, point) ?? []) : [])),
      ),
    ),
  ];
  const all = circuits(outlets);
  // Nothing is known of it before its receptacles hang on anything.
  if (all.length === 0) return [];
  const plans = reader.rules().jurisdiction.circuitPlans;
  const planOf = (what: keyof typeof USES) => plans.find(({ use }) => use === USES[what]);
  const ampsOf = (what: keyof typeof USES): number => planOf(what)?.amps ?? 0;
  const finding = (
    what: keyof typeof USES,
    isRight: boolean,
    groups: () => readonly (readonly LaidBox[])[] = () => [outlets],
  ): Finding[] => {
    if (isRight || planOf(what)?.source.provenance !== 'published, from memory') return [];
    const ids = groups().map((own) => own.map(({ box }) => box.id));
    const change = ownCircuits(reader, room, USES[what], ids);
    return [
      {
        code: 'layout.own-circuit',
        severity: 'fix',
        where: { roomId: room.id, circuitId: all[0] },
        facts: { what, amps: ampsOf(what) },
        source: { section: what === 'kitchen' ? 'kitchenCircuits' : 'ownCircuits' },
        fixes: change
          ? [{ code: 'own-circuit', facts: { roomId: room.id, circuits: ids.length }, change }]
          : [],
      },
    ];
  };
  switch (room.kind) {
    case 'bath':
      return finding(
        'bath',
        all.some(
          (id) =>
            serves(reader, id, ['bath', 'water-closet'], ampsOf('bath')) ||
            (isEnough(reader, id, ampsOf('bath')) &&
              pointsOn(reader, id).every((one) => one.room?.id === room.id)),
        ),
      );
    case 'laundry':
      return finding(
        'laundry',
        all.some((id) => serves(reader, id, ['laundry'], ampsOf('laundry'))),
      );
    case 'garage':
      return finding(
        'garage',
        all.some((id) => serves(reader, id, ['garage', 'porch', 'outdoors'], ampsOf('garage'))),
      );
    case 'kitchen': {
      const counter = outlets.filter(({ middleIn }) => (middleIn ?? COUNTER_FROM_IN) >= COUNTER_FROM_IN);
      if (counter.length === 0) return [];
      const own = circuits(counter).filter((id) =>
        serves(reader, id, ['kitchen', 'dining', 'closet'], ampsOf('kitchen')),
      );
      return finding('kitchen', own.length >= 2, () => {
        const isOn = (box: LaidBox): boolean => circuits([box]).some((id) => own.includes(id));
        const others = counter.filter((box) => !isOn(box));
        // Half of what there is on each of two; or what is on no such circuit yet, or half of what is on the only one.
        const half = (all: readonly LaidBox[]): (readonly LaidBox[])[] => {
          const middle = Math.ceil(all.length / 2);
          return [all.slice(0, middle), all.slice(middle)];
        };
        if (own.length === 0) return half(counter);
        return [others.length ? others : half(counter)[1]!];
      });
    }
    default:
      return [];
  }
}

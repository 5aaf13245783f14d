import type { Rulebook } from '../../rulebook/rulebook.js';
import { setting } from '../../changes/change.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { boxesOf, circuitOfPoint, roomOf } from '../../facts/box-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import type { Box, Device, Point, Room } from '../../house/model.js';
import { nearWater } from '../../plan/near-water.js';
import { roomLayout } from '../../plan/room-layout.js';
import { isGeneral } from '../../facts/outlets.js';
import { builtInDevice } from '../../rulebook/catalogue.js';
import { needsAfci, receptacleNeedsGfci } from '../../rulebook/rooms.js';
import { protectedBy } from '../../vocabulary/signal.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import type { Finding } from '../../findings/finding.js';

/** A point of a circuit, and where it is. */
export interface PointOn {
  readonly point: Point;
  readonly device: Device;
  readonly box: Box;
  readonly room: Pick<Room, 'id' | 'kind'> | undefined;
}

/** Lower than this a receptacle of a kitchen serves no counter: inches, common practice. */
export const COUNTER_FROM_IN = 36;

/** Points of a circuit that any of its runs comes to, by circuit id. */
const POINTS_ON: Derivation<readonly PointOn[]> = {
  name: 'points on circuit',
  compute: (reader, circuitId) => {
    const panelId = supplyOf(reader, circuitId)?.panelId;
    const boxIds = new Set(
      reader
        .mentioning('runs', circuitId)
        .filter((run) => run.kind !== 'low-voltage' && run.circuitIds.includes(circuitId))
        .flatMap(boxesOf),
    );
    return [...boxIds].flatMap((boxId): PointOn[] => {
      const box = reader.get('boxes', boxId);
      if (!box || boxId === panelId) return [];
      return reader.mentioning('devices', boxId).flatMap((device) =>
        reader
          .mentioning('points', device.id)
          .filter((point) => circuitOfPoint(reader, point) === circuitId)
          .map((point) => ({ point, device, box, room: roomOf(reader, boxId) })),
      );
    });
  },
};

export const pointsOn = (reader: HouseReader, circuitId: string): readonly PointOn[] =>
  reader.derive(POINTS_ON, circuitId);

const isReceptacle = ({ catalogueId }: Device): boolean => catalogueId.startsWith('receptacle');

/** Some codes ask arc-fault protection of receptacles alone, not of lights (CEC 26-658, from memory). */
const asksOnlyReceptacles = (rules: Rulebook): boolean =>
  rules.has('afci.receptaclesOnly') && rules.flag('afci.receptaclesOnly');

/** A receptacle for whatever is plugged in, at the height of a counter or at one that nobody has said. */
const atCounter = ({ device, box }: PointOn): boolean =>
  isGeneral({ devices: [device] }) && (box.heightIn ?? COUNTER_FROM_IN) >= COUNTER_FROM_IN;

/** Whether its box stands near water, where that decides. */
function atWater(reader: HouseReader, { box, room }: PointOn): boolean | undefined {
  const layout = room && roomLayout(reader, room.id);
  const place = layout?.boxes.find((laid) => laid.box.id === box.id)?.place;
  return layout && nearWater(reader, layout, place);
}

/**
 * Arc-fault protection of circuits that come to rooms of the list, ground-fault protection of receptacles in rooms of the other,
 * by the breaker or by a device before them. By circuit.
 */
export function protectionFindings(reader: HouseReader, circuitId: string): Finding[] {
  const supply = supplyOf(reader, circuitId);
  if (!supply) return [];
  const rules = reader.rules();
  const { lineVolts } = rules.jurisdiction;
  const volts = supply.poles * lineVolts;
  const points = pointsOn(reader, circuitId);
  const [hasArc, hasGround] = [
    ['afci', 'dual'],
    ['gfci', 'dual'],
  ].map((kinds) => kinds.includes(supply.protection));
  const arc = hasArc
    ? []
    : points.filter(
        ({ room, device }) =>
          room &&
          needsAfci(rules, room.kind, volts, supply.breakerAmps) &&
          (isReceptacle(device) || !asksOnlyReceptacles(rules)),
      );
  const guarded = new Set(
    [...wireCircuit(reader, circuitId).terminals.values()]
      .flat()
      .flatMap(({ deviceId, signal }) => (protectedBy(signal) ? [deviceId] : [])),
  );
  const ground = hasGround
    ? []
    : points.filter(
        (one) =>
          one.room &&
          isReceptacle(one.device) &&
          !guarded.has(one.device.id) &&
          !builtInDevice(one.device.catalogueId)?.feedThrough &&
          receptacleNeedsGfci(rules, one.room.kind, volts, atCounter(one), atWater(reader, one)),
      );
  if (arc.length + ground.length === 0) return [];
  const groundRule = ground.some((one) => atWater(reader, one)) ? 'gfci.fromWater' : 'gfci.rooms';
  const needsArc = arc.length > 0 || (hasArc ?? false);
  const needsGround = ground.length > 0 || (hasGround ?? false);
  const protection = needsArc && needsGround ? 'dual' : needsArc ? 'afci' : 'gfci';
  const lacks = arc.length && ground.length ? 'dual' : arc.length ? 'afci' : 'gfci';
  return [
    {
      code: 'layout.protection',
      severity: 'fix',
      where: { circuitId, boxId: (ground[0] ?? arc[0])!.box.id },
      facts: {
        needs: lacks,
        roomIds: [...new Set([...ground, ...arc].map(({ room }) => room!.id))],
      },
      source: { rule: ground.length ? groundRule : 'afci.rooms' },
      fixes: [
        {
          code: 'protect',
          facts: { circuitId, protection },
          change: setting('circuits', circuitId, { protection }),
        },
      ],
    },
  ];
}

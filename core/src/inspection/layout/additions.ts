import { v5 } from 'uuid';
import type { ChangeBody, SingleChangeBody } from '../../changes/change.js';
import { adding, setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, circuitOfPoint } from '../../facts/box-facts.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import { conductorIn3 } from '../../fill/core-volume.js';
import { fillBox } from '../../fill/fill-box.js';
import { modelsFor } from '../../furnish/box-models.js';
import type { BoxShape } from '../../furnish/planned.js';
import { standing } from '../../furnish/seats.js';
import type { Box, Circuit, Room, Run } from '../../house/model.js';
import { modelFields } from '../../house/model.js';
import { freePlace } from '../../plan/free-place.js';
import { middleOf, roomLayout } from '../../plan/room-layout.js';
import { builtInDevice } from '../../rulebook/catalogue.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor, cableOf } from '../../rulebook/cables.js';
import { couldBeNearWater } from '../../plan/near-water.js';
import { needsAfci, receptacleNeedsGfci } from '../../rulebook/rooms.js';
import type { HeightReference, RoomKind } from '../../vocabulary/kinds.js';
import { gaugeOfCircuit, usualCable } from '../../wiring/circuit/gauge.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';

import { pointsOn } from './protection-findings.js';

/** Rooms of which the circuits of the receptacles serve their own kind and no lights: one row, one kind of circuit. */
const APART: readonly (readonly RoomKind[])[] = [
  ['kitchen', 'dining'],
  ['garage', 'porch', 'outdoors'],
];
/** Rooms whose receptacles are on a circuit of their own; a bath alone has its light on it too. */
const BY_ITSELF: readonly RoomKind[] = ['bath', 'water-closet', 'laundry'];

/** Whether a receptacle of one room may feed a new receptacle of another, or its light. */
function mayFeed(from: Room, to: Room, isForLight: boolean): boolean {
  const isAlone = BY_ITSELF.includes(from.kind);
  if (isAlone) return from.id === to.id && !(isForLight && from.kind === 'laundry');
  const apart = APART.find((kinds) => kinds.includes(from.kind));
  if (isForLight) return !apart;
  return !BY_ITSELF.includes(to.kind) && apart === APART.find((kinds) => kinds.includes(to.kind));
}

/** A box from which power goes on: always hot, with room for one cable more, and its circuit. */
interface FeedPoint {
  readonly boxId: string;
  readonly circuitId: string;
  readonly cable: CableId;
  /** The box it has to be changed to, so that it holds one cable more. */
  readonly larger?: string;
}

/** Allowances of a cable in a box: its conductors, and a ground that may be one beyond those counted together. */
const neededIn3 = (reader: HouseReader, cable: CableId, conductors: number): number =>
  (conductors + 0.25) * conductorIn3(reader.rules(), cableOf(cable).gauge);

export const holds = (reader: HouseReader, boxId: string, cable: CableId, conductors: number): boolean =>
  (fillBox(reader, boxId)?.leftIn3 ?? -1) >= neededIn3(reader, cable, conductors) - 1e-9;

/** The smallest box of the same material, kind and gangs that holds so many cubic inches; undefined where none does. */
export function smallestLike(reader: HouseReader, boxId: string, leastIn3: number): string | undefined {
  const { material, kind, gangs } = boxFacts(reader, reader.get('boxes', boxId)!);
  return reader
    .rules()
    .jurisdiction.boxes.filter(
      (type) => type.material === material && type.kind === kind && type.gangs === gangs,
    )
    .toSorted((one, other) => (one.volumeIn3 ?? 0) - (other.volumeIn3 ?? 0))
    .find(({ volumeIn3 }) => volumeIn3 !== undefined && volumeIn3 >= leastIn3 - 1e-9)?.id;
}

/** Nothing of it is made up, and nothing is recorded of it. */
export const isUntouched = (reader: HouseReader, boxId: string): boolean =>
  !reader.get('boxes', boxId)!.asBuilt?.length && reader.mentioning('records', boxId).length === 0;

/** The smallest box of its kind that holds one cable more; undefined once it has been made up. */
export function largerFor(reader: HouseReader, boxId: string, cable: CableId): string | undefined {
  const fill = fillBox(reader, boxId);
  return fill && isUntouched(reader, boxId)
    ? smallestLike(reader, boxId, fill.totalIn3 + neededIn3(reader, cable, 2))
    : undefined;
}

/** Whether a breaker protects what a room asks to be protected: another circuit would only move the question. */
function isGuarded(
  reader: HouseReader,
  supply: CircuitSupply,
  { id, kind }: Room,
  isForLight: boolean,
): boolean {
  const rules = reader.rules();
  const { protection, breakerAmps } = supply;
  const { lineVolts } = rules.jurisdiction;
  const hasArc = protection === 'afci' || protection === 'dual';
  const hasGround = protection === 'gfci' || protection === 'dual';
  return (
    (hasArc || !needsAfci(rules, kind, lineVolts, breakerAmps)) &&
    (isForLight ||
      hasGround ||
      !receptacleNeedsGfci(rules, kind, lineVolts, true, couldBeNearWater(reader, id)))
  );
}

/**
 * Where a new receptacle or light of a room gets its power: the receptacle nearest in walking order whose circuit may serve it
 * and whose box holds one cable more.
 */
function feedFor(reader: HouseReader, room: Room, isForLight: boolean): FeedPoint | undefined {
  const boxes = reader
    .mentioning('rooms', room.storeyId)
    .filter((from) => mayFeed(from, room, isForLight))
    .toSorted((a, b) => Math.abs(a.order - room.order) - Math.abs(b.order - room.order))
    .flatMap(({ id }) => reader.mentioning('boxes', id));
  // The first whose box would hold it if it were larger, where none has room.
  let next: FeedPoint | undefined;
  for (const { id: boxId } of boxes) {
    const devices = reader.mentioning('devices', boxId);
    if (!devices.some(({ catalogueId }) => /^receptacle(-gfci)?$/.test(catalogueId))) continue;
    const points = devices.flatMap(({ id }) => reader.mentioning('points', id));
    if (points.some(({ id }) => reader.mentioning('controls', id).length > 0)) continue;
    const [circuitId, more] = new Set(points.map((point) => circuitOfPoint(reader, point)));
    const supply = circuitId === undefined ? undefined : supplyOf(reader, circuitId);
    if (!supply || more !== undefined || supply.poles !== 1 || supply.neutralGroup) continue;
    const { tree } = wireCircuit(reader, supply.id);
    const isReached = tree.nodes.some((node) => tree.boxOf.get(node) === boxId);
    const cable = usualCable(reader, supply);
    if (!isGuarded(reader, supply, room, isForLight)) continue;
    // The receptacles of a bath take its light along only where they serve this one bath.
    const isBath = BY_ITSELF.includes(reader.get('rooms', reader.get('boxes', boxId)!.roomId!)!.kind);
    if (isForLight && isBath && !pointsOn(reader, supply.id).every((one) => one.room?.id === room.id))
      continue;
    if (!isReached || !cable) continue;
    const feed = { boxId, circuitId: supply.id, cable };
    if (holds(reader, boxId, cable, 2)) return feed;
    if (next) continue;
    const larger = largerFor(reader, boxId, cable);
    if (larger) next = { ...feed, larger };
  }
  return next;
}

type Place = Pick<Box, 'corner' | 'alongIn' | 'xIn' | 'yIn' | 'heightIn' | 'heightReference'>;

/** Records to add to a house, with ids that follow from what they are for. */
export class Additions {
  private readonly changes: SingleChangeBody[] = [];
  private readonly tags: Set<string>;

  constructor(
    private readonly reader: HouseReader,
    private readonly room: Room,
    private readonly what: string,
  ) {
    this.tags = new Set(reader.all('boxes').map(({ tag }) => tag));
  }

  private id(part: string): string {
    for (let number = 1; ; number++) {
      const id = v5(`${this.what} ${this.room.id} ${part} ${number}`, this.reader.houseId);
      const isTaken = (['boxes', 'devices', 'points', 'runs', 'controls', 'circuits'] as const).some(
        (table) => this.reader.get(table, id),
      );
      if (!isTaken) return id;
    }
  }

  /** A box with nothing in it yet. */
  private bare(shape: BoxShape, prefix: string, place: Place): { boxId: string; tag: string } {
    const { boxes } = this.reader.rules().jurisdiction;
    // Roomy enough for a cable in and a cable on.
    const models = modelsFor(boxes, shape, 1);
    const model = models.find(({ volumeIn3 }) => (volumeIn3 ?? 0) >= 18) ?? models.at(-1)!;
    let number = 1;
    while (this.tags.has(`${prefix}${number}`)) number++;
    const tag = `${prefix}${number}`;
    this.tags.add(tag);
    const boxId = this.id(`box ${tag}`);
    this.changes.push(
      adding('boxes', { id: boxId, roomId: this.room.id, tag, catalogueId: model.id, ...place }),
    );
    return { boxId, tag };
  }

  /** A box with one device; gives their ids. */
  box(
    shape: BoxShape,
    prefix: string,
    catalogueId: string,
    place: Place,
    circuitId: string,
  ): { boxId: string; points: string[] } {
    const { boxId, tag } = this.bare(shape, prefix, place);
    const deviceId = this.id(`device ${tag}`);
    const points = (builtInDevice(catalogueId)?.points ?? []).map((role, index) => ({
      id: this.id(`point ${tag} ${index}`),
      deviceId,
      role,
      circuitId,
    }));
    this.changes.push(
      adding('devices', { id: deviceId, boxId, gang: 1, catalogueId }),
      ...points.map((point) => adding('points', point)),
    );
    return { boxId, points: points.map(({ id }) => id) };
  }

  /** A bracket for low-voltage cables, and the ends of these in it instead of in another box. */
  bracket(place: Place, from: string, runs: readonly Run[]): void {
    const { boxId } = this.bare('low-voltage', 'D', place);
    for (const run of runs) {
      const ends = (['from', 'to'] as const).filter((end) => run[end].boxId === from);
      this.changes.push(setting('runs', run.id, Object.fromEntries(ends.map((end) => [end, { boxId }]))));
    }
  }

  /** The box that feeds it, changed where it has to be. */
  widen({ boxId, larger }: Pick<FeedPoint, 'boxId' | 'larger'>): void {
    if (larger) this.changes.push(setting('boxes', boxId, modelFields({ catalogueId: larger })));
  }

  run(from: string, to: string, circuitId: string, cable: CableId): void {
    this.changes.push(
      adding('runs', {
        id: this.id(`run ${to}`),
        kind: 'cable',
        circuitIds: [circuitId],
        from: { boxId: from },
        to: { boxId: to },
        plannedCable: cable,
      }),
    );
  }

  circuit(fields: Omit<Circuit, 'id'>): string {
    const id = this.id(`circuit ${fields.number}`);
    this.changes.push(adding('circuits', { id, ...fields }));
    return id;
  }

  control(name: string, places: string[], loads: string[]): void {
    this.changes.push(adding('controls', { id: this.id('control'), name, places, loads }));
  }

  get list(): readonly SingleChangeBody[] {
    return this.changes;
  }

  get change(): ChangeBody {
    return { kind: 'group', changes: this.changes };
  }
}

export const heightOf = (
  reader: HouseReader,
  kind: 'switch' | 'receptacle',
): Pick<Box, 'heightIn' | 'heightReference'> => ({
  heightIn: reader.rules().number(`height.${kind}`),
  heightReference: reader.rules().text(`height.${kind}To`) as HeightReference,
});

/** A receptacle more in a room, fed from the one nearest; undefined where none can feed it. */
export function receptacleAddition(reader: HouseReader, room: Room, place: Place): ChangeBody | undefined {
  const feed = feedFor(reader, room, false);
  if (!feed) return undefined;
  const add = new Additions(reader, room, 'receptacle');
  const { boxId } = add.box(
    'device',
    'R',
    'receptacle',
    { ...heightOf(reader, 'receptacle'), ...place },
    feed.circuitId,
  );
  add.widen(feed);
  add.run(feed.boxId, boxId, feed.circuitId, feed.cable);
  return add.change;
}

/**
 * A light in the ceiling of a room and its switches, fed from the receptacle nearest: power, then travelers from switch to switch,
 * then the leg. Undefined where none can feed it.
 */
export function lightAddition(
  reader: HouseReader,
  room: Room,
  places: { readonly light: Place; readonly switches: readonly Place[] },
): ChangeBody | undefined {
  const feed = feedFor(reader, room, true);
  const rules = reader.rules();
  const travelers = feed && cableFor(rules, cableOf(feed.cable).gauge, 3)?.id;
  if (!feed || !travelers) return undefined;
  const add = new Additions(reader, room, 'light');
  const { circuitId, cable } = feed;
  const couldHang =
    rules.flag('fan.everyCeilingBox') &&
    rules.jurisdiction.fanRooms.includes(room.kind) &&
    !['porch', 'other'].includes(room.kind);
  const levers = places.switches.map((place) =>
    add.box('switch', 'S', 'switch', { ...heightOf(reader, 'switch'), ...place }, circuitId),
  );
  const lamp = add.box(couldHang ? 'fan' : 'ceiling', 'L', 'luminaire', places.light, circuitId);
  add.widen(feed);
  let from = feed.boxId;
  levers.forEach(({ boxId }, at) => {
    add.run(from, boxId, circuitId, at === 0 ? cable : travelers);
    from = boxId;
  });
  add.run(from, lamp.boxId, circuitId, cable);
  add.control(
    `${room.name} light`.slice(0, 200),
    levers.flatMap(({ points }) => points),
    lamp.points,
  );
  return add.change;
}

/** A switch for lights of one box that have none, by a loop of three conductors; undefined where its box holds no more. */
export function switchAddition(
  reader: HouseReader,
  room: Room,
  boxId: string,
  loads: readonly string[],
  place: Place,
): ChangeBody | undefined {
  const first = reader.get('points', loads[0] ?? '');
  const circuitId = first && circuitOfPoint(reader, first);
  const supply = circuitId ? supplyOf(reader, circuitId) : undefined;
  const gauge = supply && gaugeOfCircuit(reader, supply);
  const cable = gauge === undefined ? undefined : cableFor(reader.rules(), gauge, 3)?.id;
  if (!circuitId || !cable || !holds(reader, boxId, cable, 3)) return undefined;
  const { tree } = wireCircuit(reader, circuitId);
  if (!tree.nodes.some((node) => tree.boxOf.get(node) === boxId)) return undefined;
  const add = new Additions(reader, room, 'switch');
  const lever = add.box('switch', 'S', 'switch', { ...heightOf(reader, 'switch'), ...place }, circuitId);
  add.run(boxId, lever.boxId, circuitId, cable);
  add.control(`${room.name} light`.slice(0, 200), lever.points, [...loads]);
  return add.change;
}

/** A bracket for the low-voltage cables of a box beside it, as near as nothing is in its way, and their ends in it. */
export function bracketAddition(
  reader: HouseReader,
  room: Room,
  { id, corner, alongIn, heightIn, heightReference }: Box,
  runs: readonly Run[],
): ChangeBody {
  const add = new Additions(reader, room, `low voltage of ${id}`);
  const layout = roomLayout(reader, room.id);
  const at =
    layout && corner !== undefined && alongIn !== undefined
      ? freePlace(reader, layout, standing('low-voltage', undefined), {
          corner,
          alongIn,
          ...(heightIn !== undefined && { middleIn: middleOf(heightIn, heightReference) }),
        })
      : undefined;
  add.bracket(
    {
      ...(at && { corner: at.corner, alongIn: at.alongIn }),
      ...(heightIn !== undefined && { heightIn, heightReference }),
    },
    id,
    runs,
  );
  return add.change;
}

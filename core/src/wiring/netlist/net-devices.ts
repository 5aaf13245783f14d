import type { HouseReader } from '../../derive/reader.js';
import { circuitOfPoint, deviceType } from '../../facts/box-facts.js';
import type { Device, Point } from '../../house/model.js';
import { controlsOf } from '../circuit/controls.js';
import { sidesOf } from '../circuit/device-sides.js';
import type { NetLever, NetLoad } from './netlist.js';
import type { LeverKind, LeverPlace, OfLever } from '../circuit/device-models.js';
import { LEVER_KINDS, LEVER_MODELS, THROUGH, leverKind, loadModel } from '../circuit/device-models.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import { COMMON, HOT, INTERCONNECT, LINE, NEUTRAL, SUPPLY } from '../../vocabulary/terminal.js';
import type { CircuitWiring } from '../conductors/circuit-wiring.js';

type Contacts = readonly (readonly [number, number])[];

/** The joint at a terminal of a device; undefined where nothing lands. */
export type JointAt = (terminal: Terminal) => number | undefined;
/** A terminal of one lever of a device, by what it is. */
type JointOf = (terminal: OfLever) => number | undefined;

/** What a device is in a netlist. */
export interface NetDevice {
  /** Whether anything of it hangs on the circuits of the netlist. */
  readonly isOwn: boolean;
  readonly levers: readonly NetLever[];
  readonly loads: readonly NetLoad[];
  /** Its LINE and its LOAD side, where it is a feed-through device of which both are used. */
  readonly through: Contacts;
  /** Terminals that are one piece of metal as long as their tab is whole. */
  readonly tabs: Contacts;
  readonly alarms: readonly { readonly pointId: string; readonly joint: number | undefined }[];
}

/** What the derived wiring says of points: on which terminal a load hangs, and where a lever stands in its control. */
export interface PointFacts {
  readonly circuitIds: readonly string[];
  readonly hotTerminal: ReadonlyMap<string, Terminal>;
  readonly placeOf: ReadonlyMap<string, LeverPlace>;
}

export function pointFacts(wirings: readonly CircuitWiring[]): PointFacts {
  const hotTerminal = new Map<string, Terminal>();
  const placeOf = new Map<string, LeverPlace>();
  for (const { terminals, levers } of wirings) {
    for (const own of terminals.values())
      for (const { terminal, points } of own)
        for (const point of points ?? []) hotTerminal.set(point, terminal);
    for (const [point, place] of levers) placeOf.set(point, place);
  }
  return { circuitIds: wirings.flatMap(({ circuitIds }) => circuitIds), hotTerminal, placeOf };
}

const joined = (a: number | undefined, b: number | undefined): Contacts =>
  a === undefined || b === undefined ? [] : [[a, b]];

/** Contacts of one lever by the kind of switch that the terminals in use tell of, else by the kind that is derived. */
function leverOf(
  { id: deviceId, boxId }: Device,
  pointId: string,
  t: JointOf,
  supply: number | undefined,
  place: LeverPlace | undefined,
  isOnDown: boolean,
): NetLever {
  const isTold = (one: LeverKind): boolean =>
    LEVER_MODELS[one].toldBy.some((terminal) => t(terminal) !== undefined);
  const kind = LEVER_KINDS.find(isTold) ?? (place ? leverKind(place) : 'single-pole');
  const { down, up, turnsLast } = LEVER_MODELS[kind].contacts;
  const jointOf = (terminal: OfLever): number | undefined => (terminal === SUPPLY ? supply : t(terminal));
  const isLast = place !== undefined && !place.isConverted && place.index === place.of - 1;
  const isTurned = (turnsLast === true && isLast) !== isOnDown;
  const joints = (pairs: typeof down): Contacts =>
    pairs.flatMap(([one, other]) => joined(jointOf(one), jointOf(other)));
  return {
    pointId,
    deviceId,
    boxId,
    kind,
    down: joints(isTurned ? up : down),
    up: joints(isTurned ? down : up),
  };
}

const NOTHING: NetDevice = { isOwn: false, levers: [], loads: [], through: [], tabs: [], alarms: [] };

/** A device of a box with what lands on it. */
export function netDevice(
  reader: HouseReader,
  { circuitIds, hotTerminal, placeOf }: PointFacts,
  device: Device,
  at: JointAt,
): NetDevice {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const isOwn = (point: Point): boolean => circuitIds.includes(circuitOfPoint(reader, point) ?? '');
  // In a box of several circuits much belongs to none of this netlist.
  if (!points.some(isOwn)) return NOTHING;
  const sides = sidesOf(reader, device);
  const { id: deviceId, boxId } = device;
  const terminalsOf =
    (index: number): JointOf =>
    (terminal) =>
      at(terminal(sides.levers.length > 1 ? index + 1 : undefined));
  const supplyOf = (index: number): number | undefined => at(SUPPLY(index + 1)) ?? at(SUPPLY());
  const levers = sides.levers.flatMap((point, index) =>
    isOwn(point)
      ? [
          leverOf(
            device,
            point.id,
            terminalsOf(index),
            supplyOf(index),
            placeOf.get(point.id),
            reader.rules().jurisdiction.leverOn === 'down',
          ),
        ]
      : [],
  );
  const backOf = (point: Point): number | undefined =>
    at(NEUTRAL(sides.numberOf(point.id))) ?? at(NEUTRAL()) ?? at(LINE.neutral);
  const { lineVolts, watts: usual } = reader.rules().jurisdiction;
  const loads: NetLoad[] = [];
  const [first] = sides.levers;
  if (type.needsNeutral && first && isOwn(first)) {
    const isFed = (placeOf.get(first.id)?.index ?? 0) === 0;
    loads.push({
      pointId: first.id,
      deviceId,
      boxId,
      role: 'electronics',
      circuitId: circuitOfPoint(reader, first)!,
      hot: isFed ? (supplyOf(0) ?? terminalsOf(0)(COMMON)) : undefined,
      back: backOf(first),
      hots: 1,
      volts: lineVolts,
      ohms: lineVolts ** 2 / usual.electronics,
      controlId: undefined,
    });
  }
  const load = loadModel(type);
  sides.loads.forEach((point, index) => {
    if (point.role === 'lever' || !isOwn(point)) return;
    const volts = load.hots * lineVolts;
    const watts = point.watts || usual[point.role] * (load.hots === 2 ? 3 : 1);
    loads.push({
      pointId: point.id,
      deviceId,
      boxId,
      role: point.role,
      circuitId: circuitOfPoint(reader, point)!,
      hot: at(hotTerminal.get(point.id) ?? HOT()) ?? at(HOT(index + 1)) ?? at(HOT()) ?? at(LINE.hot),
      back: load.back ? at(load.back) : backOf(point),
      hots: load.hots,
      volts,
      ohms: (volts * volts) / watts,
      controlId: controlsOf(reader, point.id).find((control) => control.loads.includes(point.id))?.id,
    });
  });
  const whole = (isApart: boolean, terminal: (number?: number) => Terminal): Contacts => {
    if (isApart) return [];
    const there: number[] = [];
    for (let number = 0; number <= points.length; number++) {
      const joint = at(terminal(number));
      if (joint !== undefined) there.push(joint);
    }
    return there.slice(1).map((joint) => [there[0]!, joint] as const);
  };
  const hotsApart = sides.loads.some(({ id }) => {
    const terminal = hotTerminal.get(id);
    return terminal?.kind === 'hot' && terminal.part !== undefined;
  });
  return {
    isOwn: true,
    levers,
    loads,
    through: type.feedThrough ? THROUGH.flatMap(([line, onward]) => joined(at(line), at(onward))) : [],
    tabs:
      points.length < 2
        ? []
        : [
            ...whole(sides.suppliesApart, SUPPLY),
            ...whole(sides.hotsApart || hotsApart, HOT),
            ...whole(sides.neutralsApart, NEUTRAL),
          ],
    alarms: points.flatMap((point) =>
      point.role === 'alarm' && isOwn(point) ? [{ pointId: point.id, joint: at(INTERCONNECT) }] : [],
    ),
  };
}

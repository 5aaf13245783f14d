import type { Derivation, HouseReader } from '../derive/reader.js';
import type { Conductor } from '../house/box-facts.js';
import {
  boxFacts,
  circuitsAt,
  conductorsOf,
  deviceType,
  devicesIn,
  endAt,
  runsAt,
} from '../house/box-facts.js';
import type { Awg } from '../house/text.js';
import type { Carried, Terminal } from './signal.js';
import { controlOfLeg } from './signal.js';
import { gaugeFor, wireCircuit } from './wire-circuit.js';

/** The end of a cable's conductor in a box. */
export interface CableEnd extends Conductor {
  readonly slot?: number;
}

/** A short wire from a splice to a terminal; `deviceId` undefined means the box itself. */
export interface Landing {
  readonly deviceId?: string;
  readonly terminal: string;
}

export interface BoxJoint {
  readonly kind: 'splice' | 'land' | 'cap' | 'undecided';
  readonly role: 'ground' | 'neutral' | 'hot' | 'interconnect' | 'leg' | 'spare' | 'undecided';
  readonly circuitId?: string;
  readonly controlId?: string;
  readonly ends: readonly CableEnd[];
  /** For 'land' the one terminal; for 'splice' one pigtail each. */
  readonly landings: readonly Landing[];
  /** The thickest conductor in it; a pigtail is cut from that gauge. */
  readonly awg: Awg;
  /** More may belong to this joint: something in this box cannot be derived yet. */
  readonly open: boolean;
}

export interface BoxJoints {
  readonly joints: readonly BoxJoint[];
  /** Terminals that no conductor reaches. */
  readonly unfed: readonly Landing[];
  /** Devices not all of whose conductors are known. */
  readonly openDevices: ReadonlySet<string>;
}

/** The thickest of these gauges; undefined for none. */
export const thickest = (gauges: readonly Awg[]): Awg | undefined =>
  gauges.length ? gauges.reduce((a, b) => (b < a ? b : a)) : undefined;

function join(
  role: BoxJoint['role'],
  ends: readonly CableEnd[],
  landings: readonly Landing[],
  open: boolean,
  of: { readonly circuitId?: string; readonly controlId?: string; readonly linkAwg?: Awg } = {},
): BoxJoint {
  const { linkAwg, ...belongs } = of;
  const kind =
    ends.length === 1 && landings.length === 1
      ? 'land'
      : ends.length + landings.length === 1
        ? 'cap'
        : 'splice';
  return {
    kind,
    role,
    ends,
    landings,
    awg: thickest(ends.map((end) => end.awg)) ?? linkAwg ?? 14,
    open,
    ...belongs,
  };
}

const roleOf = (carried: Carried): BoxJoint['role'] =>
  controlOfLeg(carried) ? 'leg' : (carried as BoxJoint['role']);

function compute(reader: HouseReader, boxId: string): BoxJoints {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  const runs = runsAt(reader, boxId).filter((run) => run.kind !== 'low-voltage');
  const wirings = new Map(circuitsAt(reader, boxId).map((id) => [id, wireCircuit(reader, id)]));
  const grounds: CableEnd[] = [];
  const groups = new Map<
    string,
    { circuitId?: string; carried: Carried; ends: CableEnd[]; terminals: Terminal[] }
  >();
  const group = (circuitId: string | undefined, carried: Carried) => {
    const key = `${circuitId} ${carried}`;
    let found = groups.get(key);
    if (!found)
      groups.set(key, (found = { ...(circuitId && { circuitId }), carried, ends: [], terminals: [] }));
    return found;
  };
  for (const run of runs) {
    const slot = endAt(run, boxId).slot;
    const only = run.circuitIds.length === 1 ? run.circuitIds[0] : undefined;
    const carries = only ? wirings.get(only)?.runs.get(run.id)?.carries : undefined;
    for (const conductor of conductorsOf(reader, run)) {
      const end: CableEnd = { ...conductor, ...(slot !== undefined && { slot }) };
      if (conductor.ground) grounds.push(end);
      else group(only, carries?.get(conductor.key) ?? 'undecided').ends.push(end);
    }
  }
  for (const [circuitId, wiring] of wirings) {
    for (const terminal of wiring.terminals.get(boxId) ?? [])
      group(circuitId, terminal.signal).terminals.push(terminal);
  }
  const devices = devicesIn(reader, boxId);
  const isOpen = (circuitId: string | undefined): boolean => {
    const wiring = circuitId ? wirings.get(circuitId) : undefined;
    if (!wiring) return true;
    return (
      devices.some((device) => wiring.openDevices.has(device.id)) ||
      runs.some((run) => wiring.runs.get(run.id)?.open || wiring.runs.get(run.id)?.missing.length)
    );
  };

  const joints: BoxJoint[] = [];
  const unfed: Landing[] = [];
  const openDevices = new Set<string>();
  for (const device of devices) {
    if ([...wirings.values()].some((wiring) => wiring.openDevices.has(device.id))) openDevices.add(device.id);
    const own = reader.mentioning('points', device.id);
    const landed = [...groups.values()].some(({ terminals }) =>
      terminals.some((t) => t.deviceId === device.id),
    );
    if (own.length && !landed) openDevices.add(device.id);
  }

  if (facts.kind === 'panel') return panelJoints(reader, groups, grounds);

  const groundLandings: Landing[] = [
    ...(facts.material === 'metal' || facts.groundScrew ? [{ terminal: 'ground screw of the box' }] : []),
    ...devices
      .filter((device) => deviceType(reader, device).mount !== 'direct' || grounds.length > 0)
      .map((device) => ({ deviceId: device.id, terminal: 'ground' })),
  ];
  if (grounds.length) joints.push(join('ground', grounds, groundLandings, false));
  else unfed.push(...groundLandings);

  for (const { circuitId, carried, ends, terminals } of groups.values()) {
    const control = controlOfLeg(carried);
    const landings = terminals.map(({ deviceId, name }) => ({ deviceId, terminal: name }));
    if (carried === 'spare' || carried === 'undecided') {
      for (const end of ends) {
        const joint = join(carried, [end], [], carried === 'undecided', circuitId ? { circuitId } : {});
        joints.push(carried === 'undecided' ? { ...joint, kind: 'undecided' } : joint);
      }
      continue;
    }
    // A single terminal that nothing reaches is no joint; two terminals alone are joined by a link.
    if (ends.length === 0 && landings.length < 2) {
      unfed.push(...landings);
      for (const { deviceId } of landings) openDevices.add(deviceId);
      continue;
    }
    const linkAwg = circuitId ? gaugeFor(reader, reader.get('circuits', circuitId)!.breakerAmps) : undefined;
    joints.push(
      join(roleOf(carried), ends, landings, isOpen(circuitId), {
        ...(circuitId && { circuitId }),
        ...(control && { controlId: control }),
        ...(linkAwg && { linkAwg }),
      }),
    );
  }
  return { joints, unfed, openDevices };
}

function panelJoints(
  reader: HouseReader,
  groups: ReadonlyMap<string, { circuitId?: string; carried: Carried; ends: CableEnd[] }>,
  grounds: readonly CableEnd[],
): BoxJoints {
  const joints: BoxJoint[] = grounds.map((end) => join('ground', [end], [{ terminal: 'ground bar' }], false));
  for (const { circuitId, carried, ends } of groups.values()) {
    const circuit = circuitId ? reader.get('circuits', circuitId) : undefined;
    const terminal =
      carried === 'hot'
        ? `breaker ${circuit?.number ?? ''}`
        : carried === 'neutral'
          ? 'neutral bar'
          : undefined;
    for (const end of ends) {
      const joint = join(
        roleOf(carried),
        [end],
        terminal ? [{ terminal }] : [],
        carried === 'undecided',
        circuitId ? { circuitId } : {},
      );
      joints.push(carried === 'undecided' ? { ...joint, kind: 'undecided' } : joint);
    }
  }
  return { joints, unfed: [], openDevices: new Set() };
}

/** Step four of wiring, by box id: over all circuits of the box, which conductors are joined to what. */
export const BOX_JOINTS: Derivation<BoxJoints> = { name: 'box joints', compute };

export const boxJoints = (reader: HouseReader, boxId: string): BoxJoints => reader.derive(BOX_JOINTS, boxId);

/** The thickest insulated conductor on a device; undefined while that is not known. */
export function gaugeOnDevice(reader: HouseReader, boxId: string, deviceId: string): Awg | undefined {
  const { joints, openDevices } = boxJoints(reader, boxId);
  if (openDevices.has(deviceId)) return undefined;
  const gauges = joints
    .filter(
      (joint) => joint.role !== 'ground' && joint.landings.some((landing) => landing.deviceId === deviceId),
    )
    .map((joint) => joint.awg);
  return thickest(gauges);
}

import type { HouseReader } from '../../derive/reader.js';
import { runName } from '../../facts/naming.js';
import type { CableCurrents } from '../netlist/cable-currents.js';
import type { LeverPositions } from '../netlist/lever-positions.js';
import { leverPositions } from '../netlist/lever-positions.js';
import type { Netlist } from '../netlist/netlist.js';
import { Machine, stateOf } from '../netlist/operate.js';
import type { Settled } from '../netlist/operate.js';
import type { Failures, Names, ProofFailure } from './proof.js';
import { conductorAt } from './proof.js';

/** What all parts of a netlist are proven with. */
export interface PartProof {
  readonly reader: HouseReader;
  readonly names: Names;
  readonly settled: Settled;
  readonly currents: CableCurrents;
  /** Ends of cables that look like neutral, at joints that are not neutral by themselves. */
  readonly whites: readonly { readonly joint: number; readonly runId: string; readonly key: string }[];
  readonly failures: Failures;
  readonly advice: Failures;
}

const upIn = (part: Netlist, levers: Uint8Array): string[] =>
  part.levers.flatMap(({ pointId }, index) => (levers[index] ? [pointId] : []));

/** Operates a part in every position and checks what shows there, then what shows between positions. */
export function provePart(proof: PartProof, part: Netlist): LeverPositions {
  const machine = new Machine(part, proof.settled);
  const positions = leverPositions(part);
  const count = part.loads.length;
  const volts = new Float64Array(count);
  /** By position and load: whether the load gets anything. */
  const on = new Uint8Array(positions.levers.length * count);
  positions.levers.forEach((levers, position) => {
    const sound = machine.loadVolts(levers, volts);
    for (let load = 0; load < count; load++)
      if (stateOf(volts[load]!, part.loads[load]!.volts) !== 'off') on[position * count + load] = 1;
    if (sound) checkPosition(proof, part, machine, levers, volts);
    else
      for (const { joint, what } of machine.operate(levers).shorts) {
        const { boxId } = part.joints[joint]!;
        proof.failures.add({
          code: 'proof.short',
          message: `The breaker trips: ${what} (${proof.names.box(boxId)}).`,
          boxId,
          ...conductorAt(part, joint),
          up: upIn(part, levers),
        });
      }
  });
  checkFollows(proof, part, positions, on);
  return positions;
}

/** What shows in one position: loads in series, a switched or broken neutral, a white that is hot, unbalanced cables. */
function checkPosition(
  { reader, names, currents, whites, failures }: PartProof,
  part: Netlist,
  machine: Machine,
  levers: Uint8Array,
  volts: Float64Array,
): void {
  for (const { joint, runId, key } of whites) {
    if (!machine.isHot(joint)) continue;
    const { boxId } = part.joints[joint]!;
    failures.add({
      code: 'proof.white-unmarked',
      message: `A white of ${runName(reader, reader.get('runs', runId)!)} is hot in ${names.box(boxId)} and not marked: the next hand takes it for neutral.`,
      boxId,
      runId,
      conductor: { runId, key },
      up: upIn(part, levers),
    });
  }
  for (let index = 0; index < part.loads.length; index++) {
    const load = part.loads[index]!;
    const state = stateOf(volts[index]!, load.volts);
    if (state === 'dim' || state === 'over')
      failures.add({
        code: 'proof.series',
        message:
          state === 'dim'
            ? `${names.load(load)} is in series with another load: ${Math.abs(volts[index]!).toFixed(0)} V instead of ${load.volts}.`
            : `${names.load(load)} gets ${Math.abs(volts[index]!).toFixed(0)} V instead of ${load.volts}: its neutral is open or missing.`,
        pointId: load.pointId,
        boxId: load.boxId,
        ...conductorAt(part, load.hot ?? load.back),
        up: upIn(part, levers),
      });
    // A load of 240 V has no neutral to come back on.
    if (load.volts > 130 || machine.isAt(load.back, 0)) continue;
    if (failures.has('proof.neutral-broken', load.pointId)) continue;
    const switched = part.levers.some((_, at) => {
      const other = Uint8Array.from(levers);
      other[at] = levers[at] ? 0 : 1;
      machine.loadVolts(other, new Float64Array(part.loads.length));
      return machine.isAt(load.back, 0);
    });
    machine.loadVolts(levers, volts);
    failures.add({
      code: switched ? 'proof.switched-neutral' : 'proof.neutral-broken',
      message: switched
        ? `The switch of ${names.load(load)} opens its neutral: it is off but live.`
        : `No neutral comes back from ${names.load(load)}: a splice is missing.`,
      pointId: load.pointId,
      boxId: load.boxId,
      ...conductorAt(part, load.back ?? load.hot),
      up: upIn(part, levers),
    });
  }
  for (const [runId, { amps, key }] of currents.unbalanced(part, levers, volts))
    failures.add({
      code: 'proof.unbalanced',
      message: `The currents in ${runName(reader, reader.get('runs', runId)!)} do not cancel (${Math.abs(amps).toFixed(Math.abs(amps) < 0.05 ? 3 : 1)} A left over): hot and neutral go different ways.`,
      runId,
      conductor: { runId, key },
      up: upIn(part, levers),
    });
}

/** Each load changes with every lever of its control, in every position, and with no other; without a control it is on. */
function checkFollows(
  { names, failures, advice }: PartProof,
  part: Netlist,
  positions: LeverPositions,
  on: Uint8Array,
): void {
  const count = part.loads.length;
  part.loads.forEach((load, index) => {
    const isOn = (position: number): number => on[position * count + index]!;
    const of = {
      pointId: load.pointId,
      boxId: load.boxId,
      ...(load.controlId && { controlId: load.controlId }),
    };
    const found = (failure: Pick<ProofFailure, 'code' | 'message' | 'up'>): ProofFailure => ({
      ...failure,
      ...of,
      ...conductorAt(part, load.hot ?? load.back),
    });
    if (!load.controlId) {
      // What feeds electronics beyond the first place is not known.
      if (load.role === 'electronics' && load.hot === undefined) return;
      const dark = positions.levers.findIndex((_, position) => !isOn(position));
      if (dark >= 0)
        failures.add(
          found({
            code: 'proof.always-on-is-not',
            message: `${names.load(load)} should always be on; it is dead${part.levers.length ? ' in this position' : ''}.`,
            up: upIn(part, positions.levers[dark]!),
          }),
        );
      return;
    }
    const places = part.places.get(load.controlId) ?? [];
    const own = part.levers.map(({ pointId }) => places.includes(pointId));
    positions.levers.forEach((levers, position) => {
      const now = isOn(position);
      for (let at = 0; at < own.length; at++) {
        const other = positions.flipped(position, at);
        if (other === undefined || own[at] === (isOn(other) !== now)) continue;
        const { boxId, up, down } = part.levers[at]!;
        failures.add({
          ...found({
            code: 'proof.does-not-follow',
            message: own[at]
              ? `${names.load(load)} does not follow the switch in ${names.box(boxId)} in this position: ${now ? 'it stays on' : 'it stays off'}.`
              : `${names.load(load)} changes with a switch in ${names.box(boxId)} that is not to switch it.`,
            up: upIn(part, levers),
          }),
          // At the switch, where it has a wire of its own.
          ...conductorAt(part, (up[0] ?? down[0])?.[0]),
        });
      }
    });
    if (own.filter(Boolean).length < places.length)
      failures.add(
        found({
          code: 'proof.does-not-follow',
          message: `${names.load(load)} has nothing to do with a switch of ${names.control(load.controlId)}: they are not joined.`,
          up: [],
        }),
      );
    const down = positions.levers.findIndex((levers) => !levers.includes(1));
    if (down >= 0 && isOn(down))
      advice.add(
        found({
          code: 'proof.off-position',
          message: `${names.control(load.controlId)} is on with all levers down. Turn one three-way over, or swap its travelers, if the house wants down to be off.`,
          up: [],
        }),
      );
  });
}

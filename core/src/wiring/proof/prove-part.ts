import type { ProofFailureOf } from './proof.js';
import type { Marking, ProofCode } from '../../findings/facts.js';
import { loadFacts } from './proof.js';
import { NO_FACTS } from '../../findings/finding.js';
import type { CableCurrents } from '../netlist/cable-currents.js';
import type { LeverPositions } from '../netlist/lever-positions.js';
import { leverPositions } from '../netlist/lever-positions.js';
import type { Netlist } from '../netlist/netlist.js';
import { Machine, stateOf } from '../netlist/operate.js';
import type { Settled } from '../netlist/operate.js';
import type { Failures } from './proof.js';
import { conductorAt } from './proof.js';

/** What all parts of a netlist are proven with. */
export interface PartProof {
  readonly settled: Settled;
  readonly currents: CableCurrents;
  /** Ends of cables that look like neutral, at joints that are not neutral by themselves. */
  readonly whites: readonly {
    readonly joint: number;
    readonly runId: string;
    readonly key: string;
    readonly marking: Marking;
  }[];
  readonly failures: Failures;
  readonly advice: Failures;
  /** Where every lever is thrown when the load is off, by the school of the house. */
  readonly offAt: 'up' | 'down';
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
      for (const { joint, short } of machine.operate(levers).shorts) {
        const { boxId } = part.joints[joint]!;
        proof.failures.add({
          code: 'proof.short',
          facts: { short },
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
  { currents, whites, failures }: PartProof,
  part: Netlist,
  machine: Machine,
  levers: Uint8Array,
  volts: Float64Array,
): void {
  for (const { joint, runId, key, marking } of whites) {
    if (!machine.isHot(joint)) continue;
    const { boxId } = part.joints[joint]!;
    failures.add({
      code: 'proof.white-unmarked',
      facts: marking,
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
        facts: { load: loadFacts(load), state, volts: Math.abs(volts[index]!), rated: load.volts },
        pointId: load.pointId,
        boxId: load.boxId,
        ...conductorAt(part, load.hot ?? load.back),
        up: upIn(part, levers),
      });
    // A load between two hots has no neutral to come back on.
    if (load.hots === 2 || machine.isAt(load.back, 0)) continue;
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
      facts: { load: loadFacts(load) },
      pointId: load.pointId,
      boxId: load.boxId,
      ...conductorAt(part, load.back ?? load.hot),
      up: upIn(part, levers),
    });
  }
  for (const [runId, { amps, key }] of currents.unbalanced(part, levers, volts))
    failures.add({
      code: 'proof.unbalanced',
      facts: { amps: Math.abs(amps) },
      runId,
      conductor: { runId, key },
      up: upIn(part, levers),
    });
}

/** Each load changes with every lever of its control, in every position, and with no other; without a control it is on. */
function checkFollows(proof: PartProof, part: Netlist, positions: LeverPositions, on: Uint8Array): void {
  const { failures, advice } = proof;
  const count = part.loads.length;
  part.loads.forEach((load, index) => {
    const isOn = (position: number): number => on[position * count + index]!;
    const of = {
      pointId: load.pointId,
      boxId: load.boxId,
      ...(load.controlId && { controlId: load.controlId }),
    };
    const found = <C extends ProofCode>(
      failure: Pick<ProofFailureOf<C>, 'code' | 'facts' | 'up'>,
    ): ProofFailureOf<C> => ({
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
            facts: { load: loadFacts(load), inPosition: part.levers.length > 0 },
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
            facts: own[at]
              ? { how: 'stays', load: loadFacts(load), switchBoxId: boxId, isOn: now === 1 }
              : { how: 'changes', load: loadFacts(load), switchBoxId: boxId },
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
          facts: { how: 'apart', load: loadFacts(load) },
          up: [],
        }),
      );
    const off = proof.offAt === 'up' ? 0 : 1;
    const down = positions.levers.findIndex((levers) => !levers.includes(off));
    if (down >= 0 && isOn(down))
      advice.add(
        found({
          code: 'proof.off-position',
          facts: NO_FACTS,
          up: [],
        }),
      );
  });
}

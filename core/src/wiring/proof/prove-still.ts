import { supplyOf } from '../../facts/circuit-facts.js';
import type { ConductorRef, Marking } from '../../findings/facts.js';
import { NO_FACTS } from '../../findings/finding.js';
import { loadFacts } from './proof.js';
import type { HouseReader } from '../../derive/reader.js';
import type { Netlist } from '../netlist/netlist.js';
import type { Settled } from '../netlist/operate.js';
import type { Failures } from './proof.js';
import { conductorAt } from './proof.js';
import { checkRings } from './prove-ring.js';
import { hasOwnNeutral } from '../circuit/panel-terminals.js';
import type { ColourPlan } from '../../vocabulary/catalogue-types.js';
import { coloursOf } from '../circuit/marking.js';
import { Union } from '../../structures/union.js';
import { wireCircuit } from '../conductors/wire-circuit.js';
import type { TerminalKind } from '../../vocabulary/terminal.js';

const NEUTRALS: ReadonlySet<TerminalKind> = new Set(['neutral', 'neutral-bar', 'breaker-neutral']);

/** What shows without touching a lever. */
export function checkStill(
  reader: HouseReader,
  netlist: Netlist,
  settled: Settled,
  failures: Failures,
): void {
  const groupOf = new Map<string, string>();
  for (const id of netlist.circuitIds) groupOf.set(id, wireCircuit(reader, id).circuitIds[0]!);
  const tied = new Map<number, Netlist['sources'][number]>();
  for (const source of netlist.sources) {
    const { net } = netlist.joints[source.joint]!;
    const known = tied.get(net);
    if (!known) tied.set(net, source);
    else if (
      known.kind === 'neutral' &&
      source.kind === 'neutral' &&
      groupOf.get(known.circuitId) !== groupOf.get(source.circuitId)
    ) {
      const at = mixedAt(reader, netlist, net, groupOf);
      failures.add({
        code: 'proof.circuits-joined',
        facts: { what: 'neutrals', circuitIds: [known.circuitId, source.circuitId] },
        ...at,
      });
    } else if (
      known.kind === 'hot' &&
      source.kind === 'hot' &&
      known.circuitId !== source.circuitId &&
      known.volts === source.volts
    ) {
      const at = mixedAt(reader, netlist, net, groupOf);
      failures.add({
        code: 'proof.circuits-joined',
        facts: { what: 'hots', circuitIds: [known.circuitId, source.circuitId] },
        ...at,
      });
    }
  }
  // Where electronics have no hot that is known, no current tells that their neutral is another circuit's.
  for (const load of netlist.loads) {
    if (load.role !== 'electronics' || load.hot !== undefined || load.back === undefined) continue;
    const at = settled.at(load.back);
    const home = netlist.sources.filter(({ kind, joint }) => kind === 'neutral' && settled.at(joint) === at);
    if (home.length === 0 || home.some((one) => groupOf.get(one.circuitId) === groupOf.get(load.circuitId)))
      continue;
    failures.add({
      code: 'proof.circuits-joined',
      facts: { what: 'load', load: loadFacts(load), circuitIds: [home[0]!.circuitId, load.circuitId] },
      boxId: load.boxId,
      pointId: load.pointId,
      ...conductorAt(netlist, load.back),
    });
  }
  for (const { boxId, deviceId, ok } of netlist.grounded) {
    if (ok) continue;
    failures.add({
      code: 'proof.no-ground',
      facts: NO_FACTS,
      boxId,
      ...(deviceId && { deviceId }),
    });
  }
  checkRings(reader, netlist, failures);
  checkSpares(netlist, failures);
  checkBreakers(netlist, failures);
  checkNeutralHome(reader, netlist, failures);
  checkNeutralAndGround(netlist, settled, failures);
  checkLoadSides(netlist, failures);
  checkInterconnect(netlist, settled, failures);
  checkFeeders(netlist, settled, failures);
}

/** Spares may be spliced to each other; they touch nothing else. */
function checkSpares(netlist: Netlist, failures: Failures): void {
  const busy = new Set<number>();
  netlist.joints.forEach(({ joint, net }, index) => {
    if (joint.role !== 'spare' || joint.landings.length || netlist.ground.has(index)) busy.add(net);
  });
  netlist.joints.forEach(({ boxId, joint, net }, index) => {
    if (joint.role !== 'spare' || joint.ends.length + joint.landings.length < 2 || !busy.has(net)) return;
    failures.add({
      code: 'proof.spare-joined',
      facts: NO_FACTS,
      boxId,
      ...conductorAt(netlist, index),
    });
  });
}

/** What hangs together in a netlist through these contacts as well, by what a feed-through device joins for good. */
function classesWith(
  netlist: Netlist,
  contacts: readonly (readonly [number, number])[],
): (joint: number) => number {
  const union = new Union(netlist.nets);
  for (const [a, b] of contacts) union.join(netlist.joints[a]!.net, netlist.joints[b]!.net);
  return (joint) => union.find(netlist.joints[joint]!.net);
}

/** Every load hangs on the breaker of its own circuit, whatever the levers do: inside a shared-neutral group too. */
function checkBreakers(netlist: Netlist, failures: Failures): void {
  const at = classesWith(netlist, [
    ...netlist.through,
    ...netlist.levers.flatMap(({ down, up }) => [...down, ...up]),
  ]);
  const hots = netlist.sources.filter(({ kind }) => kind === 'hot');
  const breakers = new Map<number, string[]>();
  for (const { joint, circuitId } of hots) {
    const known = breakers.get(at(joint));
    if (known) known.push(circuitId);
    else breakers.set(at(joint), [circuitId]);
  }
  for (const load of netlist.loads) {
    for (const joint of load.hots === 2 ? [load.hot, load.back] : [load.hot]) {
      const foreign =
        joint === undefined ? undefined : breakers.get(at(joint))?.find((id) => id !== load.circuitId);
      if (joint === undefined || !foreign) continue;
      failures.add({
        code: 'proof.other-breaker',
        facts: { load: loadFacts(load), own: load.circuitId, other: foreign },
        boxId: load.boxId,
        pointId: load.pointId,
        ...conductorAt(netlist, joint),
      });
    }
  }
}

/** The neutral of a circuit with an AFCI, GFCI or dual-function breaker lands on that breaker; of all others on the bar. */
function checkNeutralHome(reader: HouseReader, netlist: Netlist, failures: Failures): void {
  for (const { joint, kind, circuitId, isOnBreaker } of netlist.sources) {
    if (kind !== 'neutral') continue;
    const { boxId, joint: own } = netlist.joints[joint]!;
    const meant = own.circuitId ?? circuitId;
    const group = wireCircuit(reader, meant).circuitIds.map((id) => supplyOf(reader, id)!);
    const watched = group.find(hasOwnNeutral);
    if (watched ? isOnBreaker && group.some(({ id }) => id === circuitId) : !isOnBreaker) continue;
    const end = own.ends.find((one) => !one.ground);
    failures.add({
      code: 'proof.neutral-on-bar',
      facts: watched
        ? { circuitId: watched.id, watched: watched.protection }
        : { circuitId: meant, landsOn: circuitId },
      boxId,
      ...(end && { runId: end.runId, conductor: { runId: end.runId, key: end.key } }),
    });
  }
}

/** Neutral and ground touch in the main panel and nowhere beyond it (NEC 250.24(A)(5), from memory). */
function checkNeutralAndGround(netlist: Netlist, settled: Settled, failures: Failures): void {
  const neutrals = new Set<number>();
  for (const { kind, joint } of netlist.sources) if (kind === 'neutral') neutrals.add(settled.at(joint));
  for (const { back, hots } of netlist.loads)
    if (back !== undefined && hots === 1) neutrals.add(settled.at(back));
  const said = new Set<number>();
  for (const joint of netlist.ground) {
    const at = settled.at(joint);
    if (!neutrals.has(at) || said.has(at)) continue;
    said.add(at);
    // Where the two meet: a joint that has bare and insulated wires, or a bare one on a neutral terminal.
    const meeting = [...netlist.ground].find((index) => {
      const { joint: own } = netlist.joints[index]!;
      return (
        settled.at(index) === at &&
        (own.ends.some((end) => !end.ground) ||
          own.landings.some(({ terminal: { kind } }) => NEUTRALS.has(kind)))
      );
    });
    const { boxId } = netlist.joints[meeting ?? joint]!;
    failures.add({
      code: 'proof.neutral-grounded',
      facts: NO_FACTS,
      boxId,
      ...conductorAt(netlist, meeting ?? joint),
    });
  }
}

/** The LOAD side of a feed-through device meets its LINE side nowhere but inside of it, and power comes to LINE. */
function checkLoadSides(netlist: Netlist, failures: Failures): void {
  for (const device of netlist.feedThrough) {
    const others = netlist.feedThrough.flatMap((one) => (one === device ? [] : one.contacts));
    const at = classesWith(netlist, others);
    const fed = new Set(netlist.sources.map(({ joint }) => at(joint)));
    for (const [line, load] of device.contacts) {
      const isBackwards = fed.has(at(load)) && !fed.has(at(line));
      if (at(line) !== at(load) && !fed.has(at(load))) continue;
      failures.add({
        code: 'proof.load-on-line',
        facts: { isBackwards },
        boxId: device.boxId,
        deviceId: device.deviceId,
        ...conductorAt(netlist, load),
      });
    }
  }
}

/** The interconnect joins all alarms of its circuits and touches nothing else. */
function checkInterconnect(netlist: Netlist, settled: Settled, failures: Failures): void {
  if (netlist.alarms.length < 2) return;
  const taken = new Set<number>([...netlist.ground].map((joint) => settled.at(joint)));
  for (const { joint } of netlist.sources) taken.add(settled.at(joint));
  for (const { hot, back } of netlist.loads)
    for (const joint of [hot, back]) if (joint !== undefined) taken.add(settled.at(joint));
  for (const { down, up } of netlist.levers)
    for (const pair of [...down, ...up]) for (const joint of pair) taken.add(settled.at(joint));
  const first = new Map<string, number | undefined>();
  const count = new Map<string, number>();
  for (const { group } of netlist.alarms) count.set(group, (count.get(group) ?? 0) + 1);
  for (const { boxId, pointId, group, joint } of netlist.alarms) {
    if (count.get(group)! < 2) continue;
    const own = joint === undefined ? undefined : settled.at(joint);
    if (!first.has(group)) first.set(group, own);
    const touches = own !== undefined && taken.has(own);
    if (own !== undefined && own === first.get(group) && !touches) continue;
    failures.add({
      code: 'proof.interconnect',
      facts: { touches },
      boxId,
      pointId,
      ...conductorAt(netlist, joint),
    });
  }
}

/** A feeder brings both hots and its neutral to the panel that it feeds. */
function checkFeeders(netlist: Netlist, settled: Settled, failures: Failures): void {
  const voltsAt = (joint: number | undefined): number =>
    joint === undefined ? Number.NaN : settled.fixed[settled.at(joint)]!;
  for (const { boxId, circuitId, hots, neutral } of netlist.feeders) {
    const [a, b] = hots.map(voltsAt);
    // Two hots on different legs.
    const isFed = Math.abs(a! - b!) > 1.5 * Math.abs(a!);
    if (isFed && voltsAt(neutral) === 0) continue;
    failures.add({
      code: 'proof.feeder',
      facts: { circuitId, lacks: isFed ? 'neutral' : 'hots' },
      boxId,
      ...conductorAt(netlist, isFed ? neutral : hots.find((joint) => joint !== undefined)),
    });
  }
}

/** Ends of cables whose colour is marked where it carries a line, at joints that no neutral of the panel is tied to. */
export function unmarkedWhites(
  reader: HouseReader,
  netlist: Netlist,
): { joint: number; runId: string; key: string; marking: Marking }[] {
  const neutral = new Set(
    netlist.sources.filter(({ kind }) => kind === 'neutral').map(({ joint }) => netlist.joints[joint]!.net),
  );
  const whites: { joint: number; runId: string; key: string; marking: Marking }[] = [];
  const plans = new Map<string, ColourPlan>();
  const planOf = (runId: string): ColourPlan => {
    let known = plans.get(runId);
    if (!known) plans.set(runId, (known = coloursOf(reader, reader.get('runs', runId))));
    return known;
  };
  for (let joint = 0; joint < netlist.joints.length; joint++) {
    const { joint: own, net } = netlist.joints[joint]!;
    if (neutral.has(net)) continue;
    for (const { colour, runId, key, marked, reidentified } of own.ends)
      if (!(marked ?? reidentified) && planOf(runId).marked.line.includes(colour))
        whites.push({
          joint,
          runId,
          key,
          marking: { colours: [colour], with: planOf(runId).markedWith.line },
        });
  }
  return whites;
}

/** Where a net has conductors of two wiring groups in one joint: the box, and the conductor that is a stranger there. */
function mixedAt(
  reader: HouseReader,
  netlist: Netlist,
  net: number,
  groupOf: ReadonlyMap<string, string>,
): { boxId: string; conductor: ConductorRef } | undefined {
  const groups = (runId: string): string[] =>
    reader.get('runs', runId)!.circuitIds.map((id) => groupOf.get(id) ?? id);
  for (const { boxId, joint, net: own } of netlist.joints) {
    const [first, ...others] = joint.ends;
    if (own !== net || !first) continue;
    const known = groups(first.runId);
    const stranger = others.find(({ runId }) => groups(runId).some((group) => !known.includes(group)));
    if (stranger) return { boxId, conductor: { runId: stranger.runId, key: stranger.key } };
  }
  return undefined;
}

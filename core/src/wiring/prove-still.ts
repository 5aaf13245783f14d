import type { HouseReader } from '../derive/reader.js';
import { circuitName } from '../house/naming.js';
import type { Netlist } from './netlist.js';
import type { Settled } from './operate.js';
import type { ConductorRef, Failures, Names } from './proof.js';
import { conductorAt } from './proof.js';
import { wireCircuit } from './wire-circuit.js';

/** What shows without touching a lever. */
export function checkStill(
  reader: HouseReader,
  netlist: Netlist,
  settled: Settled,
  names: Names,
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
        message: `The neutrals of ${circuitName(reader, known.circuitId)} and ${circuitName(reader, source.circuitId)} are joined${at ? ` in ${names.box(at.boxId)}` : ''}: current returns on the wrong one.`,
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
        message: `The hots of ${circuitName(reader, known.circuitId)} and ${circuitName(reader, source.circuitId)} are joined${at ? ` in ${names.box(at.boxId)}` : ''}: opening one breaker leaves it live.`,
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
      message: `The neutral of ${names.load(load)} is that of ${circuitName(reader, home[0]!.circuitId)}, not of ${circuitName(reader, load.circuitId)}: current returns on the wrong one.`,
      boxId: load.boxId,
      pointId: load.pointId,
      ...conductorAt(netlist, load.back),
    });
  }
  for (const { boxId, deviceId, ok } of netlist.grounded) {
    if (ok) continue;
    failures.add({
      code: 'proof.no-ground',
      message: deviceId
        ? `Ground does not reach a device in ${names.box(boxId)}.`
        : `Metal box ${names.box(boxId)} is not bonded to ground.`,
      boxId,
      ...(deviceId && { deviceId }),
    });
  }
  netlist.joints.forEach(({ boxId, joint }, index) => {
    if (joint.role !== 'spare') return;
    if (joint.ends.length + joint.landings.length > 1)
      failures.add({
        code: 'proof.spare-joined',
        message: `A spare conductor in ${names.box(boxId)} is joined to something.`,
        boxId,
        ...conductorAt(netlist, index),
      });
  });
}

/** Ends of cables that look like neutral, at joints that no neutral of the panel is tied to. */
export function unmarkedWhites(netlist: Netlist): { joint: number; runId: string; key: string }[] {
  const neutral = new Set(
    netlist.sources.filter(({ kind }) => kind === 'neutral').map(({ joint }) => netlist.joints[joint]!.net),
  );
  return netlist.joints.flatMap(({ joint: { ends }, net }, joint) =>
    neutral.has(net)
      ? []
      : ends.flatMap(({ colour, runId, key, marked, reidentified }) =>
          colour === 'WH' && !(marked ?? reidentified) ? [{ joint, runId, key }] : [],
        ),
  );
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

import { adding, setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { cableIn, devicesIn } from '../facts/box-facts.js';
import type { CircuitSupply } from '../facts/circuit-facts.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { NO_FACTS } from '../findings/finding.js';
import type { Finding, Fix } from '../findings/finding.js';
import type { Run } from '../house/model.js';
import { cableOf } from '../rulebook/cables.js';
import { isThicker } from '../vocabulary/size.js';
import type { CircuitTree } from '../wiring/circuit/circuit-tree.js';
import { circuitTree, wayUp } from '../wiring/circuit/circuit-tree.js';
import { gaugeOfCircuit } from '../wiring/circuit/gauge.js';
import { idBeside } from '../wiring/conductors/side-by-side.js';
import { ringOf } from '../wiring/circuit/ring.js';
import { runsOfGroup } from '../wiring/circuit/wiring-group.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

/** Whether rings are known where the house stands. */
export const knowsRings = (reader: HouseReader): boolean => reader.rules().has('ring.spur');

/** Whether every cable of a circuit carries its breaker in a ring, and whether it does with one end alone. */
function carries(reader: HouseReader, circuit: CircuitSupply, ring: boolean): boolean {
  const least = gaugeOfCircuit(reader, { ...circuit, ring });
  return (
    least !== undefined &&
    runsOfGroup(reader, [circuit]).every((run) => {
      const cable = cableIn(reader, run);
      return cable === undefined || !isThicker(least, cableOf(cable).gauge);
    })
  );
}

/** A loop of which both ends come home, on a circuit that nobody has called a ring: it can be made one. */
export function madeRing(reader: HouseReader, circuitId: string): Fix[] {
  const circuit = supplyOf(reader, circuitId);
  if (!circuit || circuit.ring || circuit.poles !== 1 || !knowsRings(reader)) return [];
  // Where its cable is not for rings, a loop is a mistake.
  const isMade = runsOfGroup(reader, [circuit]).every((run) => {
    const cable = cableIn(reader, run);
    return cable !== undefined && reader.rules().has(`ring.maxBreaker.${cableOf(cable).gauge}`);
  });
  const tree = circuitTree(reader, circuit.panelId, runsOfGroup(reader, [circuit]), true);
  const isRight =
    isMade && tree.loops.length === 0 && spursOf(reader, tree).every(({ has, takes }) => has <= takes);
  return tree.ring && isRight && carries(reader, circuit, true)
    ? [{ code: 'make-ring', facts: { circuitId }, change: setting('circuits', circuitId, { ring: true }) }]
    : [];
}

/** What hangs on each spur of a ring that is not fused, and how much may. */
function spursOf(
  reader: HouseReader,
  tree: CircuitTree,
): { readonly boxIds: readonly string[]; readonly has: number; readonly takes: number }[] {
  const ring = ringOf(tree);
  if (!ring) return [];
  const takes = reader.rules().number('ring.spur');
  const onRing = new Set(ring.boxIds);
  return [...tree.feed].flatMap(([node, { from }]) => {
    const boxId = tree.boxOf.get(node)!;
    if (onRing.has(boxId) || !(onRing.has(tree.boxOf.get(from)!) || from === tree.panelId)) return [];
    const beyond = tree.nodes.filter((other) => wayUp(tree, other).includes(node));
    const boxIds = [...new Set(beyond.map((one) => tree.boxOf.get(one)!))].filter(
      (id) => devicesIn(reader, id).length > 0,
    );
    return [{ boxIds, has: boxIds.reduce((sum, id) => sum + devicesIn(reader, id).length, 0), takes }];
  });
}

/** The cable that a ring lacks: from the box that lies farthest out home to the panel. */
function ringHome(reader: HouseReader, circuit: CircuitSupply, tree: CircuitTree): Fix[] {
  const isInner = new Set([...tree.feed.values()].map(({ from }) => from));
  const ways = tree.nodes.filter((node) => !isInner.has(node)).map((node) => wayUp(tree, node));
  const longest = ways.sort((a, b) => b.length - a.length)[0];
  const [end] = longest ?? [];
  const feed = end === undefined ? undefined : tree.feed.get(end);
  // From one box alone the ring would be two cables side by side.
  if (!end || !feed || feed.from === tree.panelId) return [];
  const id = idBeside(feed.run.id);
  if (reader.get('runs', id)) return [];
  const cable = cableIn(reader, feed.run);
  const run: Run = {
    id,
    kind: 'cable',
    circuitIds: [circuit.id],
    from: { boxId: tree.boxOf.get(end)! },
    to: { boxId: tree.panelId },
    ...(cable && { plannedCable: cable }),
  };
  return [
    {
      code: 'ring-home',
      facts: { boxId: tree.boxOf.get(end)! },
      change: adding('runs', run),
    },
  ];
}

/**
 * A ring with one end that does not come home, one that is bridged, and spurs: on one that is not fused stands one accessory, and no
 * spur of its own (BS 7671 appendix 15, from memory).
 */
export function ringFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = supplyOf(reader, circuitId);
  if (!circuit?.ring) return [];
  const { tree } = wireCircuit(reader, circuitId);
  if (!tree.ring)
    return tree.nodes.length > 1
      ? [
          {
            code: 'ring.leg-missing',
            severity: 'stop',
            where: { circuitId, boxId: tree.boxOf.get(tree.nodes.at(-1)!)! },
            facts: NO_FACTS,
            source: knowsRings(reader) ? { rule: 'ring.spur' } : { practice: 'common' },
            fixes: [
              ...ringHome(reader, circuit, tree),
              ...(carries(reader, circuit, false)
                ? [
                    {
                      code: 'no-ring' as const,
                      facts: { circuitId },
                      change: setting('circuits', circuitId, { ring: null }),
                    },
                  ]
                : []),
            ],
          },
        ]
      : [];
  if (!knowsRings(reader)) return [];
  return spursOf(reader, tree).flatMap(({ boxIds, has, takes }): Finding[] =>
    has <= takes
      ? []
      : [
          {
            code: 'ring.spur',
            severity: 'fix',
            where: { circuitId, boxId: boxIds.at(-1)! },
            facts: { onward: boxIds.length > 1, has, takes },
            measured: { kind: 'number', number: has },
            allowed: { kind: 'number', number: takes },
            source: { rule: 'ring.spur' },
          },
        ],
  );
}

import { setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { devicesIn } from '../facts/box-facts.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { NO_FACTS } from '../findings/finding.js';
import type { Finding, Fix } from '../findings/finding.js';
import { circuitTree } from '../wiring/circuit/circuit-tree.js';
import { ringOf } from '../wiring/circuit/ring.js';
import { runsOfGroup } from '../wiring/circuit/wiring-group.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

/** Whether rings are known where the house stands. */
export const knowsRings = (reader: HouseReader): boolean => reader.rules().has('ring.spur');

/** A loop of which both ends come home, on a circuit that nobody has called a ring: it can be made one. */
export function madeRing(reader: HouseReader, circuitId: string): Fix[] {
  const circuit = supplyOf(reader, circuitId);
  if (!circuit || circuit.ring || circuit.poles !== 1 || !knowsRings(reader)) return [];
  const tree = circuitTree(reader, circuit.panelId, runsOfGroup(reader, [circuit]), true);
  return tree.ring && tree.loops.length === 0
    ? [{ code: 'make-ring', facts: { circuitId }, change: setting('circuits', circuitId, { ring: true }) }]
    : [];
}

/**
 * A ring with one end that does not come home, one that is bridged, and spurs: on one that is not fused stands one accessory, and no
 * spur of its own (BS 7671 appendix 15, from memory).
 */
export function ringFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = supplyOf(reader, circuitId);
  if (!circuit?.ring) return [];
  const { tree } = wireCircuit(reader, circuitId);
  const ring = ringOf(tree);
  if (!ring)
    return tree.nodes.length > 1
      ? [
          {
            code: 'ring.leg-missing',
            severity: 'stop',
            where: { circuitId, boxId: tree.nodes.at(-1)!.split('#')[0]! },
            facts: NO_FACTS,
            source: knowsRings(reader) ? { rule: 'ring.spur' } : { practice: 'common' },
            fixes: [
              {
                code: 'no-ring',
                facts: { circuitId },
                change: setting('circuits', circuitId, { ring: null }),
              },
            ],
          },
        ]
      : [];
  if (!knowsRings(reader)) return [];
  const takes = reader.rules().number('ring.spur');
  const onRing = new Set(ring.boxIds);
  const isAccessory = (boxId: string): boolean => devicesIn(reader, boxId).length > 0;
  return [...tree.feed].flatMap(([node, { from }]): Finding[] => {
    const boxId = tree.boxOf.get(node)!;
    const isSpur = !onRing.has(boxId) && (onRing.has(tree.boxOf.get(from)!) || from === tree.panelId);
    if (!isSpur) return [];
    const beyond = tree.nodes.filter((other) => {
      for (let at: string | undefined = other; at !== undefined; at = tree.feed.get(at)?.from)
        if (at === node) return true;
      return false;
    });
    const boxes = [...new Set(beyond.map((one) => tree.boxOf.get(one)!))].filter(isAccessory);
    const has = boxes.reduce((sum, id) => sum + devicesIn(reader, id).length, 0);
    return has <= takes
      ? []
      : [
          {
            code: 'ring.spur',
            severity: 'fix',
            where: { circuitId, boxId: boxes.at(-1)! },
            facts: { onward: boxes.length > 1, has, takes },
            measured: { kind: 'number', number: has },
            allowed: { kind: 'number', number: takes },
            source: { rule: 'ring.spur' },
          },
        ];
  });
}

import { gaugeOf, isThicker, thinnest } from '../vocabulary/size.js';
import { pointsOn, protectionFindings } from './layout/protection-findings.js';
import { onGroundFindings } from './on-ground-findings.js';
import { proofFindings } from './proof-findings.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { NO_FACTS } from '../findings/finding.js';
import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxesOf, cableIn, standingPull } from '../facts/box-facts.js';
import { cableOf } from '../rulebook/cables.js';
import { gaugeOfCircuit } from '../wiring/circuit/gauge.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { madeRing, ringFindings } from './ring-findings.js';
import { isSubPanel, legOfSpace } from '../wiring/circuit/panel-terminals.js';
import { twoSideBySide } from '../wiring/conductors/side-by-side.js';
import type { Finding, Fix } from '../findings/finding.js';

/** Wires on one breaker, and a breaker against the nameplate of what it feeds. */
function breakerFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = supplyOf(reader, circuitId)!;
  const findings: Finding[] = [];
  const { tree } = wireCircuit(reader, circuitId);
  const home = [
    ...[...tree.feed.values()].flatMap(({ run, from }) => (from === tree.panelId ? [run] : [])),
    ...tree.loops.filter((run) => boxesOf(run).includes(tree.panelId)),
    ...(tree.ring && boxesOf(tree.ring).includes(tree.panelId) ? [tree.ring] : []),
  ].filter((run) => run.kind === 'cable' && run.circuitIds.includes(circuitId));
  if (home.length > (circuit.twoWires || circuit.ring ? 2 : 1)) {
    findings.push({
      code: 'breaker.two-runs',
      severity: 'note',
      where: { circuitId, boxId: circuit.panelId, runId: home[1]!.id },
      facts: { count: home.length },
      source: { section: 'twoOnBreaker' },
      ...(home.length === 2 && {
        fixes: [
          {
            code: 'marked-for-two',
            facts: NO_FACTS,
            change: setting('circuits', circuitId, { twoWires: true }),
          },
        ],
      }),
    });
  }
  const { nameplate, breakerAmps } = circuit;
  if (nameplate && breakerAmps > nameplate.mocp) {
    findings.push({
      code: 'breaker.above-nameplate',
      severity: 'stop',
      where: { circuitId },
      facts: { mocp: nameplate.mocp },
      measured: { kind: 'amps', amps: breakerAmps },
      allowed: { kind: 'amps', amps: nameplate.mocp },
      source: { section: 'nameplate' },
    });
  }
  return findings;
}

/** More lights and receptacles on a circuit of two wires than a code allows that counts them (CEC 8-304, from memory). */
function outletFindings(reader: HouseReader, circuitId: string): Finding[] {
  const rules = reader.rules();
  if (!rules.has('load.outlets') || supplyOf(reader, circuitId)?.poles !== 1) return [];
  const limit = rules.number('load.outlets');
  const outlets = new Set(
    pointsOn(reader, circuitId).flatMap(({ device, point }) =>
      ['lamp', 'receptacle', 'fan', 'alarm'].includes(point.role) ? [device.id] : [],
    ),
  );
  if (outlets.size <= limit) return [];
  return [
    {
      code: 'circuit.too-many-outlets',
      severity: 'fix',
      where: { circuitId },
      facts: { count: outlets.size, limit },
      measured: { kind: 'number', number: outlets.size },
      allowed: { kind: 'number', number: limit },
      source: { rule: 'load.outlets' },
    },
  ];
}

/** A circuit of one pole that ends in another panel: not derived, and said. */
function panelFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = supplyOf(reader, circuitId)!;
  if (circuit.poles === 2) return [];
  const { tree } = wireCircuit(reader, circuitId);
  const inner = new Set([...tree.feed.values()].map(({ from }) => from));
  return [...tree.feed]
    .filter(([node, { run }]) => !inner.has(node) && run.circuitIds.includes(circuitId))
    .filter(([node]) => isSubPanel(reader, tree.boxOf.get(node)!))
    .map(([node, { run }]): Finding => ({
      code: 'panel.not-derived',
      severity: 'fix',
      where: { circuitId, runId: run.id, boxId: tree.boxOf.get(node)! },
      facts: NO_FACTS,
    }));
}

function wireFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = supplyOf(reader, circuitId)!;
  const least = gaugeOfCircuit(reader, circuit);
  if (!least) {
    return [
      {
        code: 'circuit.breaker-unknown',
        severity: 'note',
        where: { circuitId },
        facts: { amps: circuit.breakerAmps },
      },
    ];
  }
  const limit =
    circuit.ring && reader.rules().has(`ring.maxBreaker.${least}`)
      ? `ring.maxBreaker.${least}`
      : `wire.maxBreaker.${least}`;
  return reader
    .mentioning('runs', circuitId)
    .filter((run) => run.circuitIds.includes(circuitId))
    .flatMap((run): Finding[] => {
      const gauges =
        run.kind === 'raceway'
          ? (run.wires ?? [])
              .filter((wire) => !wire.circuitId || wire.circuitId === circuitId)
              .map((wire) => gaugeOf(wire.size))
          : [cableIn(reader, run)].flatMap((id) => (id ? [cableOf(id).gauge] : []));
      const thin = thinnest(gauges);
      if (!thin || !isThicker(least, thin)) return [];
      const pulled = standingPull(reader, run.id) !== undefined;
      return [
        {
          code: 'wire.too-thin',
          severity: 'stop',
          where: { circuitId, runId: run.id, boxId: run.from.boxId },
          facts: {
            thinnest: thin,
            least,
            isIn: pulled,
            amps: circuit.breakerAmps,
            mca: circuit.nameplate?.mca,
          },
          measured: { kind: 'gauge', gauge: thin },
          allowed: { kind: 'gauge', gauge: least },
          source: { rule: limit },
        },
      ];
    });
}

function reachFindings(reader: HouseReader, circuitId: string): Finding[] {
  const { tree } = wireCircuit(reader, circuitId);
  const findings: Finding[] = [];
  if (tree.nodes.length === 1 && reader.mentioning('runs', circuitId).length > 0) {
    findings.push({
      code: 'circuit.no-home-run',
      severity: 'stop',
      where: { circuitId },
      facts: NO_FACTS,
    });
  }
  const cut = [...new Set(tree.islands.flatMap(boxesOf))];
  if (cut.length) {
    findings.push({
      code: 'wiring.cut-off',
      severity: 'stop',
      where: { circuitId, boxId: cut[0]! },
      facts: { boxIds: cut },
    });
  }
  return findings;
}

/**
 * Circuits that share a neutral stand on different legs of the service, or their currents add up in it: on 120/240 V there are
 * two, so that no more than two hots can share one.
 */
function groupFindings(reader: HouseReader, circuitId: string): Finding[] {
  const group = wireCircuit(reader, circuitId).circuitIds.map((id) => supplyOf(reader, id)!);
  if (group.length < 2) return [];
  const circuitIds = group.map(({ id }) => id);
  const source = { section: 'multiwire' } as const;
  if (group.reduce((sum, { poles }) => sum + poles, 0) > 2) {
    return [
      {
        code: 'multiwire.too-many',
        severity: 'stop',
        where: { circuitId },
        facts: { circuitIds },
        source,
        fixes: group.slice(2).map((circuit): Fix => ({
          code: 'leave-group',
          facts: { circuitId: circuit.id },
          change: setting('circuits', circuit.id, { neutralGroup: null }),
        })),
      },
    ];
  }
  const [one, other] = group.map(legOfSpace);
  const isSame = reader.rules().jurisdiction.legs === 1 || (one !== undefined && one === other);
  if (!isSame) return [];
  return [
    {
      code: 'multiwire.same-leg',
      severity: 'stop',
      where: { circuitId },
      facts: { circuitIds },
      source,
    },
  ];
}

/** Where no one cable is enough, two side by side as a way out, where they are. */
function withSecondCable(reader: HouseReader, circuitId: string, finding: Finding): Finding {
  const { code, where, allowed, fixes = [] } = finding;
  const isTooMuch = code === 'run.no-one-cable' || (code === 'wiring.too-few-conductors' && !allowed);
  if (!isTooMuch || !where.runId) return finding;
  const second = twoSideBySide(reader, circuitId, where.runId);
  return second.length ? { ...finding, fixes: [...second, ...fixes] } : finding;
}

/** A loop on a ring bridges it; one that comes home by both ends can be made a ring, where these are known. */
function ofRing(reader: HouseReader, circuitId: string, finding: Finding): Finding {
  if (finding.code !== 'wiring.loop') return finding;
  if (supplyOf(reader, circuitId)?.ring)
    return {
      code: 'ring.bridged',
      severity: 'stop',
      where: finding.where,
      facts: NO_FACTS,
      source: { section: 'together' },
    };
  const fixes = madeRing(reader, circuitId);
  return fixes.length ? { ...finding, fixes: [...fixes, ...(finding.fixes ?? [])] } : finding;
}

/** Everything to say about one circuit, by circuit id. */
export const CIRCUIT_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'circuit findings',
  compute: (reader, circuitId) => [
    // Circuits that share a neutral are wired together; the first of them speaks for all.
    ...(wireCircuit(reader, circuitId).circuitIds[0] === circuitId
      ? [
          ...wireCircuit(reader, circuitId).findings.map((finding) =>
            withSecondCable(reader, circuitId, ofRing(reader, circuitId, finding)),
          ),
          ...reachFindings(reader, circuitId),
          ...groupFindings(reader, circuitId),
          ...proofFindings(reader, circuitId),
        ]
      : []),
    ...wireFindings(reader, circuitId),
    ...breakerFindings(reader, circuitId),
    ...ringFindings(reader, circuitId),
    ...panelFindings(reader, circuitId),
    ...outletFindings(reader, circuitId),
    ...onGroundFindings(reader, circuitId),
    ...protectionFindings(reader, circuitId),
  ],
};

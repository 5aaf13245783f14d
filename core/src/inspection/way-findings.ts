import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import { NO_FACTS } from '../findings/finding.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { cableOf } from '../rulebook/cables.js';
import type { FramingGraph } from '../routing/framing-graph.js';
import { framingGraph } from '../routing/framing-graph.js';
import { holesOfRun } from '../routing/holes.js';
import { cableOnWay } from '../routing/run-cable.js';
import type { Crossing } from '../routing/way-geometry.js';
import { wayOfRun } from '../routing/way.js';

/**
 * What is wrong with the way of a run, by run id: none leads from box to box though both stand on the plan, what somebody wanted of it
 * cannot be, a hole that its member may not lose.
 */
export const WAY_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'way findings',
  cutsOff: true,
  compute: (reader, runId) => {
    const run = reader.get('runs', runId);
    if (!run || run.kind !== 'cable') return [];
    const way = wayOfRun(reader, runId, cableOnWay(reader, runId));
    const where = { runId, boxId: run.from.boxId };
    // A box without a place is nothing wrong: a house can be worked by room and box alone. What was measured needs no way.
    if (way.unknown !== undefined)
      return way.unknown === 'no-place' || run.measuredLengthIn !== undefined
        ? []
        : [
            {
              code: 'way.none',
              severity: 'note',
              where,
              facts: { why: way.unknown },
              source: { practice: 'common' },
            },
          ];
    const findings: Finding[] = [];
    if (way.unreached?.length) {
      const route = (run.route ?? []).filter((_point, at) => !way.unreached!.includes(at));
      findings.push({
        code: 'way.unreached',
        severity: 'fix',
        where,
        facts: { points: way.unreached.length },
        source: { practice: 'common' },
        fixes: [
          {
            code: 'let-go-points',
            facts: NO_FACTS,
            change: setting('runs', runId, { route: route.length ? route : null }),
          },
        ],
      });
    }
    if (way.isShut)
      findings.push({
        code: 'way.shut',
        severity: 'fix',
        where,
        facts: NO_FACTS,
        source: { practice: 'common' },
        fixes: [{ code: 'let-in-walls', facts: NO_FACTS, change: setting('runs', runId, { shutOut: null }) }],
      });
    const wrong = holesOfRun(reader, runId).find(({ problems }) => problems.length > 0);
    if (wrong) {
      const isJoist = wrong.at.bored === 'joist';
      const isLarge = wrong.problems.includes('too-large');
      findings.push({
        code: 'way.bored',
        severity: 'fix',
        where,
        facts: { through: isJoist ? 'joist' : wrong.at.bored === 'plate' ? 'plate' : 'stud', isLarge },
        source: {
          rule: isJoist
            ? isLarge
              ? 'bore.joist'
              : 'bore.joistEdge'
            : wrong.at.bored === 'plate'
              ? 'bore.plateWidth'
              : isLarge
                ? 'bore.bearing'
                : 'bore.wood',
        },
      });
    }
    return [...findings, ...deratedFindings(reader, runId)];
  },
};

/** Hot and other conductors that carry current: every insulated one, less a neutral that circuits share (310.15(E)). */
function carrying(reader: HouseReader, runId: string): number {
  const { colours } = cableOf(cableOnWay(reader, runId));
  const isShared = (reader.get('runs', runId)?.circuitIds.length ?? 0) > 1;
  return colours.length - (isShared ? 1 : 0);
}

const STEPS = [21, 10, 7, 4] as const;

/** In insulation: an outside wall, or joists with an attic over them (common practice). */
function isInsulated(graph: FramingGraph, { wall, plane }: Crossing): boolean {
  if (wall !== undefined) return graph.walls[wall]!.framed.kind === 'exterior';
  return plane !== undefined && graph.planes[plane]!.kind === 'attic';
}

/** More than two cables in one hole, in insulation, carry less by how many conductors they have (334.80, Table 310.15(C)(1)). */
function deratedFindings(reader: HouseReader, runId: string): Finding[] {
  const rules = reader.rules();
  const most = rules.number('bore.perSealed');
  const run = reader.get('runs', runId)!;
  const breakers = run.circuitIds.flatMap((id) => supplyOf(reader, id)?.breakerAmps ?? []);
  const { gauge } = cableOf(cableOnWay(reader, runId));
  const key = `bundle.ampacity.${gauge}`;
  if (breakers.length === 0 || !rules.has(key)) return [];
  const graph = framingGraph(reader);
  for (const { runIds, at, isSealed } of holesOfRun(reader, runId)) {
    if (runIds.length <= most || !(isSealed || isInsulated(graph, at))) continue;
    const conductors = runIds.reduce((sum, id) => sum + carrying(reader, id), 0);
    const step = STEPS.find((from) => conductors >= from);
    if (!step) continue;
    const percent = rules.number(`bundle.percent.${step}`);
    const amps = (rules.number(key) * percent) / 100;
    const breaker = Math.max(...breakers);
    if (amps >= breaker) continue;
    return [
      {
        code: 'way.derated',
        severity: 'fix',
        where: { runId, boxId: run.from.boxId, circuitId: run.circuitIds[0] },
        facts: { cables: runIds.length, conductors, percent, amps },
        measured: { kind: 'amps', amps: breaker },
        allowed: { kind: 'amps', amps },
        source: { rule: `bundle.percent.${step}` },
        fixes: [
          {
            code: 'fewer-in-hole',
            facts: { cables: most },
            change: { kind: 'rule.set', key: 'bore.perHole', override: { value: most } },
          },
        ],
      },
    ];
  }
  return [];
}

import { setting } from '../changes/change.js';
import type { Derivation } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import { NO_FACTS } from '../findings/finding.js';
import { holesOfRun } from '../routing/holes.js';
import { cableOnWay } from '../routing/run-cable.js';
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
    return findings;
  },
};

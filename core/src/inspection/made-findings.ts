import { factsOf } from '../vocabulary/signal.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { NO_FACTS } from '../findings/finding.js';
import type { JointFacts } from '../findings/facts.js';
import { setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import type { Box } from '../house/model.js';
import { circuitsAt } from '../facts/box-facts.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { markingOf } from '../wiring/joints/marked-ends.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { recordProblems, withoutJoint } from '../wiring/joints/made-joints.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import type { Finding, Fix } from '../findings/finding.js';

const contents = ({ ends, landings, signal }: BoxJoint): JointFacts => ({
  ends: ends.map(({ runId, key }) => ({ runId, key })),
  landings,
  signal: signal && factsOf(signal),
});

/** What is recorded as made in a box against what the wiring asks for now; and what is wrong with the record. */
export function madeFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  if (!box.asBuilt?.length) return [];
  const where = { boxId, roomId: box.roomId };
  const { conflicts } = boxJoints(reader, boxId);
  const findings: Finding[] = recordProblems(reader, box).map(({ code, what }): Finding => ({
    code,
    severity: 'fix',
    where,
    facts: { conductor: what },
  }));
  // What works as it stands need not be opened; what does not is not to be covered up.
  const fails =
    conflicts.length > 0 &&
    circuitsAt(reader, boxId).some((id) => supplyOf(reader, id) && !proveCircuit(reader, id).holds);
  for (const { made, asked } of conflicts) {
    findings.push({
      code: 'box.reopen',
      severity: fails ? 'stop' : 'note',
      where,
      facts: { undo: contents(made), make: asked.map(contents) },
      fixes: [
        {
          code: 'made-again',
          facts: { all: false },
          change: setting('boxes', boxId, { asBuilt: withoutJoint(box.asBuilt, made) }),
        },
      ],
    });
  }
  for (const { connector, misfit } of makeUpBox(reader, boxId).steps) {
    if (!misfit || !connector) continue;
    findings.push({
      code: 'made.connector-misfit',
      severity: 'fix',
      where,
      facts: { connectorId: connector.id, bundle: misfit.bundle, instead: misfit.instead },
      source: { practice: 'package' },
    });
  }
  for (const joint of boxJoints(reader, boxId).joints) {
    if (!joint.made) continue;
    const unmarked = joint.ends.filter((end) => end.reidentified && end.marked === false);
    if (unmarked.length === 0) continue;
    findings.push({
      code: 'made.white-unmarked',
      severity: 'stop',
      where,
      facts: { is: joint.role, ...markingOf(reader, joint.role, unmarked) },
      source: { section: 'marking' },
      fixes: [markedNow(box, unmarked)],
    });
  }
  return findings;
}

/** The way out of a white that is not marked: its mark goes into the record. */
export function markedNow(box: Box, ends: readonly { readonly runId: string; readonly key: string }[]): Fix {
  const asBuilt = (box.asBuilt ?? []).map((joint) => ({
    ...joint,
    ends: joint.ends.map((end) =>
      ends.some(({ runId, key }) => runId === end.runId && key === end.conductor)
        ? { ...end, marked: true }
        : end,
    ),
  }));
  return {
    code: 'marked-now',
    facts: NO_FACTS,
    change: setting('boxes', box.id, { asBuilt: asBuilt }),
  };
}

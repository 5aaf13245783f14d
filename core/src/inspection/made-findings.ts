import type { HouseReader } from '../derive/reader.js';
import type { Box } from '../house/model.js';
import { circuitsAt } from '../facts/box-facts.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { roleWords } from '../makeup/make-up-step.js';
import { cited } from '../rulebook/sections.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { memberWords, recordProblems, withoutJoint } from '../wiring/joints/made-joints.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import { signalName } from '../wiring/circuit/signal-names.js';
import type { Finding, Fix } from '../findings/finding.js';

function contents(reader: HouseReader, box: Box, joint: BoxJoint): string {
  const what = joint.signal ? ` (${signalName(reader, joint.signal)})` : '';
  return `${memberWords(reader, box.id, joint.ends, joint.landings)}${what}`;
}

/** What is recorded as made in a box against what the wiring asks for now; and what is wrong with the record. */
export function madeFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  if (!box.asBuilt?.length) return [];
  const where = { boxId, roomId: box.roomId };
  const { conflicts } = boxJoints(reader, boxId);
  const findings: Finding[] = recordProblems(reader, box).map(({ code, what }) => ({
    code,
    severity: 'mend',
    where,
    message:
      code === 'made.conductor-twice'
        ? `${box.tag}: conductor ${what} is recorded in two joints. The first one counts.`
        : `${box.tag}: a joint names conductor ${what}, which no cable here has. It is left out.`,
  }));
  // What works as it stands need not be opened; what does not is not to be covered up.
  const fails =
    conflicts.length > 0 &&
    circuitsAt(reader, boxId).some((id) => reader.get('circuits', id) && !proveCircuit(reader, id).holds);
  for (const { made, asked } of conflicts) {
    findings.push({
      code: 'box.reopen',
      severity: fails ? 'stop' : 'note',
      where,
      message: `Reopen ${box.tag}. Undo: ${contents(reader, box, made)}. Make instead: ${
        asked.length ? asked.map((joint) => contents(reader, box, joint)).join('; ') : 'nothing, cap it'
      }.`,
      fixes: [
        {
          label: `It has been made again as it should be`,
          change: {
            kind: 'box.set',
            recordId: boxId,
            fields: { asBuilt: withoutJoint(box.asBuilt, made) },
          },
        },
      ],
    });
  }
  for (const { connector, misfit } of makeUpBox(reader, boxId).steps) {
    if (!misfit || !connector) continue;
    findings.push({
      code: 'made.connector-misfit',
      severity: 'mend',
      where,
      message: `${box.tag}: the ${connector.name} that is recorded does not take ${connector.bundle}; ${misfit}.`,
      source: 'common practice; what is printed on its package decides',
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
      message: `${box.tag}: a white is not marked, and ${roleWords(joint.role)}. Mark it all round in black or red tape: the next hand takes it for neutral.`,
      source: cited('marking'),
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
    label: 'It is marked now',
    change: {
      kind: 'box.set',
      recordId: box.id,
      fields: { asBuilt: asBuilt as NonNullable<Box['asBuilt']> },
    },
  };
}

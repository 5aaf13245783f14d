import type { HouseReader } from '../derive/reader.js';
import { cited } from '../rulebook/sections.js';
import type { CableEnd } from '../wiring/joints/box-joint.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import type { ProofCode, ProofFailure } from '../wiring/proof/proof.js';
import { conductorName } from '../wiring/proof/proof.js';
import { netlistOf } from '../wiring/netlist/build-netlist.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { Finding } from '../findings/finding.js';
import { markedNow } from './made-findings.js';

/** The rule that a failure is about. */
const RULES: Readonly<Partial<Record<ProofCode, Parameters<typeof cited>[0]>>> = {
  'proof.switched-neutral': 'switchInHot',
  'proof.neutral-broken': 'neutralWhole',
  'proof.circuits-joined': 'neutralApart',
  'proof.unbalanced': 'together',
  'proof.no-ground': 'bonding',
  'proof.white-unmarked': 'marking',
  'proof.neutral-grounded': 'neutralGround',
  'proof.neutral-on-bar': 'ownNeutral',
};

/** What a box that is still open or too short of conductors cannot do anyway; it has its own finding. */
const EXPECTED_WHILE_OPEN: ReadonlySet<ProofCode> = new Set([
  'proof.does-not-follow',
  'proof.always-on-is-not',
]);

/**
 * What operating the switches shows, where joints have been recorded as made: what is only derived is proven by the way it
 * is derived, and shown in Check.
 */
export function proofFindings(reader: HouseReader, circuitId: string): Finding[] {
  const wiring = wireCircuit(reader, circuitId);
  const boxes = new Set([...wiring.tree.boxOf.values()]);
  if (![...boxes].some((boxId) => reader.get('boxes', boxId)?.asBuilt?.length)) return [];
  // Circuits that are joined are operated together; the first of them speaks for all.
  if ([...netlistOf(reader, circuitId).circuitIds].sort()[0] !== circuitId) return [];
  const open =
    wiring.openDevices.size > 0 || [...wiring.runs.values()].some((run) => run.open || run.missing.length);
  const failures = proveCircuit(reader, circuitId).failures.filter(
    (failure) =>
      !(open && EXPECTED_WHILE_OPEN.has(failure.code)) &&
      (failure.code !== 'proof.white-unmarked' || saysMore(hotWhites(reader, failure))),
  );
  const unbalanced = failures.filter(({ code }) => code === 'proof.unbalanced');
  const findings = failures
    .filter((failure) => failure.code !== 'proof.unbalanced' || failure === unbalanced[0])
    .map(({ code, message, boxId, deviceId, pointId, controlId, runId, conductor }): Finding => ({
      code,
      severity: 'stop',
      message:
        code === 'proof.unbalanced' && unbalanced.length > 1
          ? `${message} So in ${unbalanced.length - 1} more.`
          : conductor && !runId
            ? `${message} Look at ${conductorName(reader, conductor)}.`
            : message,
      where: {
        circuitId,
        ...(boxId && { boxId }),
        ...(deviceId && { deviceId }),
        ...(pointId && { pointId }),
        ...(controlId && { controlId }),
        ...(runId && { runId }),
      },
      ...(RULES[code] && { source: cited(RULES[code]) }),
      ...(code === 'proof.white-unmarked' && {
        fixes: [markedNow(reader.get('boxes', boxId!)!, hotWhites(reader, { boxId, runId }))],
      }),
    }));
  return findings;
}

/** Only of what has been made; whites that the wiring itself asks to be marked have a finding with their joint. */
const saysMore = (whites: readonly CableEnd[]): boolean =>
  whites.length > 0 && !whites.some((end) => end.reidentified);

/** The whites of a run in a box that are recorded as made without their mark. */
const hotWhites = (
  reader: HouseReader,
  { boxId, runId }: Pick<ProofFailure, 'boxId' | 'runId'>,
): CableEnd[] =>
  boxJoints(reader, boxId!).joints.flatMap(({ ends }) =>
    ends.filter((end) => end.runId === runId && end.marked === false),
  );

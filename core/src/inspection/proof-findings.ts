import type { ProofCode } from '../findings/facts.js';
import type { SectionKey } from '../vocabulary/jurisdiction.js';
import type { HouseReader } from '../derive/reader.js';
import type { CableEnd } from '../wiring/joints/box-joint.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import type { ProofFailure } from '../wiring/proof/proof.js';
import { netlistOf } from '../wiring/netlist/build-netlist.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { Finding } from '../findings/finding.js';
import { markedNow } from './made-findings.js';

/** The rule that a failure is about. */
const RULES: Readonly<Partial<Record<ProofCode, SectionKey>>> = {
  'proof.switched-neutral': 'switchInHot',
  'proof.neutral-broken': 'neutralWhole',
  'proof.circuits-joined': 'neutralApart',
  'proof.unbalanced': 'together',
  'proof.no-ground': 'bonding',
  'proof.white-unmarked': 'marking',
  'proof.neutral-grounded': 'neutralGround',
  'proof.neutral-on-bar': 'ownNeutral',
  'proof.ring-open': 'twoOnBreaker',
};

/** What a box that is still open or too short of conductors cannot do anyway; it has its own finding. */
const EXPECTED_WHILE_OPEN: ReadonlySet<ProofCode> = new Set([
  'proof.does-not-follow',
  'proof.always-on-is-not',
]);

/** And what cannot come through a cable that has not been chosen yet. */
const EXPECTED_WITHOUT_CABLE: ReadonlySet<ProofCode> = new Set([
  ...EXPECTED_WHILE_OPEN,
  'proof.neutral-broken',
  'proof.no-ground',
  'proof.interconnect',
  'proof.ring-open',
  'proof.feeder',
]);

/** What operating the switches of a circuit shows, as it is derived and as far as it is recorded as made. */
export function proofFindings(reader: HouseReader, circuitId: string): Finding[] {
  const wiring = wireCircuit(reader, circuitId);
  // Circuits that are joined are operated together; the first of them speaks for all.
  if ([...netlistOf(reader, circuitId).circuitIds].sort()[0] !== circuitId) return [];
  const runs = [...wiring.runs.values()];
  const isOpen = wiring.openDevices.size > 0 || runs.some((run) => run.open || run.missing.length);
  const isUnplanned = runs.some((run) => run.carries.size === 0);
  const expected = isUnplanned ? EXPECTED_WITHOUT_CABLE : isOpen ? EXPECTED_WHILE_OPEN : undefined;
  const failures = proveCircuit(reader, circuitId).failures.filter(
    (failure) =>
      !expected?.has(failure.code) &&
      (failure.code !== 'proof.white-unmarked' || saysMore(hotWhites(reader, failure))),
  );
  const unbalanced = failures.filter(({ code }) => code === 'proof.unbalanced');
  const findings = failures
    .filter((failure) => failure.code !== 'proof.unbalanced' || failure === unbalanced[0])
    .map((failure): Finding => {
      const { code, boxId, deviceId, pointId, controlId, runId, conductor } = failure;
      const section = RULES[code];
      return {
        code,
        severity: 'stop',
        facts:
          failure.code === 'proof.unbalanced' && unbalanced.length > 1
            ? { ...failure.facts, more: unbalanced.length - 1 }
            : failure.facts,
        where: { circuitId, boxId, deviceId, pointId, controlId, runId },
        lookAt: runId ? undefined : conductor,
        source: section && { section },
        ...(code === 'proof.white-unmarked' && {
          fixes: [markedNow(reader.get('boxes', boxId!)!, hotWhites(reader, { boxId, runId }))],
        }),
      } as Finding;
    });
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

import { struckSince } from '../closing/struck-run.js';
import type { HouseReader } from '../derive/reader.js';
import { shapeOfBox, standingPull } from '../facts/box-facts.js';
import type { Tested, WorkRecord } from '../house/model.js';
import type { FaultPlace } from '../house/report.js';
import { printOf } from '../structures/print.js';
import { landingKey } from '../vocabulary/terminal.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import type { RingStep } from './ring-out.js';
import { ringOut } from './ring-out.js';

/** How a step stands: not done, as it is to be, not so, or good once and changed since. */
export interface StepState {
  readonly is: 'open' | 'good' | 'bad' | 'again';
  readonly record?: WorkRecord;
  /** Boxes that were made up otherwise, or into which another cable was pulled, since it was good. */
  readonly changed: readonly string[];
  /** A fault that was found since, and mended, where the step would have shown it. */
  readonly mended?: WorkRecord;
  /** Another trade cut or moved a run since, through which the step reads. */
  readonly struck?: WorkRecord;
}

/** A print of how a box is made up as far as some conductors go, and of which pulls of them are in. */
function boxPrint(reader: HouseReader, boxId: string, wires: ReadonlySet<string>): string {
  // In a panel nothing is landed while it is tested: there each conductor is by itself.
  const isPanel = shapeOfBox(reader, boxId).kind === 'panel';
  const joints = boxJoints(reader, boxId).joints.flatMap(({ ends, landings, kind }) => {
    const own = ends.filter(({ runId, key }) => wires.has(`${runId} ${key}`));
    if (!own.length) return [];
    const there = (isPanel ? own : ends).map(
      ({ runId, key }) => `${runId} ${key} ${standingPull(reader, runId)?.id ?? ''}`,
    );
    return [
      [
        kind === 'undecided' ? kind : '',
        ...there.sort(),
        ...(isPanel ? [] : landings.map(landingKey).sort()),
      ].join(','),
    ];
  });
  return printOf(joints.sort().join('\n'));
}

/** As much of a step as says what it depends on. */
export type Testable = Pick<RingStep, 'key' | 'boxIds' | 'wires'>;

/** What a record of a step says of the boxes that it depends on. */
export function testedNow(
  reader: HouseReader,
  { key, boxIds, wires }: Testable,
  routine: Tested['routine'],
  boarded: boolean,
): Tested {
  return {
    routine,
    ...(boarded && { boarded }),
    step: key,
    boxes: Object.fromEntries(boxIds.map((boxId) => [boxId, boxPrint(reader, boxId, wires)])),
  };
}

/** How a step stands by what was recorded of it. A test that two people recorded is one: the later record counts. */
export function stepState(
  reader: HouseReader,
  circuitId: string,
  step: Testable,
  routine: Tested['routine'],
  boarded: boolean,
): StepState {
  const record = reader
    .mentioning('records', circuitId)
    .filter(
      ({ kind, tested }) =>
        kind === 'test' &&
        tested?.routine === routine &&
        tested.step === step.key &&
        (tested.boarded ?? false) === boarded,
    )
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .at(-1);
  if (!record?.tested) return { is: 'open', changed: [] };
  const now = testedNow(reader, step, routine, boarded).boxes;
  const changed = Object.keys(now).filter((boxId) => record.tested!.boxes[boxId] !== now[boxId]);
  const isGood = record.result === 'pass';
  const mended = reader
    .mentioning('records', circuitId)
    .find(
      ({ kind, at, cause }) =>
        kind === 'found' &&
        cause &&
        Date.parse(at) > Date.parse(record.at) &&
        (!isGood || goesThrough(reader, step, cause.place)),
    );
  // What another trade was at is another cable for the test: it reads through it again.
  const struck = struckSince(
    reader,
    [...step.wires].map((wire) => wire.slice(0, wire.indexOf(' '))),
    Date.parse(record.at),
  );
  const is = changed.length || mended || struck ? 'again' : isGood ? 'good' : 'bad';
  return { is, record, changed, ...(mended && { mended }), ...(struck && { struck }) };
}

/** Whether a step reads through a place in which something was mended. */
function goesThrough(reader: HouseReader, { boxIds, wires }: Testable, { kind, id }: FaultPlace): boolean {
  if (kind === 'wall') return [...wires].some((wire) => wire.startsWith(`${id} `));
  const boxId = kind === 'device' ? reader.get('devices', id)?.boxId : id;
  return kind !== 'breaker' && boxId !== undefined && boxIds.includes(boxId);
}

/** How a circuit stands in a routine. */
export interface RoundState<Step extends Testable = RingStep> {
  readonly steps: readonly (StepState & { readonly step: Step })[];
  readonly good: number;
  readonly bad: number;
  readonly again: number;
  readonly of: number;
}

/** How a circuit stands in a routine of these steps. Records stand with the first circuit of its group. */
export function roundState<Step extends Testable>(
  reader: HouseReader,
  circuitId: string,
  steps: readonly Step[],
  routine: Tested['routine'],
  boarded = false,
): RoundState<Step> {
  const stands = steps.map((step) => ({ step, ...stepState(reader, circuitId, step, routine, boarded) }));
  const count = (is: StepState['is']): number => stands.filter((state) => state.is === is).length;
  return { steps: stands, good: count('good'), bad: count('bad'), again: count('again'), of: steps.length };
}

/** How a circuit stands in the round of ringing out with open walls, or in that after the board. */
export function ringState(reader: HouseReader, circuitId: string, boarded: boolean): RoundState {
  const { steps, circuitIds } = ringOut(reader, circuitId);
  return roundState(reader, circuitIds[0] ?? circuitId, steps, 'ring-out', boarded);
}

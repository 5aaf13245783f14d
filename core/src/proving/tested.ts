import type { HouseReader } from '../derive/reader.js';
import { shapeOfBox, standingPull } from '../facts/box-facts.js';
import type { Tested, WorkRecord } from '../house/model.js';
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
type Testable = Pick<RingStep, 'key' | 'boxIds' | 'wires'>;

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
  if (record.result !== 'pass') return { is: changed.length ? 'again' : 'bad', record, changed };
  return { is: changed.length ? 'again' : 'good', record, changed };
}

/** How a circuit stands in a round of ringing out. */
export interface RoundState {
  readonly steps: readonly (StepState & { readonly step: RingStep })[];
  readonly good: number;
  readonly bad: number;
  readonly again: number;
  readonly of: number;
}

/** How a circuit stands in the round with open walls, or in that after the board. Records stand with the first circuit of its group. */
export function ringState(reader: HouseReader, circuitId: string, boarded: boolean): RoundState {
  const { steps, circuitIds } = ringOut(reader, circuitId);
  const of = circuitIds[0] ?? circuitId;
  const stands = steps.map((step) => ({ step, ...stepState(reader, of, step, 'ring-out', boarded) }));
  const count = (is: StepState['is']): number => stands.filter((state) => state.is === is).length;
  return { steps: stands, good: count('good'), bad: count('bad'), again: count('again'), of: steps.length };
}

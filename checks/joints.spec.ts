import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import type { HouseReader } from '../core/src/derive/reader.js';
import { readerOf } from '../core/src/derive/reader.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { houseOf } from '../core/src/house/house-file.js';
import type { Joint } from '../core/src/house/model.js';
import { madeUp } from '../core/src/testing/made-up.js';
import { soundBritish } from '../core/src/testing/random-british.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';
import { boxJoints } from '../core/src/wiring/joints/box-joints.js';
import { faultsIn } from '../core/src/wiring/faults/faults.js';
import type { JointsByBox } from '../core/src/wiring/netlist/netlist.js';
import { buildNetlist } from '../core/src/wiring/netlist/build-netlist.js';
import { proveNetlist } from '../core/src/wiring/proof/prove-circuit.js';
import { wireCircuit } from '../core/src/wiring/conductors/wire-circuit.js';
import { complaints } from './joints-evaluator.js';

/** What the proof says where this evaluator says it too. */
const SAME = new Set([
  'proof.short',
  'proof.other-breaker',
  'proof.does-not-follow',
  'proof.always-on-is-not',
  'proof.neutral-grounded',
  'proof.load-on-line',
  'proof.interconnect',
  'proof.neutral-on-bar',
]);

const scopeOf = (file: HouseFile, reader: HouseReader) => ({
  wirings: [...new Set(file.circuits.map(({ id }) => wireCircuit(reader, id)))],
  joints: new Map(file.boxes.map(({ id }) => [id, boxJoints(reader, id).joints])),
});

interface Tally {
  judged: number;
  bad: number;
}

/** Holds the proof of joints against the second opinion. */
function judge(file: HouseFile, reader: HouseReader, joints: JointsByBox, what: string, tally: Tally): void {
  const { wirings } = scopeOf(file, reader);
  const codes = new Set(
    proveNetlist(reader, buildNetlist(reader, wirings, joints)).failures.map(({ code }) => code),
  );
  const own = complaints(file, joints);
  tally.judged++;
  if (own.size) {
    tally.bad++;
    expect(codes.size)
      .withContext(`${what}: ${[...own].join()}, and the proof holds`)
      .toBeGreaterThan(0);
  }
  // In series a load is dim, which this evaluator does not know.
  if (codes.has('proof.series') || [...codes].every((code) => !SAME.has(code))) return;
  expect(own.size)
    .withContext(`${what}: ${[...codes].join()}, and nothing is wrong`)
    .toBeGreaterThan(0);
}

describe('A second opinion from the joints alone', () => {
  it('finds nothing in what is derived, whatever yokes, circuits, breakers and boxes', () => {
    const tally = { judged: 0, bad: 0 };
    fc.assert(
      fc.property(fc.oneof(randomSwitching(4), soundBritish), fc.boolean(), (drawn, isAway) => {
        // By whatever code: rules differ, joints have to be right everywhere.
        const isBritish = drawn.rulebook.base.startsWith('gb');
        const file: HouseFile =
          isAway && !isBritish ? { ...drawn, rulebook: { base: 'ca-2021', overrides: {} } } : drawn;
        const reader = readerOf(houseOf(file));
        const { joints } = scopeOf(file, reader);
        expect([...complaints(file, joints)]).toEqual([]);
        judge(file, reader, joints, 'derived', tally);
      }),
      { numRuns: 90 },
    );
    expect(tally.bad).toBe(0);
  }, 120_000);

  it('agrees with the proof on every fault that is put in', () => {
    const tally = { judged: 0, bad: 0 };
    fc.assert(
      fc.property(fc.oneof(randomSwitching(3), soundBritish), (file) => {
        const reader = readerOf(houseOf(file));
        const { joints } = scopeOf(file, reader);
        for (const fault of faultsIn(reader, joints))
          judge(file, reader, fault.into(joints), fault.kind, tally);
      }),
      { numRuns: 15 },
    );
    expect(tally.bad).toBeGreaterThan(200);
  }, 240_000);

  it('agrees on boxes that were made in any other way: wires and screws changed for each other at random', () => {
    const tally = { judged: 0, bad: 0 };
    const edits = fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat(3)), { minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(
        fc.oneof(randomSwitching(3), soundBritish),
        edits,
        fc.array(fc.boolean(), { minLength: 1, maxLength: 6 }),
        (drawn, changes, ticks) => {
          const file = madeUp(drawn, ticks);
          const boxes = file.boxes.filter(({ asBuilt }) => asBuilt?.length);
          for (const [pick, other, kind] of changes) {
            const box = boxes[pick % Math.max(1, boxes.length)];
            if (box) box.asBuilt = edited(box.asBuilt!, pick, other, kind);
          }
          const reader = readerOf(houseOf(file));
          const { joints } = scopeOf(file, reader);
          judge(file, reader, joints, 'made another way', tally);
        },
      ),
      { numRuns: 150 },
    );
    expect([tally.judged, tally.bad > 20]).toEqual([150, true]);
  }, 240_000);
});

/** Joints with two screws exchanged, two wires exchanged, two joined into one, or one wire taken out. */
function edited(joints: readonly Joint[], pick: number, other: number, kind: number): Joint[] {
  const next = structuredClone(joints) as Joint[];
  const [a, b] = [next[pick % next.length]!, next[other % next.length]!];
  if (a === b) return next;
  if (kind === 0) [a.terminals, b.terminals] = [b.terminals, a.terminals];
  else if (kind === 1) [a.ends, b.ends] = [b.ends, a.ends];
  else if (kind === 2) {
    a.ends.push(...b.ends);
    if (b.terminals) a.terminals = [...(a.terminals ?? []), ...b.terminals];
    a.kind = 'splice';
    next.splice(next.indexOf(b), 1);
  } else if (a.ends.length > 1) next.push({ kind: 'cap', ends: [a.ends.pop()!] });
  for (const joint of next) if (joint.terminals === undefined) delete joint.terminals;
  return next.filter(({ ends, terminals }) => ends.length + (terminals?.length ?? 0) > 0);
}

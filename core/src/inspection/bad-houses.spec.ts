import { said } from '../testing/said.js';
import { sameJson } from '../structures/equal.js';
import { isUsualSeed, many, runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { ChangeBody } from '../changes/change.js';
import { removing } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import { conductorSchedule, writeScheduleCsv } from '../exchange/conductor-schedule.js';
import { writeSpice } from '../exchange/spice.js';
import { fillBox } from '../fill/fill-box.js';
import type { HouseFile } from '../house/house-file.js';
import { copyHouseFile, houseOf, readHouseFile } from '../house/house-file.js';
import type { House } from '../house/house.js';
import { TABLE_NAMES } from '../house/model.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { outlook } from '../planning/what-if.js';
import { madeUp } from '../testing/made-up.js';
import { randomSwitching } from '../testing/random-switching.js';
import { netlistOf } from '../wiring/netlist/build-netlist.js';
import { traceConductor } from '../wiring/netlist/trace.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import type { Finding } from '../findings/finding.js';
import { inspectHouse } from './inspect-house.js';

/** Things that people do to a house that is wired: each still a valid file, none of them a good house. */
const HARM: readonly ((file: HouseFile, pick: number) => void)[] = [
  (file, pick) => {
    file.runs.splice(pick % file.runs.length, 1);
    for (const box of file.boxes) delete box.asBuilt;
  },
  (file, pick) => void (file.controls[pick % file.controls.length]!.loads = []),
  (file, pick) => void (file.controls[pick % file.controls.length]!.places = []),
  (file, pick) => {
    const control = file.controls[pick % file.controls.length]!;
    control.places.push(...[...control.places, ...control.loads].slice(0, 1));
  },
  (file, pick) => {
    const control = file.controls[pick % file.controls.length]!;
    control.places.push(...[...control.loads, ...control.places].slice(0, 1));
  },
  (file, pick) => {
    const other = file.controls[pick % file.controls.length]!;
    file.controls[0]!.loads.push(...other.loads);
    file.controls[0]!.places.push(...other.places);
  },
  (file, pick) => {
    const run = file.runs[pick % file.runs.length]!;
    run.kind = 'cable';
    delete run.wires;
    run.plannedCable = '14/2';
  },
  (file, pick) => {
    const run = file.runs[pick % file.runs.length]!;
    const box = file.boxes[pick % file.boxes.length]!.id;
    if (run.from.boxId !== box) run.to = { boxId: box };
  },
  (file, pick) => {
    const run = file.runs[pick % file.runs.length]!;
    const boxId = run.from.boxId;
    const ends = [
      { runId: run.id, conductor: 'BK' },
      { runId: run.id, conductor: 'BK' },
      { runId: run.id, conductor: 'WH' },
      { runId: run.id, conductor: 'NO' },
    ];
    file.boxes.find(({ id }) => id === boxId)!.asBuilt = [
      { kind: 'splice', ends },
      { kind: 'cap', ends },
    ];
  },
  (file, pick) => void (file.circuits[0]!.poles = pick % 2 ? 2 : 1),
  (file) => void (file.circuits[0]!.neutralGroup = 'shared'),
  (file, pick) => {
    const control = file.controls[pick % file.controls.length]!;
    control.pinnedOrder = control.places.slice(1);
  },
];

/** So many things go wrong, each at a place of the house. */
const harms = fc.array(fc.tuple(fc.nat(), fc.nat(1000)), { minLength: 1, maxLength: 4 });

function harmed(sound: HouseFile, harm: readonly [number, number][]): HouseFile {
  const file = structuredClone(sound);
  for (const [kind, pick] of harm)
    if (file.controls.length && file.runs.length) HARM[kind % HARM.length]!(file, pick);
  return file;
}

describe('A house that somebody has got wrong', () => {
  it('crashes nothing, has something found or is still sound, and leaves the house next door as it was', () => {
    let found = 0;
    fc.assert(
      fc.property(randomSwitching(3), randomSwitching(3), harms, (wrong, right, harm) => {
        const file = harmed(wrong, harm);
        let count = 0;
        const next = copyHouseFile(
          right,
          'Next door',
          () => `eeeeeeee-0000-4000-8000-${String(++count).padStart(12, '0')}`,
          true,
        );
        next.rulebook = wrong.rulebook;
        for (const table of TABLE_NAMES) (file[table] as unknown[]).push(...next[table]);
        const read = readHouseFile(JSON.stringify(file));
        if (!read.ok) throw new Error(JSON.stringify(read.problems));
        const reader = readerOf(read.house);
        for (const box of reader.all('boxes')) {
          fillBox(reader, box.id);
          makeUpBox(reader, box.id);
        }
        for (const { id } of reader.all('circuits')) proveCircuit(reader, id);
        const findings = inspectHouse(reader);
        found += findings.length;
        const there = new Set(next.circuits.map(({ id }) => id));
        expect(findings.filter(({ where }) => where.circuitId && there.has(where.circuitId))).toEqual(
          inspectHouse(readerOf(houseOf(next))).filter(({ where }) => where.circuitId),
        );
        const alone = proveCircuit(readerOf(houseOf(next)), next.circuits[0]!.id);
        expect(proveCircuit(reader, next.circuits[0]!.id)).toEqual(alone);
      }),
      { numRuns: runs(150) },
    );
    expect(found).toBeGreaterThan(many(100));
  });

  it('has ways out that can be taken and that help', () => {
    const taken = new Set<string>();
    /** How many signals a finding says go without. */
    const lack = (finding: Finding): number =>
      finding.code === 'wiring.too-few-conductors' ? finding.facts.missing.length : 0;
    fc.assert(
      fc.property(randomSwitching(4), harms, (sound, harm) => {
        const read = readHouseFile(JSON.stringify(harmed(sound, harm)));
        if (!read.ok) throw new Error(JSON.stringify(read.problems));
        for (const finding of inspectHouse(readerOf(read.house))) {
          for (const { code: way, change } of finding.fixes ?? []) {
            const applied = applyChange(read.house, change);
            if (!applied.ok) throw new Error(`${way}: ${applied.refusal.message}`);
            taken.add(`${finding.code} ${way}`);
            const left = inspectHouse(readerOf(applied.document)).find(
              ({ code, where, facts }) =>
                code === finding.code &&
                JSON.stringify(where) === JSON.stringify(finding.where) &&
                (!['box.reopen', 'proof.white-unmarked'].includes(code) || sameJson(facts, finding.facts)),
            );
            if (left)
              expect(lack(left))
                .withContext(`${way}: ${said(readerOf(applied.document), left).message}`)
                .toBeLessThan(lack(finding));
          }
        }
      }),
      { numRuns: runs(200) },
    );
    expect(taken.size).toBeGreaterThan(many(3));
    for (const way of isUsualSeed() ? ['plan-cable', 'draw-wires', 'feed-other-end'] : [])
      expect(taken).toContain(`wiring.too-few-conductors ${way}`);
  });

  it('that was made up here and there and then loses a switch says what to reopen, until it works again', () => {
    let reopened = 0;
    const ticked = fc.array(fc.boolean(), { minLength: 5, maxLength: 30 });
    fc.assert(
      fc.property(randomSwitching(4), ticked, fc.nat(), (file, ticks, pick) => {
        const made = madeUp(file, ticks);
        const control = made.controls[pick % made.controls.length];
        const lost = made.points.find(({ id }) => id === control?.places.at(-1))?.deviceId;
        if (
          !lost ||
          control!.places.length < 2 ||
          made.points.filter((to) => to.deviceId === lost).length > 1
        )
          return;
        const read = readHouseFile(JSON.stringify(made));
        if (!read.ok) throw new Error(JSON.stringify(read.problems));
        const take = (house: House, change: ChangeBody): House => {
          const applied = applyChange(house, change);
          if (!applied.ok) throw new Error(applied.refusal.message);
          return applied.document;
        };
        let house = take(read.house, removing('devices', lost));
        for (let round = 0; ; round++) {
          const ask = inspectHouse(readerOf(house)).find(({ code }) => code === 'box.reopen');
          if (!ask) break;
          expect(round).toBeLessThan(40);
          house = take(house, ask.fixes![0]!.change);
          reopened++;
        }
        const reader = readerOf(house);
        const short = ['wiring.too-few-conductors', 'neutral.missing-at-switch'];
        if (inspectHouse(reader).some(({ code }) => short.includes(code))) return;
        for (const { id } of made.circuits) expect(proveCircuit(reader, id).failures).toEqual([]);
      }),
      { numRuns: runs(80) },
    );
    expect(reopened).toBeGreaterThan(many(20));
  });

  it('that was made up and is taken apart record by record can be read to the end', () => {
    let taken = 0;
    fc.assert(
      fc.property(
        randomSwitching(4),
        fc.array(fc.tuple(fc.nat(5), fc.nat()), { minLength: 4, maxLength: 4 }),
        (file, picks) => {
          let house = houseOf(madeUp(file));
          for (const [table, pick] of picks) {
            const name = (['devices', 'boxes', 'runs', 'controls', 'points', 'circuits'] as const)[table]!;
            const rows = readerOf(house).all(name);
            const row = rows[pick % rows.length];
            const applied = row && applyChange(house, removing(name, row.id));
            if (!applied?.ok) continue;
            house = applied.document;
            taken++;
            const reader = readerOf(house);
            for (const { id } of reader.all('boxes')) makeUpBox(reader, id);
            for (const { id } of reader.all('circuits')) {
              const netlist = netlistOf(reader, id);
              writeSpice(reader, netlist, 'taken apart');
              writeScheduleCsv(conductorSchedule(reader, netlist));
              for (const { runId, key } of netlist.conductors) traceConductor(reader, runId, key);
            }
            for (const { id } of reader.all('controls')) outlook(house, undefined, id);
            inspectHouse(reader);
          }
        },
      ),
      { numRuns: runs(60) },
    );
    expect(taken).toBeGreaterThan(many(100));
  });
});

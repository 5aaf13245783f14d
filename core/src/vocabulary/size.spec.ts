import * as fc from 'fast-check';
import { fillBox } from '../fill/fill-box.js';
import { readerOf } from '../derive/reader.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import { gaugeIn } from '../rulebook/gauge-in.js';
import { randomHouse } from '../testing/random-house.js';
import { wordsOf } from '../words/words.js';
import type { Gauge, Size } from './size.js';
import {
  GAUGES,
  areaOf,
  awg,
  gaugeOf,
  gaugeText,
  isThicker,
  mm2,
  sizeOf,
  thickest,
  thinnest,
} from './size.js';
import { Awg } from './text.js';

describe('Sizes of conductors', () => {
  it('have the cross-sections of the published table', () => {
    // NEC chapter 9 table 8, area in mm², from memory.
    const table: Readonly<Record<Awg, number>> = {
      18: 0.823,
      16: 1.31,
      14: 2.08,
      12: 3.31,
      10: 5.261,
      8: 8.367,
      6: 13.3,
    };
    for (const { value } of Awg.options)
      expect(areaOf(value)).withContext(`${value} AWG`).toBeCloseTo(table[value], 1);
    expect(areaOf('2.5mm2')).toBe(2.5);
  });

  it('of both systems stand in one order, and each is told by its key', () => {
    for (const [at, gauge] of GAUGES.entries()) {
      expect(gaugeOf(sizeOf(gauge))).toBe(gauge);
      if (at) expect(isThicker(GAUGES[at - 1]!, gauge)).toBeTrue();
    }
    // A 2.5 mm² wire lies between 14 and 12 AWG, a 1.5 mm² one under 14.
    expect(thickest([14, '2.5mm2', '1.5mm2'])).toBe('2.5mm2');
    expect(thinnest([14, '2.5mm2', '1.5mm2'])).toBe('1.5mm2');
    expect([thickest([]), thinnest([])]).toEqual([undefined, undefined]);
    expect([gaugeText(12), gaugeText('2.5mm2')]).toEqual(['12 AWG', '2.5 mm²']);
  });

  it('of another system are counted as the next thicker one of the table', () => {
    const rules = rulebookFor({ base: 'us-2020', overrides: {} });
    const counted = (gauge: Gauge): Gauge => gaugeIn(rules, 'fill.volume.', gauge);
    expect((['1mm2', '1.5mm2', '2.5mm2', '4mm2', '6mm2', '10mm2'] as const).map(counted)).toEqual([
      16, 14, 12, 10, 8, 6,
    ]);
    expect(counted('16mm2')).withContext('thicker than all').toBe(6);
    expect(counted(12)).toBe(12);
  });

  it('of any system and place stop nothing in any house', () => {
    const sizes: readonly Size[] = [mm2(0.75), mm2(1.5), mm2(2.5), mm2(16), awg(18), awg(6)];
    fc.assert(
      fc.property(randomHouse, fc.array(fc.nat(), { minLength: 8, maxLength: 8 }), ({ plan }, dice) => {
        let at = 0;
        const next = (): number => dice[at++ % dice.length]!;
        const size = (): Size => sizes[next() % sizes.length]!;
        const file: HouseFile = structuredClone(plan.file);
        for (const box of file.boxes) {
          if (next() % 3 === 0)
            box.fixtureWires = { count: 1 + (next() % 5), size: size(), fromCanopy: next() % 2 === 0 };
          if (next() % 3 === 0) box.isolatedGround = { count: 1, size: size() };
          if (next() % 3 === 0) box.fittings = [{ kind: 'terminal-block', size: size() }];
        }
        for (const run of file.runs) {
          if (next() % 3) continue;
          file.pulls = file.pulls.filter(({ runId }) => runId !== run.id);
          delete run.plannedCable;
          run.kind = 'raceway';
          run.tradeSize = '1/2';
          run.wires = (['BK', 'RD', 'WH', 'GN'] as const).map((colour) => ({ size: size(), colour }));
        }
        expect(readHouseFile(JSON.parse(JSON.stringify(file))).ok).toBeTrue();
        const reader = readerOf(houseOf(file));
        const words = wordsOf(reader);
        for (const finding of inspectHouse(reader)) expect(words.finding(finding)).not.toContain('mm2');
        for (const { id } of file.boxes) {
          expect(Number.isFinite(fillBox(reader, id)?.totalIn3 ?? 0)).toBeTrue();
          words.makeUp(makeUpBox(reader, id));
        }
      }),
    );
  });
});

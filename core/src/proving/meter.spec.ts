import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { HouseFile } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { askedOfReading, meterOf } from './meter.js';
import type { RingStep } from './ring-out.js';
import { ringOut } from './ring-out.js';
import { testedNow } from './tested.js';

/** So many cables one after another, each ten meters long as somebody measured it: a radial, or a ring that comes home. */
function circuitOf(cable: string, boxes: number, isRing = false): HouseFile {
  const plan = new Plan('Readings', 'gb-2018');
  plan.room('Room', 'living');
  const panel = plan.box('CU', 'panel');
  const circuit = plan.circuit(1, 'Sockets', panel, isRing ? 32 : 10, {
    protection: 'gfci',
    ...(isRing && { ring: true }),
  });
  let at = panel;
  for (let nth = 1; nth <= boxes; nth++) {
    at = plan.fed(`R${nth}`, at, cable, circuit, 'gb-back-2g-35');
    plan.device(at, 'receptacle', 1, circuit);
  }
  if (isRing) plan.run(at, panel, cable, circuit);
  for (const run of plan.file.runs) run.measuredLengthIn = 10 / 0.0254;
  return plan.file;
}

const stepsOf = (reader: HouseReader, kind: RingStep['kind']): RingStep[] =>
  ringOut(reader, reader.all('circuits')[0]!.id).steps.filter((step) => step.kind === kind);

/** A house in which such a reading of a step was written down as good. */
function withReading(file: HouseFile, step: RingStep, reading: number): HouseFile {
  const reader = readerOf(houseOf(file));
  const [circuit] = file.circuits;
  const record = {
    ...{
      id: `00000000-0000-4000-8000-a${String(file.records.length).padStart(11, '0')}`,
      kind: 'test' as const,
    },
    ...{
      at: `2026-01-0${file.records.length + 1}T08:00:00.000Z`,
      by: '00000000-0000-4000-8000-00000000000a',
    },
    ...{ circuitId: circuit!.id, result: 'pass' as const },
    tested: { ...testedNow(reader, step, 'ring-out', false), reading },
  };
  return { ...file, records: [...file.records, record] };
}

describe('What a meter shows in dead tests', () => {
  // R1 + R2 in milliohms of a meter at 20 °C: the table of the guides to BS 7671, from memory.
  const PUBLISHED: readonly (readonly [string, number])[] = [
    ['1.0 T&E', 36.2],
    ['1.5 T&E', 30.2],
    ['2.5 T&E', 19.51],
    ['4.0 T&E', 16.71],
    ['6.0 T&E', 10.49],
    ['10.0 T&E', 6.44],
  ];

  it('R1 + R2 grows with every length on the way, as the published table has it', () => {
    for (const [cable, milliohms] of PUBLISHED) {
      const reader = readerOf(houseOf(circuitOf(cable, 4)));
      const shown = stepsOf(reader, 'polarity').map((step) => meterOf(reader, step)!);
      expect(shown.map(({ unit }) => unit)).toEqual(['Ω', 'Ω', 'Ω', 'Ω']);
      shown.forEach(({ expected }, at) =>
        expect(expected! * 100)
          .withContext(cable)
          .toBeCloseTo(milliohms * (at + 1), 1),
      );
    }
  });

  it('a ring reads end to end as long as it is, round one way to each of its sockets; r2 is as much more as its core is thinner', () => {
    const file = circuitOf('2.5 T&E', 5, true);
    const reader = readerOf(houseOf(file));
    const ends = stepsOf(reader, 'ends');
    // 60 m: 7.41 and 12.1 milliohms a meter.
    expect(ends.map((step) => meterOf(reader, step)!.expected!.toFixed(3))).toEqual([
      '0.445',
      '0.445',
      '0.726',
    ]);
    expect(stepsOf(reader, 'polarity').map((step) => meterOf(reader, step)!.expected!.toFixed(2))).toEqual([
      ...['0.20', '0.39', '0.59', '0.78', '0.98'],
    ]);
    const [line, neutral, cpc] = ends as [RingStep, RingStep, RingStep];
    const asked = (house: HouseFile, step: RingStep, reading: number): string[] =>
      askedOfReading(readerOf(houseOf(house)), file.circuits[0]!.id, step, reading).map(({ kind }) => kind);
    expect([0.3, 0.45, 0.8, 1.5].map((reading) => asked(file, line, reading))).toEqual([
      ...[[], [], [], ['far-from-length']],
    ]);
    const measured = withReading(file, line, 0.46);
    expect([0.4, 0.42, 0.5, 0.52].map((reading) => asked(measured, neutral, reading))).toEqual([
      ...[['ring-unlike'], [], [], ['ring-unlike']],
    ]);
    // 0.46 × 12.1 / 7.41 = 0.75.
    expect([0.46, 0.7, 0.75, 0.8, 1].map((reading) => asked(measured, cpc, reading))).toEqual([
      ...[['ring-cpc'], [], [], [], ['ring-cpc']],
    ]);
  });

  it('insulation under a megohm is no good; where circuits are rung out nothing is written down', () => {
    const reader = readerOf(houseOf(circuitOf('1.5 T&E', 2)));
    const [apart] = stepsOf(reader, 'apart');
    const circuitId = reader.all('circuits')[0]!.id;
    expect(meterOf(reader, apart!)).toEqual({ unit: 'MΩ' });
    expect(
      [0, 0.99, 1, 500].map((reading) => askedOfReading(reader, circuitId, apart!, reading).length),
    ).toEqual([...[1, 1, 0, 0]]);
    const plan = new Plan('Rung out');
    plan.room('Room');
    const panel = plan.box('P', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    plan.device(plan.fed('R1', panel, '14/2', circuit), 'receptacle', 1, circuit);
    const there = readerOf(houseOf(plan.file));
    for (const step of ringOut(there, circuit).steps) expect(meterOf(there, step)).toBeUndefined();
  });
});

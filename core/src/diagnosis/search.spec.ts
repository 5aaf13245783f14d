import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { WorkRecord } from '../house/model.js';
import { ringOut } from '../proving/ring-out.js';
import { testedNow } from '../proving/tested.js';
import { Plan } from '../testing/plan.js';
import { diagnosisOf } from './known.js';
import { toldOf } from './search.js';

/** A light with a switch at each end of a hall. */
function hall() {
  const plan = new Plan('Search');
  plan.room('Hall', 'hall');
  const panel = plan.box('P', 'panel');
  const circuit = plan.circuit(1, 'Hall', panel, 15);
  const one = plan.fed('S1', panel, '14/2', circuit);
  const light = plan.fed('L1', one, '14/3', circuit, 'metal-octagon-4x2.125');
  const other = plan.fed('S2', light, '14/3', circuit);
  const [a, lamp, b] = [one, light, other].map(
    (boxId, at) => plan.device(boxId, at === 1 ? 'luminaire' : 'switch', 1, circuit)[0]!,
  );
  plan.control('Hall', [a!, b!], [lamp!]);
  const by = plan.person('Ansel');
  const record = (more: Partial<WorkRecord>): WorkRecord => ({
    id: plan.id(),
    kind: 'test',
    at: '2026-03-09T08:00:00Z',
    by,
    circuitId: circuit,
    ...more,
  });
  return { plan, circuit, record };
}

describe('A search', () => {
  it('hears what was rung again after the board was hung, and that last', () => {
    const { plan, circuit, record } = hall();
    const reader = readerOf(houseOf(plan.file));
    const { steps } = ringOut(reader, circuit);
    const rung = (step: (typeof steps)[number], boarded: boolean, result: 'pass' | 'fail', at: string) =>
      record({ at, result, tested: testedNow(reader, step, 'ring-out', boarded) });
    plan.file.records.push(
      ...steps.map((step) => rung(step, false, 'pass', '2026-03-09T08:00:00Z')),
      rung(steps[0]!, true, 'fail', '2026-03-20T08:00:00Z'),
    );
    const said = (): (readonly [string, boolean])[] =>
      toldOf(readerOf(houseOf(plan.file)), circuit).flatMap(({ record: { at }, evidence }) =>
        evidence.kind === 'ring' ? [[at.slice(0, 10), evidence.isGood] as const] : [],
      );
    expect(said()).toEqual([
      ...steps.slice(1).map((): [string, boolean] => ['2026-03-09', true]),
      ['2026-03-20', false],
    ]);
    // The board was off again, and it rang with open walls: that is what counts.
    plan.file.records.push(rung(steps[0]!, false, 'pass', '2026-03-21T08:00:00Z'));
    expect(said().every(([, isGood]) => isGood)).toBeTrue();
  });

  it('begins with what the crew found in all of its houses', () => {
    const { plan, circuit, record } = hall();
    const share = (elsewhere: [string, number][], own = 0): number => {
      const file = structuredClone(plan.file);
      const { hypotheses, places } = diagnosisOf(readerOf(houseOf(file)), circuit);
      const place = places.find(({ kind }) => kind === 'box')!;
      for (let nth = 0; nth < own; nth++)
        file.records.push(
          record({
            kind: 'found',
            id: plan.id(),
            cause: { fault: 'traveler on common', place: { kind: 'box', id: place.id } },
          }),
        );
      expect(hypotheses.some(({ kind }) => kind === 'traveler on common')).toBeTrue();
      const diagnosis = diagnosisOf(readerOf(houseOf(file)), circuit, elsewhere);
      return diagnosis
        .posterior([])
        .reduce(
          (sum, one, at) => (diagnosis.hypotheses[at]!.kind === 'traveler on common' ? sum + one : sum),
          0,
        );
    };
    const usual = share([]);
    expect(share([['traveler on common', 20]])).toBeGreaterThan(usual);
    expect(share([['breaker off', 20]])).toBeLessThan(usual);
    // Here or elsewhere, it is the same crew.
    expect(share([['traveler on common', 6]], 4)).toBeCloseTo(share([['traveler on common', 10]]), 9);
  });
});

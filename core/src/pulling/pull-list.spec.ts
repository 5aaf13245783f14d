import { runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { runName } from '../facts/naming.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import { HOUSE_PULLS, pullList, runsLeaving } from './pull-list.js';

describe('Pull list', () => {
  it('has 14 AWG circuits first, power before legs, outward from the home run', () => {
    const plan = new Plan('Pull');
    const room = plan.room('Room');
    const panel = plan.box('PANEL', 'panel');
    const counter = plan.circuit(1, 'Counter', panel, 20);
    const lights = plan.circuit(2, 'Lights', panel, 15);
    const last = plan.box('R9');
    const box = plan.fed('S1', panel, '14/2', lights, 'plastic-1g-22.5');
    const lamp = plan.fed('L1', box, '14/2', lights, 'plastic-round-20');
    plan.control('Light', plan.device(box, 'switch'), plan.device(lamp, 'luminaire'));
    const receptacle = plan.fed('R1', panel, '12/2', counter);
    plan.run(box, last, '14/2', lights);
    [receptacle, last].forEach((id) => plan.device(id, 'receptacle'));
    const reader = readerOf(houseOf(plan.file));
    expect(
      pullList(reader, { roomId: room }).runs.map((run) => [
        run.role,
        runName(reader, reader.get('runs', run.runId)!),
      ]),
    ).toEqual([
      ['power', 'PANEL → S1'],
      ['power', 'S1 → R9'],
      ['leg', 'S1 → L1'],
      ['power', 'PANEL → R1'],
    ]);
  });

  it('tallies what is in and sums cable planned and pulled, by marks or by length', () => {
    const plan = new Plan('Cable');
    const hall = plan.room('Hall');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    const one = plan.fed('R1', panel, '14/2', circuit);
    const bed = plan.room('Bed');
    plan.fed('R2', one, '14/2', circuit);
    const [first, second] = plan.file.runs;
    first!.measuredLengthIn = 200;
    plan.pull(first!.id, '14/2', 212);
    plan.file.pulls.push({
      id: plan.id(),
      runId: second!.id,
      cable: '14/3',
      startMark: 120,
      endMark: 101.5,
      at: '2026-03-02T08:00:00Z',
      by: 'Lead',
      state: 'scrapped',
    });
    const reader = () => readerOf(houseOf(plan.file));
    expect(pullList(reader(), { roomId: hall }).tally).toEqual({ in: 1, runs: 1 });
    expect(pullList(reader(), { roomId: bed }).tally).toEqual({ in: 0, runs: 1 });
    expect(runsLeaving(reader(), hall).map(({ id }) => id)).toEqual([second!.id]);
    plan.file.pulls[1]!.state = 'in';
    expect(pulledLengthIn(plan.file.pulls[1]!)).toBe(18.5 * 12);
    expect(reader().derive(HOUSE_PULLS, '').totals).toEqual([
      { cable: '14/3', plannedIn: 0, estimated: 0, pulledIn: 222, pulledWithoutLength: 0 },
      // The other is estimated: 24 ft to the next room, two free ends of 6 in, ½ in of sheath, 6 in of droop: 26 ft.
      { cable: '14/2', plannedIn: 200 + 26 * 12, estimated: 1, pulledIn: 212, pulledWithoutLength: 0 },
    ]);
  });

  it('lists every run of any house in exactly one room, and the house as the sum of its rooms', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        const listed = plan.file.rooms.flatMap(({ id }) =>
          pullList(reader, { roomId: id }).runs.map((run) => run.runId),
        );
        expect(listed.toSorted()).toEqual(plan.file.runs.map(({ id }) => id).toSorted());
        const pulled = new Set(plan.file.pulls.map(({ runId }) => runId)).size;
        expect(reader.derive(HOUSE_PULLS, '').tally).toEqual({ in: pulled, runs: plan.file.runs.length });
        for (const { id } of plan.file.circuits) {
          const roles = pullList(reader, { circuitId: id }).runs.map((run) => run.role);
          expect(roles.lastIndexOf('power')).toBeLessThan(
            roles.includes('leg') ? roles.indexOf('leg') : Infinity,
          );
        }
      }),
      { numRuns: runs(60) },
    );
  });
});

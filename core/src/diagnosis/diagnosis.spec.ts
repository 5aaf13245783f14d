import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import { runs } from '../testing/seed.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import { operate } from '../wiring/netlist/operate.js';
import type { MeterEnd, Report, Seen } from '../house/report.js';
import { Diagnosis } from './diagnosis.js';
import type { Hypothesis } from './hypotheses.js';
import { nextStep } from './next-step.js';

/** What somebody sees of a light in the house that has a fault: operated afresh for each look. */
function look(
  reader: HouseReader,
  circuitId: string,
  truth: Hypothesis,
  up: readonly string[],
  pointId: string,
): Seen {
  const netlist = buildNetlist(reader, netlistScope(reader, circuitId).wirings, truth.joints);
  const { loads, shorts } = operate(netlist, new Set(up));
  if (shorts.length || truth.tripsWatched) return 'trips';
  const { state } = loads.find(
    (load, at) => load.pointId === pointId && netlist.loads[at]!.role !== 'electronics',
  )!;
  return state === 'dim' || state === 'over' ? 'odd' : state;
}

/** What a meter shows there: operated afresh, by the nets that the two conductors lie in. */
function metered(
  reader: HouseReader,
  circuitId: string,
  truth: Hypothesis,
  up: readonly string[],
  ends: readonly [MeterEnd, MeterEnd],
): 'full' | 'none' | 'between' {
  const netlist = buildNetlist(reader, netlistScope(reader, circuitId).wirings, truth.joints);
  const { volts, shorts } = operate(netlist, new Set(up));
  if (shorts.length || truth.tripsWatched) return 'none';
  const [a, b] = ends.map(({ boxId, runId, key }) => {
    const at = netlist.joints.findIndex(
      (one) => one.boxId === boxId && one.joint.ends.some((own) => own.runId === runId && own.key === key),
    );
    return at < 0 ? undefined : netlist.ground.has(at) ? 0 : volts[netlist.joints[at]!.net];
  });
  if (a === undefined || b === undefined) return 'between';
  const shown = Math.abs(a - b);
  return shown < 2
    ? 'none'
    : [120, 240].some((full) => Math.abs(shown - full) < full / 20)
      ? 'full'
      : 'between';
}

/** Follows the steps until the cause is there. Every `wrongEvery`-th look is told wrong. */
function find(
  reader: HouseReader,
  circuitId: string,
  diagnosis: Diagnosis,
  truth: Hypothesis,
  wrong: (nth: number) => boolean,
) {
  const reports: Report[] = [];
  let opened = 0;
  let minutes = 0;
  for (let step = 0; step < 200; step++) {
    const next = nextStep(diagnosis, reports);
    if (!next) return { reports, opened, minutes };
    minutes += next.minutes;
    if (next.kind === 'look') {
      opened += Number(next.place.opens);
      reports.push({
        kind: 'looked',
        place: { kind: next.place.kind, id: next.place.id },
        isThere: next.place.key === truth.place.key,
      });
      continue;
    }
    if (next.kind === 'part') {
      const { boxId, runId, up } = next;
      reports.push({
        boxId,
        runId,
        up,
        kind: 'parted',
        trips: diagnosis.tripsParted(diagnosis.hypotheses.indexOf(truth), next),
      });
      continue;
    }
    if (next.kind === 'meter') {
      const { ends, up } = next;
      reports.push({ kind: 'volts', ends, up, reads: metered(reader, circuitId, truth, up, ends) });
      continue;
    }
    const seen = look(reader, circuitId, truth, next.up, next.pointId);
    const told = wrong(step) ? (seen === 'on' ? 'off' : 'on') : seen;
    reports.push({ kind: 'seen', up: next.up, pointId: next.pointId, seen: told });
  }
  throw new Error('not found in 200 steps');
}

describe('Diagnosis', () => {
  it('finds every single fault that switching or trips show, and opens fewer boxes than going out from the panel', () => {
    const sum = { faults: 0, opened: 0, outward: 0 };
    fc.assert(
      fc.property(randomSwitching(3), fc.array(fc.nat(), { minLength: 3, maxLength: 3 }), (file, picks) => {
        const reader = readerOf(houseOf(file));
        const circuitId = file.circuits[0]!.id;
        const diagnosis = new Diagnosis(reader, circuitId);
        const { wirings, joints } = netlistScope(reader, circuitId);
        if (!diagnosis.sights.loads.length) return;
        const holds = soundTable(reader, circuitId, diagnosis);
        const shown = diagnosis.hypotheses.filter((_, at) => diagnosis.cases[at]!.row.join() !== holds);
        if (!shown.length) return;
        const order = [
          ...new Set(wirings.flatMap(({ tree }) => tree.nodes.map((node) => tree.boxOf.get(node)!))),
        ].filter((boxId) => joints.has(boxId) && !wirings.some(({ tree }) => tree.panelId === boxId));
        for (const pick of picks) {
          const truth = shown[pick % shown.length]!;
          const { reports, opened } = find(reader, circuitId, diagnosis, truth, () => false);
          // What was answered is not asked again.
          expect(new Set(reports.map((one) => JSON.stringify(one))).size).toBe(reports.length);
          const [first] = diagnosis.causes(reports);
          expect(first!.place.key).withContext(truth.kind).toBe(truth.place.key);
          // Nothing that was told speaks against what it is.
          const at = diagnosis.hypotheses.indexOf(truth);
          expect(diagnosis.posterior(reports)[at]).toBeGreaterThan(0);
          if (truth.place.kind !== 'box') continue;
          const outward = order.indexOf(truth.place.id) + 1;
          if (outward === 0) continue;
          sum.faults++;
          sum.opened += opened;
          sum.outward += outward;
        }
      }),
      { numRuns: runs(15) },
    );
    expect(sum.opened).toBeLessThan(sum.outward);
  });
});

describe('What a crew sees', () => {
  it('of a light that is on in one of four lever positions names both that look so', () => {
    const plan = new Plan('Stairs');
    plan.room('Stairs', 'stairs');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'Stairs', panel, 15);
    const low = plan.fed('S1', panel, '14/2', circuit, 'plastic-1g-22.5');
    const high = plan.fed('S2', low, '14/3', circuit, 'plastic-1g-22.5');
    const lamp = plan.fed('L1', high, '14/2', circuit, 'plastic-round-20');
    const [one] = plan.device(low, 'switch');
    const [other] = plan.device(high, 'switch');
    const [light] = plan.device(lamp, 'luminaire');
    plan.control('Stairs', [one!, other!], [light!]);
    const diagnosis = new Diagnosis(readerOf(houseOf(plan.file)), circuit);
    const positions = [[], [one!], [other!], [one!, other!]];
    const said = new Set<string>();
    // Whichever of the four it is.
    for (const lit of positions) {
      const reports = positions.map((up): Report => ({
        kind: 'seen',
        up,
        pointId: light!,
        seen: up === lit ? 'on' : 'off',
      }));
      const best = diagnosis.causes(reports).filter(({ against }) => against.length === 0);
      for (const { hypotheses } of best) for (const { kind } of hypotheses) said.add(kind);
      expect(best.every((cause) => cause.place.kind !== 'breaker')).toBeTrue();
    }
    expect([...said]).toContain('traveler on common');
    expect([...said]).toContain('single-pole for a three-way');
  });

  it('of a circuit in which nothing is on looks at the breaker first', () => {
    const plan = new Plan('Dark');
    plan.room('Hall', 'hall');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'Hall', panel, 15);
    const first = plan.fed('R1', panel, '14/2', circuit);
    const second = plan.fed('R2', first, '14/2', circuit);
    const points = [first, second].flatMap((box) => plan.device(box, 'receptacle'));
    const diagnosis = new Diagnosis(readerOf(houseOf(plan.file)), circuit);
    const reports = points.map((pointId): Report => ({ kind: 'seen', up: [], pointId, seen: 'off' }));
    const next = nextStep(diagnosis, reports);
    expect(next?.kind === 'look' && next.place.kind).toBe('breaker');
    // It is on: then where both hang, and what they go through.
    const [cause] = diagnosis.causes([
      ...reports,
      { kind: 'looked', place: { kind: 'breaker', id: circuit }, isThere: false },
    ]);
    expect([`box ${first}`, `wall ${plan.file.runs[0]!.id}`]).toContain(cause!.place.key);
  });
});

/** What a sound circuit shows, in the same order. */
function soundTable(reader: HouseReader, circuitId: string, { sights }: Diagnosis): string {
  const { wirings, joints } = netlistScope(reader, circuitId);
  const netlist = buildNetlist(reader, wirings, joints);
  return sights.positions
    .flatMap((levers) => {
      const up = new Set(sights.upOf(levers));
      const { loads } = operate(netlist, up);
      return sights.loads.map((pointId) => {
        const { state } = loads.find(
          (load, at) => load.pointId === pointId && netlist.loads[at]!.role !== 'electronics',
        )!;
        return state === 'off' ? 0 : state === 'on' ? 1 : 2;
      });
    })
    .join();
}

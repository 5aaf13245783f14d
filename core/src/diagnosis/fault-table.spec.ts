import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import type { Circuit } from '../house/model.js';
import { houseOf } from '../house/house-file.js';
import type { MeterEnd, Report, Seen } from '../house/report.js';
import type { CauseKind } from '../rulebook/fault-priors.js';
import { Plan } from '../testing/plan.js';
import { DIAGNOSIS } from './known.js';
import { pairsInSteps } from './pairs.js';
import { MadeCase } from './predictions.js';
import type { Evidence } from './evidence.js';

/** What the table of the trade says that a crew sees, by hand, and the cause that has to be among those that say all of it. */
interface Case {
  readonly reader: HouseReader;
  readonly circuitId: string;
}

/** Kinds of causes that nothing speaks against, by how likely they are together, the likeliest first. */
function named({ reader, circuitId }: Case, reports: readonly Evidence[]): CauseKind[] {
  const shares = new Map<CauseKind, number>();
  const diagnosis = reader.derive(DIAGNOSIS, circuitId);
  const each = diagnosis.posterior(reports);
  for (const { hypotheses, against } of diagnosis.causes(reports))
    if (!against.length)
      for (const one of hypotheses)
        shares.set(one.kind, (shares.get(one.kind) ?? 0) + each[diagnosis.hypotheses.indexOf(one)]!);
  return [...shares].sort(([, a], [, b]) => b - a).map(([kind]) => kind);
}
const seen = (pointId: string, what: Seen, ...up: string[]): Report => ({
  kind: 'seen',
  up,
  pointId,
  seen: what,
});

/** Switch boxes in a chain from the panel, then lights, each fed by the one before. */
function chain(places: number, lights: number, more: Partial<Circuit> = {}) {
  const plan = new Plan('Chain');
  plan.room('Hall', 'hall');
  const panel = plan.box('PANEL', 'panel');
  const circuitId = plan.circuit(1, 'Hall', panel, 15, more);
  let from = panel;
  const boxes: string[] = [];
  const levers: string[] = [];
  for (let nth = 1; nth <= places; nth++) {
    from = plan.fed(`S${nth}`, from, nth === 1 ? '14/2' : '14/3', circuitId, 'plastic-1g-22.5');
    boxes.push(from);
    levers.push(...plan.device(from, 'switch'));
  }
  const lamps: string[] = [];
  for (let nth = 1; nth <= lights; nth++) {
    from = plan.fed(`L${nth}`, from, '14/2', circuitId, 'plastic-round-20');
    boxes.push(from);
    lamps.push(...plan.device(from, 'luminaire'));
  }
  plan.control('Hall', levers, lamps);
  return { reader: readerOf(houseOf(plan.file)), circuitId, levers, lamps, boxes, plan };
}

/** Receptacles in a chain. */
function outlets(count: number, more: Partial<Circuit> = {}) {
  const plan = new Plan('Outlets');
  plan.room('Study', 'office');
  const panel = plan.box('PANEL', 'panel');
  const circuitId = plan.circuit(1, 'Study', panel, 15, more);
  const boxes: string[] = [];
  const points: string[][] = [];
  let from = panel;
  for (let nth = 1; nth <= count; nth++) {
    from = plan.fed(`R${nth}`, from, '14/2', circuitId);
    boxes.push(from);
    points.push(plan.device(from, 'receptacle'));
  }
  return { reader: readerOf(houseOf(plan.file)), circuitId, boxes, points, plan };
}

/** The end of a conductor in a box: of the run between it and what feeds it. */
const endIn = ({ plan }: { plan: Plan }, boxId: string, key: string): MeterEnd => ({
  boxId,
  runId: plan.file.runs.find(({ to }) => to.boxId === boxId)!.id,
  key,
});

describe('The fault table', () => {
  it('four-way pairs mixed between cables: some positions never light', () => {
    const { lamps, ...of } = chain(3, 1);
    const light = lamps[0]!;
    const mixed = of.reader.derive(DIAGNOSIS, of.circuitId);
    const at = mixed.hypotheses.findIndex(({ kind }) => kind === 'four-way pairs mixed');
    const all = mixed.sights.positions.map((position) => {
      const up = mixed.sights.upOf(position);
      return seen(light, mixed.cases[at]!.at(position, 0) === 1 ? 'on' : 'off', ...up);
    });
    expect(all.filter((report) => report.kind === 'seen' && report.seen === 'on').length).not.toBe(4);
    expect(named(of, all)).toContain('four-way pairs mixed');
  });

  it('a missed neutral splice: the last lights are dead, the first is not', () => {
    const { levers, lamps, ...of } = chain(1, 3);
    const told = [
      seen(lamps[0]!, 'on', levers[0]!),
      seen(lamps[1]!, 'off', levers[0]!),
      seen(lamps[2]!, 'off', levers[0]!),
    ];
    expect(named(of, told).slice(0, 3)).toContain('missed neutral splice');
  });

  it('a missed jumper: nothing beyond one box, and a meter finds the hot gone there', () => {
    const { points, boxes, ...of } = outlets(4);
    const told: Report[] = [
      seen(points[0]![0]!, 'on'),
      seen(points[1]![0]!, 'on'),
      seen(points[2]![0]!, 'off'),
      seen(points[3]![0]!, 'off'),
      // Hot to ground at the dead one: nothing. The hot is lost, not the neutral.
      {
        kind: 'volts',
        ends: [endIn(of, boxes[2]!, 'BK'), endIn(of, boxes[2]!, 'BARE')],
        up: [],
        reads: 'none',
      },
    ];
    const kinds = named(of, told);
    expect(kinds).toContain('missed jumper');
    expect(kinds).not.toContain('missed neutral splice');
  });

  it('neutrals of two circuits joined: the breaker that watches trips', () => {
    const plan = new Plan('Two');
    plan.room('Hall', 'hall');
    const panel = plan.box('PANEL', 'panel');
    const one = plan.circuit(1, 'One', panel, 15, { protection: 'afci' });
    const two = plan.circuit(2, 'Two', panel, 15, { protection: 'afci' });
    const box = plan.fed('S1', panel, '14/2', one, 'plastic-2g-32');
    plan.run(panel, box, '14/2', two);
    const lights = [one, two].map((circuit, nth) => {
      const lamp = plan.fed(`L${nth + 1}`, box, '14/2', circuit, 'plastic-round-20');
      const [lever] = plan.device(box, 'switch', nth + 1, circuit);
      const [light] = plan.device(lamp, 'luminaire', 1, circuit);
      plan.control(`C${nth}`, [lever!], [light!]);
      return light!;
    });
    const of = { reader: readerOf(houseOf(plan.file)), circuitId: one };
    const told: Report[] = [{ kind: 'habit', pointId: lights[0]!, does: 'trips' }];
    expect(named(of, told)).toContain('neutrals of two circuits joined');
  });

  it('a short, a bare ground on a terminal: the breaker trips at once', () => {
    const { points, ...of } = outlets(3);
    expect(named(of, [{ kind: 'habit', pointId: points[0]![0]!, does: 'trips' }]).slice(0, 2)).toContain(
      'bare ground on a terminal',
    );
  });

  it('a switched neutral: the light is off and yet hot', () => {
    const { levers, lamps, boxes, ...of } = chain(1, 1);
    const lampBox = boxes[1]!;
    const told: Report[] = [
      seen(lamps[0]!, 'on', levers[0]!),
      seen(lamps[0]!, 'off'),
      { kind: 'volts', ends: [endIn(of, lampBox, 'BK'), endIn(of, lampBox, 'BARE')], up: [], reads: 'full' },
    ];
    expect(named(of, told)[0]).toBe('switched neutral');
  });

  it('half-switched: the tab not broken, both always on; hot and leg swapped, the wrong half is switched', () => {
    const plan = new Plan('Half');
    plan.room('Living room', 'living');
    const panel = plan.box('PANEL', 'panel');
    const circuitId = plan.circuit(1, 'Living', panel, 15);
    const box = plan.fed('S1', panel, '14/2', circuitId, 'plastic-1g-22.5');
    const outlet = plan.fed('R1', box, '14/3', circuitId, 'plastic-1g-22.5');
    const [lever] = plan.device(box, 'switch');
    const [upper, lower] = plan.device(outlet, 'receptacle');
    plan.control('Lamp', [lever!], [upper!]);
    const of = { reader: readerOf(houseOf(plan.file)), circuitId };
    const both = [
      seen(upper!, 'on'),
      seen(lower!, 'on'),
      seen(upper!, 'on', lever!),
      seen(lower!, 'on', lever!),
    ];
    expect(named(of, both)).toContain('tab not broken');
    const wrong = [
      seen(upper!, 'on'),
      seen(lower!, 'off'),
      seen(upper!, 'on', lever!),
      seen(lower!, 'on', lever!),
    ];
    expect(named(of, wrong)[0]).toBe('halves swapped');
  });

  it('series lights: dim, and with one out all out', () => {
    const { levers, lamps, ...of } = chain(1, 2);
    const told = lamps.map((light) => seen(light, 'odd', levers[0]!));
    expect(named(of, told)).toEqual(['series lights']);
  });

  it('a ground missing works: only a test finds it', () => {
    const { points, boxes, ...of } = outlets(3);
    const works = points.map(([point]) => seen(point!, 'on'));
    // From the panel on: the wire rings as far as the box before it.
    const [near, far] = [boxes[0]!, boxes[2]!].map((id) => endIn(of, id, 'BARE'));
    const dead: Report = { kind: 'rang', ends: [near!, far!], rings: false };
    const whole: Report = { kind: 'rang', ends: [near!, far!], rings: true };
    expect(named(of, [...works, dead])).toEqual(['conductor cut in the wall']);
    // The wire is whole: what a device or a metal box lacks is found by looking into its box.
    const looked: Report = { kind: 'looked', place: { kind: 'box', id: boxes[1]! }, isThere: true };
    expect(named(of, [...works, whole, looked])).toContain('ground missing');
  });

  it('a white that is not marked works: only a look finds it', () => {
    const plan = new Plan('Loop');
    plan.room('Hall', 'hall');
    const panel = plan.box('PANEL', 'panel');
    const circuitId = plan.circuit(1, 'Hall', panel, 15);
    const lamp = plan.fed('L1', panel, '14/2', circuitId, 'plastic-round-20');
    const box = plan.fed('S1', lamp, '14/2', circuitId);
    const [light] = plan.device(lamp, 'luminaire');
    const [lever] = plan.device(box, 'switch');
    plan.control('Hall', [lever!], [light!]);
    const of = { reader: readerOf(houseOf(plan.file)), circuitId };
    const works = [seen(light!, 'off'), seen(light!, 'on', lever!)];
    const told: Report[] = [...works, { kind: 'looked', place: { kind: 'box', id: box }, isThere: true }];
    expect(named(of, told)).toContain('white not marked');
  });

  it('the breaker just off: nothing is on anywhere', () => {
    const { points, ...of } = outlets(3);
    const told = points.flat().map((point) => seen(point, 'off'));
    expect(named(of, told)[0]).toBe('breaker off');
  });

  it('a nail through the run: dead with the breaker tripping, and it rings wire to wire', () => {
    const { points, boxes, ...of } = outlets(3);
    const told: Report[] = [
      { kind: 'habit', pointId: points[0]![0]!, does: 'trips' },
      ...boxes.map((id): Report => ({ kind: 'looked', place: { kind: 'box', id }, isThere: false })),
      { kind: 'rang', ends: [endIn(of, boxes[2]!, 'BK'), endIn(of, boxes[2]!, 'BARE')], rings: true },
    ];
    expect(named(of, told)[0]).toBe('conductors shorted in the wall');
  });
});

describe('What does not go together', () => {
  it('is two reports, asked the same and answered otherwise', () => {
    const { points, ...of } = outlets(3);
    const diagnosis = of.reader.derive(DIAGNOSIS, of.circuitId);
    const [one, two] = [points[0]![0]!, points[1]![0]!];
    const told = [seen(two, 'off'), seen(one, 'on'), seen(two, 'on')];
    expect(diagnosis.clash(told)).toEqual([0, 2]);
    expect(diagnosis.clash(told.slice(0, 2))).toBeUndefined();
  });

  it('is two things wrong at once where no single one explains what was told: pairs are named', () => {
    // The far lights dead by a neutral left out, and of the three-ways one with a traveler on its common.
    const { lamps, boxes, ...of } = chain(2, 2);
    const diagnosis = of.reader.derive(DIAGNOSIS, of.circuitId);
    const { hypotheses, sights, sound, wirings } = diagnosis;
    const landed = hypotheses.find(
      ({ kind, place }) => kind === 'traveler on common' && place.id === boxes[0],
    )!;
    const missed = hypotheses.filter(({ kind }) => kind === 'missed neutral splice');
    const both = missed
      .map((left) => {
        const changed = [...left.joints].filter(([boxId, own]) => own !== sound.get(boxId));
        const joints = new Map([...landed.joints, ...changed]);
        return { left, made: new MadeCase(of.reader, wirings, sights, joints, false) };
      })
      // Of the first light only: the second one is dark.
      .find(({ left, made }) => left.place.id === boxes[2] && made.row.some((one) => one === 1))!;
    const told = sights.positions.flatMap((levers, at) =>
      lamps.map((lamp, load): Report =>
        seen(lamp, both.made.at(levers, load, at) === 1 ? 'on' : 'off', ...sights.upOf(levers)),
      ),
    );
    expect(diagnosis.isExplained(told)).toBeFalse();
    const search = pairsInSteps(of.reader, diagnosis, told);
    let step = search.next();
    while (!step.done) step = search.next();
    const [best] = step.value;
    expect(best!.against).toEqual([]);
    const kinds = step.value
      .filter(({ against }) => !against.length)
      .map((pair) =>
        pair.both
          .map(({ kind }) => kind)
          .sort()
          .join(' + '),
      );
    expect(kinds).toContain('missed neutral splice + traveler on common');
  });
});

import { causesIn } from '../../inspection/causes.js';
import { said } from '../../testing/said.js';
import { setting } from '../../changes/change.js';
import { landingKey } from '../../vocabulary/terminal.js';
import { terminalText } from '../../words/terminal-text.js';
import { runs } from '../../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../../derive/reader.js';
import { conductorsOf, runsAt } from '../../facts/box-facts.js';
import { houseOf } from '../../house/house-file.js';
import { wiringFindings } from '../../testing/wiring-findings.js';
import { Plan } from '../../testing/plan.js';
import { randomHouse } from '../../testing/random-house.js';
import { boxJoints } from '../joints/box-joints.js';
import { wireCircuit } from './wire-circuit.js';
import { proveCircuit } from '../proof/prove-circuit.js';

function start(amps = 15) {
  const plan = new Plan('Wiring');
  plan.room('Room');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, amps);
  const reader = () => readerOf(houseOf(plan.file));
  /** role: conductors "tag of the far box COLOUR" + landings */
  const joints = (boxId: string): string[] => {
    const look = reader();
    const far = (runId: string): string => {
      const run = look.get('runs', runId)!;
      const id = run.from.boxId === boxId ? run.to.boxId : run.from.boxId;
      return look.get('boxes', id)!.tag;
    };
    return boxJoints(look, boxId).joints.map(
      (joint) =>
        `${joint.kind} ${joint.role}: ${[...joint.ends.map((end) => `${far(end.runId)} ${end.key}`), ...joint.landings.map((to) => `→${terminalText(to.terminal)}`)].join(', ')}${joint.open ? ' (open)' : ''}`,
    );
  };
  const codes = (): string[] => wiringFindings(reader()).map((finding) => finding.code);
  return { plan, panel, circuit, reader, joints, codes };
}

describe('Wiring', () => {
  it('makes up a switch box with the feed at the switch and power going on', () => {
    const { plan, panel, circuit, joints, codes } = start();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-1g-22.5');
    const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
    const on = plan.fed('R1', box, '14/2', circuit);
    plan.device(on, 'receptacle');
    plan.control('Light', plan.device(box, 'switch'), plan.device(lamp, 'luminaire'));
    expect(joints(box)).toEqual([
      'splice ground: PANEL BARE, L1 BARE, R1 BARE, →ground',
      'splice hot: PANEL BK, R1 BK, →supply',
      'splice neutral: PANEL WH, L1 WH, R1 WH',
      'land leg: L1 BK, →leg',
    ]);
    expect(joints(lamp)).toEqual([
      'land ground: S1 BARE, →ground',
      'land leg: S1 BK, →hot',
      'land neutral: S1 WH, →neutral',
    ]);
    expect(joints(on)).toEqual([
      'land ground: S1 BARE, →ground',
      'land hot: S1 BK, →hot',
      'land neutral: S1 WH, →neutral',
    ]);
    expect(codes()).toEqual([]);
  });

  it('puts the fan on black and the light on red of a 14/3, and asks for one where a 14/2 is', () => {
    const { plan, panel, circuit, reader, joints, codes } = start();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-2g-34');
    const fanBox = plan.fed('F1', box, '14/3', circuit, 'fan-24');
    const [fan, lamp] = plan.device(fanBox, 'fan-light');
    plan.control('Light', plan.device(box, 'switch', 1), [lamp!]);
    plan.control('Fan', plan.device(box, 'switch', 2), [fan!]);
    expect(joints(fanBox)).toContain('land leg: S1 BK, →hot 1');
    expect(joints(fanBox)).toContain('land leg: S1 RD, →hot 2');
    expect(codes()).toEqual([]);
    const run = plan.file.runs[1]!;
    run.plannedCable = '14/2';
    const wiring = wireCircuit(reader(), circuit).runs.get(run.id)!;
    expect([wiring.needed, wiring.missing.length]).toEqual(['14/3', 1]);
    const finding = wiringFindings(reader()).find(({ code }) => code === 'wiring.too-few-conductors')!;
    expect(JSON.stringify(finding.fixes![0]!.change)).toBe(
      JSON.stringify(setting('runs', run.id, { plannedCable: '14/3' })),
    );
  });

  it('keeps hot on black where a leg shares the cable with the feed: a receptacle with a switched half', () => {
    const { plan, panel, circuit, joints } = start();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-1g-22.5');
    const on = plan.fed('R1', box, '14/3', circuit);
    const [, half] = plan.device(on, 'receptacle');
    plan.control('Floor lamp', plan.device(box, 'switch'), [half!]);
    expect(joints(on)).toEqual([
      'land ground: S1 BARE, →ground',
      'land hot: S1 BK, →hot 1',
      'land leg: S1 RD, →hot 2',
      'land neutral: S1 WH, →neutral',
    ]);
  });

  it('joins smoke alarms on red, and never joins the neutrals of two circuits in one box', () => {
    const { plan, panel, circuit, joints } = start();
    const one = plan.fed('A1', panel, '14/2', circuit, 'plastic-round-20');
    const two = plan.fed('A2', one, '14/3', circuit, 'plastic-round-20');
    plan.device(one, 'alarm');
    plan.device(two, 'alarm');
    expect(joints(one)).toContain('land interconnect: A2 RD, →interconnect');
    const other = plan.circuit(2, 'Two', panel, 20);
    const box = plan.fed('M1', panel, '14/2', circuit, 'plastic-2g-34');
    plan.run(panel, box, '12/2', other);
    plan.device(box, 'receptacle', 1, circuit);
    plan.device(box, 'receptacle', 2, other);
    expect(joints(box).filter((joint) => joint.includes('neutral'))).toEqual([
      'land neutral: PANEL WH, →neutral',
      'land neutral: PANEL WH, →neutral',
    ]);
    expect(joints(box).filter((joint) => joint.includes('ground')).length).toBe(1);
  });

  const open: [string, (s: ReturnType<typeof start>) => void][] = [
    [
      'device.wrong-voltage',
      ({ plan, panel, circuit }) => {
        const range = plan.circuit(2, 'Range', panel, 30, { poles: 2 });
        plan.device(plan.fed('R1', panel, '10/3', range), 'receptacle-single');
        const lamp = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
        plan.control('Nobody', [], plan.device(lamp, 'luminaire'));
      },
    ],
    [
      'run.circuits-apart',
      ({ plan, panel, circuit }) => {
        const other = plan.circuit(2, 'Other', panel, 15);
        const box = plan.box('R1');
        plan.device(box, 'receptacle', 1, circuit);
        plan.run(panel, box, '14/3', circuit, { circuitIds: [circuit, other] });
      },
    ],
    [
      'control.pinned-wrong',
      ({ plan, panel, circuit }) => {
        const box = plan.fed('S1', panel, '14/2', circuit);
        const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
        const [lever] = plan.device(box, 'switch');
        const [load] = plan.device(lamp, 'luminaire');
        plan.control('Pinned', [lever!], [load!]);
        plan.file.controls[0]!.pinnedOrder = [load!];
      },
    ],
    [
      'control.not-a-switch',
      ({ plan, panel, circuit }) => {
        const box = plan.fed('S1', panel, '14/2', circuit);
        const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
        plan.device(box, 'switch');
        const [load] = plan.device(lamp, 'luminaire');
        const [other] = plan.device(lamp, 'luminaire');
        plan.control('Light as a place', [load!], [other!]);
      },
    ],
    [
      'control.shared-point',
      ({ plan, panel, circuit }) => {
        const box = plan.fed('S1', panel, '14/2', circuit);
        const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
        const levers = plan.device(box, 'switch');
        plan.control('One', levers, plan.device(lamp, 'luminaire'));
        plan.control('Two', levers, plan.device(lamp, 'luminaire'));
      },
    ],
    [
      'control.no-load',
      ({ plan, panel, circuit }) => {
        const box = plan.fed('S1', panel, '14/2', circuit);
        plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
        plan.control('Nothing', plan.device(box, 'switch'), []);
        const two = plan.fed('S2', box, '14/2', circuit);
        plan.file.controls[0]!.places.push(...plan.device(two, 'switch'));
      },
    ],
    [
      'control.no-place',
      ({ plan, panel, circuit }) => {
        const lamp = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
        plan.control('Nobody', [], plan.device(lamp, 'luminaire'));
      },
    ],
    [
      'control.two-circuits',
      ({ plan, panel, circuit }) => {
        const other = plan.circuit(2, 'Two', panel, 15);
        const box = plan.fed('S1', panel, '14/2', circuit);
        const lamp = plan.fed('L1', panel, '14/2', other, 'plastic-round-20');
        plan.control('Across', plan.device(box, 'switch'), plan.device(lamp, 'luminaire'));
      },
    ],
    [
      'wiring.loop',
      ({ plan, panel, circuit }) => {
        const one = plan.fed('R1', panel, '14/2', circuit);
        const two = plan.fed('R2', one, '14/2', circuit);
        [one, two].forEach((id) => plan.device(id, 'receptacle'));
        plan.run(panel, two, '14/2', circuit);
      },
    ],
  ];
  for (const [code, build] of open) {
    it(`never gives a wrong answer where it finds ${code}`, () => {
      const scene = start();
      build(scene);
      expect(scene.codes()).toContain(code);
      const look = scene.reader();
      const open = look
        .all('boxes')
        .flatMap(({ id }) => boxJoints(look, id).joints)
        .filter((joint) => joint.role === 'undecided');
      const devices = look.all('boxes').flatMap(({ id }) => [...boxJoints(look, id).openDevices]);
      expect(open.length + devices.length).toBeGreaterThan(0);
      expect(open.every((joint) => joint.open)).toBeTrue();
    });
  }

  it('counts a place that is named twice once, and goes on', () => {
    const { plan, panel, circuit, codes, joints, reader } = start();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-1g-22.5');
    const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
    const [lever] = plan.device(box, 'switch');
    plan.control('Twice', [lever!, lever!], plan.device(lamp, 'luminaire'));
    expect(codes()).toEqual(['control.point-twice']);
    expect(joints(box)).toContain('land leg: L1 BK, →leg');
    expect(proveCircuit(reader(), circuit).failures).toEqual([]);
  });

  it('says what is short, what would do, and the cheapest ways out', () => {
    const { plan, panel, circuit, reader } = start();
    const light = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
    const one = plan.fed('S1', light, '14/2', circuit, 'plastic-1g-22.5');
    const two = plan.fed('S2', light, '14/2', circuit, 'plastic-1g-22.5');
    plan.control(
      'Two places',
      [...plan.device(one, 'switch'), ...plan.device(two, 'switch')],
      plan.device(light, 'luminaire'),
    );
    const short = wiringFindings(reader()).filter(({ code }) => code === 'wiring.too-few-conductors');
    expect(
      short.map((one) => said(reader(), one)).map(({ allowed, labels }) => [allowed, labels[0]]),
    ).toEqual([
      ['14/3', 'Plan 14/3 for this run'],
      ['14/3', 'Plan 14/3 for this run'],
    ]);
    // Pinned the long way round, the derived order is a way out.
    const [a, b, c] = ['S3', 'S4', 'S5'].map((tag) => plan.box(tag, 'plastic-1g-22.5'));
    plan.run(light, a!, '14/3', circuit);
    plan.run(a!, b!, '14/3', circuit);
    plan.run(b!, c!, '14/3', circuit);
    const lamp = plan.fed('L2', c!, '14/2', circuit, 'plastic-round-20');
    const levers = [a!, b!, c!].map((box) => plan.device(box, 'switch')[0]!);
    plan.control('Chain', levers, plan.device(lamp, 'luminaire'));
    const chain = () =>
      wiringFindings(reader()).filter(
        (one) => one.code === 'wiring.too-few-conductors' && said(reader(), one).message.includes('Chain'),
      );
    expect(chain()).toEqual([]);
    plan.file.controls.at(-1)!.pinnedOrder = [levers[0]!, levers[2]!, levers[1]!];
    expect(said(reader(), chain()[0]!).labels).toContain('Let the order of “Chain” be worked out');
  });

  it('finds missing jumpers, missing home runs and points whose circuit nobody has said', () => {
    const { plan, panel, circuit, codes, reader } = start();
    const reached = plan.fed('R1', panel, '14/2', circuit);
    const lost = plan.box('R2');
    const further = plan.fed('R3', lost, '14/2', circuit);
    [reached, lost, further].forEach((id) => plan.device(id, 'receptacle'));
    // What operating shows of it stands under these causes.
    const causes = causesIn(reader())
      .map(({ finding }) => finding.code)
      .filter((code) => !code.startsWith('layout.'));
    expect(causes).toEqual(['wiring.cut-off']);
    expect(codes()).toContain('proof.neutral-broken');
    plan.run(reached, lost, '14/2', circuit);
    expect(codes()).toEqual([]);
    const other = plan.circuit(2, 'Two', panel, 15);
    plan.run(panel, reached, '14/2', other);
    const finding = wiringFindings(reader()).find(({ code }) => code === 'point.circuit-unsaid')!;
    expect(said(reader(), finding).labels).toEqual([
      'Put it on circuit 1 (One)',
      'Put it on circuit 2 (Two)',
    ]);
  });

  it('finds 14 AWG on a 20 A breaker, planned or pulled, and lets 12 AWG be on 15 A', () => {
    const { plan, panel, circuit, codes } = start(20);
    const box = plan.fed('R1', panel, '12/2', circuit);
    plan.device(box, 'receptacle');
    expect(codes()).toEqual([]);
    plan.pull(plan.file.runs[0]!.id, '14/2', 100);
    expect(codes()).toEqual(['wire.too-thin']);
    plan.file.circuits[0]!.breakerAmps = 15;
    plan.file.pulls[0]!.cable = '12/2';
    expect(codes()).toEqual([]);
  });
});

describe('Any house', () => {
  it('has every conductor end of a box in exactly one joint, and every terminal fed at most once', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        for (const box of reader.all('boxes')) {
          const { joints } = boxJoints(reader, box.id);
          const ends = joints
            .flatMap((joint) => joint.ends.map((end) => `${end.runId} ${end.key}`))
            .toSorted();
          const there = runsAt(reader, box.id)
            .flatMap((run) => conductorsOf(reader, run).map((c) => `${run.id} ${c.key}`))
            .toSorted();
          expect(ends).toEqual(there);
          const terminals = joints.flatMap((joint) =>
            joint.landings.filter((to) => to.deviceId).map((to) => landingKey(to)),
          );
          expect(new Set(terminals).size).toBe(terminals.length);
          for (const joint of joints) {
            if (joint.role === 'neutral' && joint.circuitId) {
              const circuits = new Set(
                joint.ends.flatMap((end) => reader.get('runs', end.runId)!.circuitIds),
              );
              expect([...circuits]).toEqual([joint.circuitId]);
              expect(joint.ends.every((end) => end.colour === 'WH')).toBeTrue();
            }
          }
        }
        // The findings of any house can be derived, and put into words.
        for (const finding of wiringFindings(reader))
          expect(said(reader, finding).message).toMatch(/^[^a-z].{8,}[.)”]$/su);
      }),
      { numRuns: runs(120) },
    );
  });

  it('derives the same whatever the order of the lists', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const there = readerOf(houseOf(plan.file));
        const back = readerOf(
          houseOf({
            ...plan.file,
            runs: plan.file.runs.toReversed(),
            boxes: plan.file.boxes.toReversed(),
            points: plan.file.points.toReversed(),
            controls: plan.file.controls.toReversed(),
          }),
        );
        for (const circuit of plan.file.circuits) {
          const carried = (reader: typeof there) =>
            [...wireCircuit(reader, circuit.id).runs]
              .map(([id, run]) => `${id} ${JSON.stringify([...run.carries])}`)
              .toSorted();
          expect(carried(back)).toEqual(carried(there));
        }
      }),
      { numRuns: runs(60) },
    );
  });
});

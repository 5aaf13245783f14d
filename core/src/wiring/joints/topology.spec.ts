import { said } from '../../testing/said.js';
import { awg } from '../../vocabulary/size.js';
import { terminalText } from '../../words/terminal-text.js';
import { applyChange } from '../../changes/apply.js';
import { readerOf } from '../../derive/reader.js';
import { fillBox } from '../../fill/fill-box.js';
import { houseOf } from '../../house/house-file.js';
import type { CableId } from '../../rulebook/cables.js';
import type { Run } from '../../house/model.js';
import { wiringFindings } from '../../testing/wiring-findings.js';
import { Plan } from '../../testing/plan.js';
import { boxJoints } from './box-joints.js';
import { faultsIn } from '../faults/faults.js';
import { buildNetlist, netlistScope } from '../netlist/build-netlist.js';
import { proveCircuit, proveNetlist } from '../proof/prove-circuit.js';
import { leverKind } from '../circuit/device-models.js';
import { carriedFacts } from '../../vocabulary/signal.js';
import { signalText } from '../../words/signal-text.js';
import { wireCircuit } from '../conductors/wire-circuit.js';

/**
 * The rows of the topology table of the trade, each against its conductor table written by hand: what every conductor of
 * every run carries. Common practice; colours by NEC 200.7(C) where a white is not neutral, from memory.
 */
class Scene {
  readonly plan = new Plan('Topology');
  readonly hall = this.plan.room('Hall', 'hall');
  readonly garage = this.plan.room('Garage', 'garage');
  readonly panel = this.plan.box('PANEL', 'panel', { roomId: this.garage });
  readonly circuit = this.plan.circuit(1, 'One', this.panel, 15);

  box(tag: string, roomId = this.garage, model = 'plastic-4g-72'): string {
    return this.plan.box(tag, model, { roomId });
  }
  run(from: string, to: string, cable: CableId, more: Partial<Run> = {}): string {
    return this.plan.run(from, to, cable, this.circuit, more);
  }
  lever(box: string, gang = 1, device = 'switch'): string {
    return this.plan.device(box, device, gang)[0]!;
  }
  light(box: string): string {
    return this.plan.device(box, 'luminaire')[0]!;
  }
  reader() {
    return readerOf(houseOf(structuredClone(this.plan.file)));
  }
  tag(id: string): string {
    return this.plan.file.boxes.find((box) => box.id === id)!.tag;
  }
  /** "S1-L1: BK leg, WH neutral" for each run of the circuit. */
  table(circuit = this.circuit): string[] {
    const reader = this.reader();
    return [...wireCircuit(reader, circuit).runs].map(([id, { carries }]) => {
      const run = reader.get('runs', id)!;
      const to = this.tag(run.to.boxId);
      const words = [...carries].map(
        ([key, carried]) =>
          `${key} ${signalText(reader, carriedFacts(carried))
            .replace(/ of “.*”/, '')
            .replace('traveler ', 't')}`,
      );
      return `${this.tag(run.from.boxId)}-${to}: ${words.sort().join(', ')}`;
    });
  }
  kinds(circuit = this.circuit): Record<string, string> {
    const reader = this.reader();
    return Object.fromEntries(
      [...wireCircuit(reader, circuit).levers].map(([point, place]) => {
        const device = reader.get('points', point)!.deviceId;
        return [this.tag(reader.get('devices', device)!.boxId), leverKind(place)];
      }),
    );
  }
  codes(): string[] {
    return wiringFindings(this.reader()).map(({ code }) => code);
  }
  expectProven(circuit = this.circuit): void {
    expect(proveCircuit(this.reader(), circuit).failures).toEqual([]);
    expect(this.codes()).toEqual([]);
  }
}

describe('Topologies', () => {
  it('1: feed at the switch box, then the light', () => {
    const s = new Scene();
    const [sw, light] = [s.box('S1'), s.box('L1')];
    s.run(s.panel, sw, '14/2');
    s.run(sw, light, '14/2');
    s.plan.control('Light', [s.lever(sw)], [s.light(light)]);
    expect(s.table()).toEqual(['PANEL-S1: BK hot, WH neutral', 'S1-L1: BK leg, WH neutral']);
    s.expectProven();
  });

  it('2: feed at the light box, a switch loop of 2-wire: white is supply, marked at both ends; black returns', () => {
    const s = new Scene();
    const [light, sw] = [s.box('L1'), s.box('S1')];
    s.run(s.panel, light, '14/2');
    s.run(light, sw, '14/2');
    s.plan.control('Light', [s.lever(sw)], [s.light(light)]);
    expect(s.table()).toEqual(['PANEL-L1: BK hot, WH neutral', 'L1-S1: BK leg, WH hot']);
    for (const box of [light, sw]) {
      const marked = boxJoints(s.reader(), box).joints.flatMap((joint) =>
        joint.ends.filter((end) => end.reidentified),
      );
      expect(marked.map(({ colour }) => colour)).toEqual(['WH']);
    }
    s.expectProven();
    // In a hall the rule asks for a neutral at the switch: a 2-wire loop is not enough, or the box is excused.
    s.plan.file.boxes.find(({ id }) => id === sw)!.roomId = s.hall;
    s.plan.file.boxes.find(({ id }) => id === light)!.roomId = s.hall;
    const finding = wiringFindings(s.reader()).find(({ code }) => code === 'neutral.missing-at-switch')!;
    expect(said(s.reader(), finding).source).toContain('404.2(C)');
    expect(said(s.reader(), finding).labels[0]).toBe('Plan 14/3 from L1 to S1');
    s.plan.file.boxes.find(({ id }) => id === sw)!.neutralException = 'reachable';
    s.expectProven();
  });

  it('3: a switch loop with its neutral: black supply, red return, or reversed by the school', () => {
    const s = new Scene();
    const [light, sw] = [s.box('L1', s.hall), s.box('S1', s.hall)];
    s.run(s.panel, light, '14/2');
    s.run(light, sw, '14/3');
    s.plan.control('Light', [s.lever(sw)], [s.light(light)]);
    expect(s.table()[1]).toBe('L1-S1: BK hot, RD leg, WH neutral');
    expect(boxJoints(s.reader(), sw).joints.find(({ role }) => role === 'neutral')!.kind).toBe('cap');
    s.expectProven();
    s.plan.file.rulebook.overrides['wiring.loopSupply'] = { value: 'RD' };
    expect(s.table()[1]).toBe('L1-S1: BK leg, RD hot, WH neutral');
    s.expectProven();
  });

  it('4: three-way 1, three-way 2, light', () => {
    const s = new Scene();
    const [one, two, light] = [s.box('S1', s.hall), s.box('S2', s.hall), s.box('L1', s.hall)];
    s.run(s.panel, one, '14/2');
    s.run(one, two, '14/3');
    s.run(two, light, '14/2');
    s.plan.control('Stairs', [s.lever(two), s.lever(one)], [s.light(light)]);
    expect(s.table()).toEqual([
      'PANEL-S1: BK hot, WH neutral',
      'S1-S2: BK tB, RD tA, WH neutral',
      'S2-L1: BK leg, WH neutral',
    ]);
    expect(s.kinds()).toEqual({ S1: 'three-way', S2: 'three-way' });
    s.expectProven();
  });

  it('5: feed at the light, light between the switches: red and marked white travelers, no neutral at the switches', () => {
    const s = new Scene();
    const [light, one, two] = [s.box('L1'), s.box('S1'), s.box('S2')];
    s.run(s.panel, light, '14/2');
    s.run(light, one, '14/3');
    s.run(light, two, '14/3');
    s.plan.control('Light', [s.lever(one), s.lever(two)], [s.light(light)]);
    expect(s.table()).toEqual([
      'PANEL-L1: BK hot, WH neutral',
      'L1-S1: BK hot, RD tA, WH tB',
      'L1-S2: BK leg, RD tA, WH tB',
    ]);
    s.expectProven();
    for (const run of s.plan.file.runs.slice(1)) run.plannedCable = '14/4';
    for (const box of s.plan.file.boxes) box.roomId = s.hall;
    s.plan.file.controls[0]!.wholeAreaSeen = false;
    expect(s.table().slice(1)).toEqual([
      'L1-S1: BK hot, BU tB, RD tA, WH neutral',
      'L1-S2: BK leg, BU tB, RD tA, WH neutral',
    ]);
    s.expectProven();
  });

  it('5a: feed and light at three-way 1, three-way 2 a dead end', () => {
    const s = new Scene();
    const [one, two] = [s.box('S1'), s.box('S2')];
    s.run(s.panel, one, '14/2');
    s.run(one, two, '14/3');
    s.plan.control('Light', [s.lever(one), s.lever(two)], [s.light(one)]);
    expect(s.table()).toEqual(['PANEL-S1: BK hot, WH neutral', 'S1-S2: BK leg, RD tA, WH tB']);
    s.expectProven();
    // One place with a neutral is enough where the whole area is seen; else the dead end needs four conductors.
    for (const box of s.plan.file.boxes) box.roomId = s.hall;
    s.expectProven();
    s.plan.file.controls[0]!.wholeAreaSeen = false;
    expect(s.codes()).toEqual(['neutral.missing-at-switch']);
  });

  it('6: feed at the light, then three-way 1, then three-way 2: the leg returns through the chain', () => {
    const s = new Scene();
    const [light, one, two] = [s.box('L1'), s.box('S1'), s.box('S2')];
    s.run(s.panel, light, '14/2');
    s.run(light, one, '14/2');
    s.run(one, two, '14/3');
    s.plan.control('Light', [s.lever(one), s.lever(two)], [s.light(light)]);
    expect(s.table()[1]).toBe('L1-S1: BK leg, WH hot');
    expect(s.table()[2]).toMatch(/^S1-S2: BK (leg|hot), RD tA, WH tB$/);
    s.expectProven();
  });

  it('7: four-ways between, up to six places, in the order that needs fewest conductors', () => {
    const s = new Scene();
    const boxes = ['S1', 'S2', 'S3', 'S4', 'S5', 'S6'].map((tag) => s.box(tag, s.hall));
    const light = s.box('L1', s.hall);
    s.run(s.panel, boxes[0]!, '14/2');
    boxes.slice(1).forEach((box, index) => s.run(boxes[index]!, box, '14/3'));
    s.run(boxes[5]!, light, '14/2');
    const levers = boxes.map((box) => s.lever(box));
    s.plan.control(
      'Hall',
      [levers[3]!, levers[0]!, levers[5]!, levers[2]!, levers[1]!, levers[4]!],
      [s.light(light)],
    );
    expect(s.kinds()).toEqual({
      S1: 'three-way',
      S2: 'four-way',
      S3: 'four-way',
      S4: 'four-way',
      S5: 'four-way',
      S6: 'three-way',
    });
    expect(proveCircuit(s.reader(), s.circuit).positions).toBe(64);
    s.expectProven();
  });

  it('8: fan and light on two switches, black for the fan and red for the light', () => {
    const s = new Scene();
    const [sw, fan] = [s.box('S1', s.hall), s.box('F1', s.hall, 'fan-24')];
    s.run(s.panel, sw, '14/2');
    s.run(sw, fan, '14/3');
    const [blades, lamp] = s.plan.device(fan, 'fan-light');
    s.plan.control('Light', [s.lever(sw, 1)], [lamp!]);
    s.plan.control('Fan', [s.lever(sw, 2)], [blades!]);
    const reader = s.reader();
    const { carries } = [...wireCircuit(reader, s.circuit).runs.values()][1]!;
    expect(signalText(reader, carriedFacts(carries.get('BK')!))).toBe('leg of “Fan”');
    expect(signalText(reader, carriedFacts(carries.get('RD')!))).toBe('leg of “Light”');
    s.expectProven();
  });

  it('9 and 10: several single-poles from one feed, two of them on one yoke with one supply', () => {
    const s = new Scene();
    const sw = s.box('S1', s.hall);
    s.run(s.panel, sw, '14/2');
    const levers = [s.lever(sw, 1), ...s.plan.device(sw, 'switch-double', 2)];
    levers.forEach((lever, index) => {
      const light = s.box(`L${index}`, s.hall);
      s.run(sw, light, '14/2');
      s.plan.control(`Light ${index}`, [lever], [s.light(light)]);
    });
    const hot = boxJoints(s.reader(), sw).joints.find(({ role }) => role === 'hot')!;
    expect(hot.landings.map(({ terminal }) => terminalText(terminal))).toEqual(['supply', 'supply']);
    s.expectProven();
  });

  it('11: a switched half of a receptacle keeps the other half on', () => {
    const s = new Scene();
    const [sw, outlet] = [s.box('S1', s.hall), s.box('R1', s.hall)];
    s.run(s.panel, sw, '14/2');
    s.run(sw, outlet, '14/3');
    const [half] = s.plan.device(outlet, 'receptacle');
    s.plan.control('Floor lamp', [s.lever(sw)], [half!]);
    expect(s.table()[1]).toBe('S1-R1: BK hot, RD leg, WH neutral');
    s.expectProven();
  });

  it('12 and 13: receptacles and alarms fed on, alarms joined on red', () => {
    const s = new Scene();
    const [r1, a1, a2] = [s.box('R1'), s.box('A1'), s.box('A2')];
    s.run(s.panel, r1, '14/2');
    s.run(r1, a1, '14/2');
    s.run(a1, a2, '14/3');
    s.plan.device(r1, 'receptacle');
    [a1, a2].forEach((box) => s.plan.device(box, 'alarm'));
    expect(s.table()[2]).toBe('A1-A2: BK hot, RD interconnect, WH neutral');
    s.expectProven();
  });

  it('14: single wires in raceway: any colours, the neutral uncut and counted twice, metal boxes bonded', () => {
    const s = new Scene();
    const [sw, light] = [
      s.box('S1', s.garage, 'metal-square-4x2.125'),
      s.box('L1', s.garage, 'metal-octagon-4x2.125'),
    ];
    const wires = (...colours: ('BK' | 'WH' | 'RD' | 'YE')[]) => ({
      kind: 'raceway' as const,
      wires: colours.map((colour) => ({ size: awg(14), colour })),
      tradeSize: '1/2' as const,
    });
    s.plan.run(s.panel, sw, undefined, s.circuit, wires('BK', 'WH'));
    s.plan.run(sw, light, undefined, s.circuit, wires('RD', 'WH'));
    s.plan.control('Light', [s.lever(sw)], [s.light(light)]);
    expect(s.table()).toEqual(['PANEL-S1: BK hot, WH neutral', 'S1-L1: RD leg, WH neutral']);
    const { joints } = boxJoints(s.reader(), sw);
    expect(joints.find(({ role }) => role === 'neutral')).toEqual(
      jasmine.objectContaining({ kind: 'uncut', loopIn: 12 }),
    );
    expect(joints.find(({ role }) => role === 'ground')!.landings.length).toBe(2);
    s.expectProven();
    // 2 hots and legs × 2.00, the loop × 4.00, the yoke × 4.00: no ground comes in, EMT is the ground.
    expect(fillBox(s.reader(), sw)!.totalIn3).toBe(4 + 4 + 4);
  });

  it('14: wires by the palette of the house, and what is missing is drawn in its colours; the raceway may be too full', () => {
    const s = new Scene();
    const [one, two, light] = ['S1', 'S2', 'L1'].map((tag) => s.box(tag, s.garage, 'metal-square-4x2.125'));
    const pipe = (from: string, to: string, colours: string[]) =>
      s.plan.run(from, to, undefined, s.circuit, {
        kind: 'raceway',
        tradeSize: '1/2',
        wires: colours.map((colour) => ({ size: awg(14), colour: colour as 'BK' })),
      });
    pipe(s.panel, one!, ['BK', 'WH']);
    const between = pipe(one!, two!, ['WH', 'OG']);
    pipe(two!, light!, ['RD', 'WH']);
    s.plan.control('Light', [s.lever(one!), s.lever(two!)], [s.light(light!)]);
    const finding = wiringFindings(s.reader()).find(({ code }) => code === 'wiring.too-few-conductors')!;
    expect(said(s.reader(), finding).labels[0]).toBe('Draw 14 yellow into it');
    const applied = applyChange(houseOf(s.plan.file), finding.fixes![0]!.change);
    if (!applied.ok) throw new Error(applied.refusal.message);
    const reader = readerOf(applied.document);
    expect(wiringFindings(reader).map(({ code }) => code)).toEqual([]);
    expect(
      signalText(reader, carriedFacts(wireCircuit(reader, s.circuit).runs.get(between)!.carries.get('YE')!)),
    ).toBe('traveler A of “Light”');
    // 13 wires of 14 AWG: 0.1261 in² against 40 % of 0.304 in² (chapter 9, from memory).
    s.plan.file.runs.find(({ id }) => id === between)!.wires = Array.from({ length: 13 }, () => ({
      size: awg(14),
      colour: 'BK',
    }));
    const full = wiringFindings(s.reader()).find(({ code }) => code === 'raceway.too-full')!;
    const { measured, allowed } = said(s.reader(), full);
    expect([measured, allowed]).toEqual(['0.126 in²', '0.122 in²']);
  });

  it('15: a gang added later is fed from the permanent line that is in the box', () => {
    const s = new Scene();
    const outlet = s.box('R1', s.hall);
    s.run(s.panel, outlet, '14/2');
    s.plan.device(outlet, 'receptacle', 1);
    const light = s.box('L1', s.hall);
    s.run(outlet, light, '14/2');
    s.plan.control('Late', [s.lever(outlet, 2)], [s.light(light)]);
    expect(s.table()[1]).toBe('R1-L1: BK leg, WH neutral');
    s.expectProven();
  });

  it('16: a feed-through GFCI receptacle feeds on from LOAD, or is pigtailed past by the school', () => {
    const s = new Scene();
    const [gfci, beyond] = [s.box('R1'), s.box('R2')];
    s.run(s.panel, gfci, '14/2');
    s.run(gfci, beyond, '14/2');
    s.plan.device(gfci, 'receptacle-gfci');
    s.plan.device(beyond, 'receptacle');
    expect(s.table()).toEqual([
      'PANEL-R1: BK hot, WH neutral',
      'R1-R2: BK protected hot, WH protected neutral',
    ]);
    const neutrals = boxJoints(s.reader(), gfci).joints.filter(({ role }) => role === 'neutral');
    expect(neutrals.map(({ landings }) => landings.map(({ terminal }) => terminalText(terminal)))).toEqual([
      ['line neutral'],
      ['load neutral'],
    ]);
    s.expectProven();
    s.plan.file.rulebook.overrides['wiring.gfciOnward'] = { value: 'pigtailed-past' };
    expect(s.table()[1]).toBe('R1-R2: BK hot, WH neutral');
    s.expectProven();
  });

  it('17: 240 V with its white marked or with neutral, and two circuits that share one neutral', () => {
    const s = new Scene();
    const [range, heater, one] = [s.box('RG'), s.box('WH'), s.box('R1')];
    const ranges = s.plan.circuit(2, 'Range', s.panel, 30, { poles: 2 });
    const heat = s.plan.circuit(3, 'Heater', s.panel, 30, { poles: 2 });
    const a = s.plan.circuit(4, 'A', s.panel, 15, { neutralGroup: 'AB', spaces: [1] });
    const b = s.plan.circuit(5, 'B', s.panel, 15, { neutralGroup: 'AB', spaces: [3] });
    s.plan.run(s.panel, range, '10/3', ranges);
    s.plan.device(range, 'receptacle-240-neutral');
    s.plan.run(s.panel, heater, '10/2', heat);
    s.plan.device(heater, 'appliance-240');
    s.plan.run(s.panel, one, '14/3', a, { circuitIds: [a, b] });
    s.plan.device(one, 'receptacle', 1, a);
    s.plan.device(one, 'receptacle', 2, b);
    expect(s.table(ranges)).toEqual(['PANEL-RG: BK first hot, RD second hot, WH neutral']);
    expect(s.table(heat)).toEqual(['PANEL-WH: BK first hot, WH second hot']);
    expect(s.table(b)).toEqual(['PANEL-R1: BK hot of circuit 4, RD hot of circuit 5, WH neutral']);
    for (const circuit of [ranges, heat, a]) s.expectProven(circuit);
  });

  it('two cables side by side: each carries a balanced set of its own', () => {
    const s = new Scene();
    const [one, two, light] = [s.box('S1', s.hall), s.box('S2', s.hall), s.box('L1', s.hall)];
    s.run(s.panel, one, '14/2');
    s.run(one, two, '14/2', { purpose: 'power' });
    s.run(one, two, '14/3', { purpose: 'travelers' });
    s.run(two, light, '14/2');
    const outlet = s.box('R1');
    s.run(two, outlet, '14/2');
    s.plan.device(outlet, 'receptacle');
    s.plan.control('Stairs', [s.lever(one), s.lever(two)], [s.light(light)]);
    expect(s.table()).toEqual([
      'PANEL-S1: BK hot, WH neutral',
      'S1-S2: BK hot, WH neutral',
      'S2-L1: BK leg, WH neutral',
      'S2-R1: BK hot, WH neutral',
      'S1-S2: BK tB, RD tA, WH neutral',
    ]);
    const neutrals = boxJoints(s.reader(), two).joints.filter(({ role }) => role === 'neutral');
    expect(neutrals.map(({ ends }) => ends.length)).toEqual([2, 2]);
    s.expectProven();
    // A receptacle on the one cable with its neutral on the other.
    s.plan.device(two, 'receptacle', 2);
    s.expectProven();
    const reader = s.reader();
    const { wirings, joints } = netlistScope(reader, s.circuit);
    const fault = faultsIn(reader, joints).find(({ kind }) => kind === 'hot and neutral by different ways')!;
    const { failures } = proveNetlist(reader, buildNetlist(reader, wirings, fault.into(joints)));
    const between = s.plan.file.runs.filter(({ purpose }) => purpose).map(({ id }) => id);
    expect(failures.map(({ code, runId }) => [code, runId])).toEqual(
      jasmine.arrayWithExactContents(between.map((id) => ['proof.unbalanced', id])),
    );
  });
});

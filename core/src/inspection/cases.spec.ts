import { said, saidBox } from '../testing/said.js';
import { awg } from '../vocabulary/size.js';
import { NEUTRAL_BAR } from '../vocabulary/terminal.js';
import { terminalText } from '../words/terminal-text.js';
import { onDevice } from '../testing/named-terminal.js';
import { setting } from '../changes/change.js';
import { many, runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import type { CableId } from '../rulebook/cables.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import type { Box, Joint } from '../house/model.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { madeUp } from '../testing/made-up.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { faultsIn } from '../wiring/faults/faults.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import { recordOfJoint } from '../wiring/joints/made-joints.js';
import { proveCircuit, proveNetlist } from '../wiring/proof/prove-circuit.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { wiringFindings } from '../testing/wiring-findings.js';

/** A house in words; each case below once gave a wrong answer. */
class Case {
  readonly plan: Plan;
  readonly panel: string;
  readonly rooms: Record<string, string> = {};
  constructor(base: 'us-2017' | 'us-2020' | 'us-2023' = 'us-2017') {
    this.plan = new Plan('Case', base);
    this.rooms['garage'] = this.plan.room('Garage', 'garage');
    this.panel = this.plan.box('PANEL', 'panel');
    this.rooms['hall'] = this.plan.room('Hall', 'hall');
    this.rooms['utility'] = this.plan.room('Utility', 'utility');
  }
  get file(): HouseFile {
    return this.plan.file;
  }
  reader() {
    const read = readHouseFile(structuredClone(this.file));
    if (!read.ok) throw new Error(read.problems[0]!.message);
    return readerOf(read.house);
  }
  box(id: string): Box {
    return this.file.boxes.find((one) => one.id === id)!;
  }
  /** Records a box as its steps say, changed by hand. */
  make(id: string, change: (joints: Joint[]) => void = () => undefined): void {
    const joints = makeUpBox(this.reader(), id).steps.map((step) => recordOfJoint(step.joint));
    change(joints);
    this.box(id).asBuilt = joints;
  }
  found(): string[] {
    return wiringFindings(this.reader()).map(({ code, severity }) => `${code} ${severity}`);
  }
  lands(id: string): string[] {
    return boxJoints(this.reader(), id)
      .joints.flatMap(({ ends, landings }) =>
        landings
          .filter(({ terminal }) => terminal.kind !== 'ground')
          .map(
            ({ terminal }) =>
              `${terminalText(terminal)}: ${ends.map(({ key, runId }) => `${key}${this.number(runId)}`).join('+')}`,
          ),
      )
      .sort();
  }
  private number(runId: string): number {
    return this.file.runs.findIndex(({ id }) => id === runId) + 1;
  }
  /** Takes the first way out of a finding, and says what is found then. */
  after(code: string, pick = 0): string[] {
    const finding = wiringFindings(this.reader()).find((one) => one.code === code)!;
    const applied = applyChange(houseOf(structuredClone(this.file)), finding.fixes![pick]!.change);
    if (!applied.ok) throw new Error(applied.refusal.message);
    return wiringFindings(readerOf(applied.document)).map((one) => `${one.code} ${one.severity}`);
  }
  proven(...circuits: string[]): void {
    for (const circuit of circuits) expect(proveCircuit(this.reader(), circuit).failures).toEqual([]);
  }
}

/** A light switched from three boxes in a row, over this cable from the first to the second. */
function chainOfThree(between: CableId) {
  const c = new Case();
  const circuit = c.plan.circuit(1, 'One', c.panel, 15);
  const room = { roomId: c.rooms['utility']! };
  const boxes = ['S1', 'S2', 'S3'].map((tag) => c.plan.box(tag, 'plastic-2g-34', room));
  c.plan.run(c.panel, boxes[0]!, '14/2', circuit);
  c.plan.run(boxes[0]!, boxes[1]!, between, circuit);
  c.plan.run(boxes[1]!, boxes[2]!, '14/4', circuit);
  const light = c.plan.fed('L1', boxes[2]!, '14/2', circuit, 'plastic-round-20', room);
  c.plan.control(
    'Hall',
    boxes.flatMap((box) => c.plan.device(box, 'switch')),
    c.plan.device(light, 'luminaire'),
  );
  return { c, circuit, boxes, room };
}

describe('One device of two circuits', () => {
  for (const group of [undefined, 'AB'])
    it(`has each side on its own circuit, the tab broken${group ? ', sharing one neutral' : ''}`, () => {
      const c = new Case();
      const shares = (space: number) => (group ? { neutralGroup: group, spaces: [space] } : {});
      const [one, two] = [1, 2].map((n) => c.plan.circuit(n, `C${n}`, c.panel, 15, shares(2 * n - 1)));
      const box = c.plan.box('R1', 'plastic-2g-34', { roomId: c.rooms['utility']! });
      if (group) c.plan.run(c.panel, box, '14/3', one!, { circuitIds: [one!, two!] });
      else for (const id of [one!, two!]) c.plan.run(c.panel, box, '14/2', id);
      const [upper, lower] = c.plan.device(box, 'receptacle', 1, one);
      c.file.points.find(({ id }) => id === lower)!.circuitId = two!;
      expect(upper).toBeDefined();
      expect(c.lands(box)).toEqual(
        group
          ? ['hot 1: BK1', 'hot 2: RD1', 'neutral: WH1']
          : ['hot 1: BK1', 'hot 2: BK2', 'neutral 1: WH1', 'neutral 2: WH2'],
      );
      c.proven(one!, two!);
      expect(c.found()).toEqual(['yoke.two-circuits fix']);
      const sheet = saidBox(c.reader(), box).devices[0]!;
      expect(sheet.notes).toContain('Break the tab between the two hot screws.');
      // On one hot after all: the halves are of two breakers.
      c.make(box, (joints) => {
        const hots = joints.filter(({ terminals }) => terminals?.[0]?.terminal.kind === 'hot');
        hots[0]!.terminals = [...hots[0]!.terminals!, ...hots[1]!.terminals!];
        delete hots[1]!.terminals;
      });
      expect(c.found()).toContain('proof.other-breaker stop');
    });

  it('feeds the levers of one yoke from a supply each, and a fan and its light from theirs', () => {
    const c = new Case();
    const [one, two] = [1, 2].map((n) => c.plan.circuit(n, `C${n}`, c.panel, 15));
    const sw = c.plan.box('S1', 'plastic-2g-34', { roomId: c.rooms['utility']! });
    const fan = c.plan.box('F1', 'fan-24', { roomId: c.rooms['utility']! });
    for (const id of [one!, two!]) {
      c.plan.run(c.panel, sw, '14/2', id);
      c.plan.run(sw, fan, '14/2', id);
    }
    const levers = c.plan.device(sw, 'switch-double', 1, one);
    const loads = c.plan.device(fan, 'fan-light', 1, one);
    for (const pair of [levers, loads]) c.file.points.find(({ id }) => id === pair[1])!.circuitId = two!;
    c.plan.control('Fan', [levers[0]!], [loads[0]!]);
    c.plan.control('Light', [levers[1]!], [loads[1]!]);
    expect(c.lands(sw)).toEqual(['leg 1: BK2', 'leg 2: BK4', 'supply 1: BK1', 'supply 2: BK3']);
    expect(c.lands(fan)).toEqual(['hot 1: BK2', 'hot 2: BK4', 'neutral 1: WH2', 'neutral 2: WH4']);
    c.proven(one!, two!);
    const names = saidBox(c.reader(), fan).steps.map(({ landsOn }) => landsOn);
    expect(names).toContain('Fan with light: fan lead');
    expect(names).toContain('Fan with light: light lead');
  });
});

describe('Panels', () => {
  it('bring the neutral of an AFCI or GFCI breaker to the breaker; on the bar it is caught, and renumbering reopens nothing', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'One', c.panel, 15, { protection: 'dual' });
    const other = c.plan.circuit(2, 'Two', c.panel, 15);
    const boxes = [circuit, other].map((id, n) => {
      const box = c.plan.fed(`R${n}`, c.panel, '14/2', id, 'plastic-1g-20', { roomId: c.rooms['utility']! });
      c.plan.device(box, 'receptacle');
      return box;
    });
    expect(boxes.length).toBe(2);
    expect(c.lands(c.panel)).toEqual([
      'breaker, neutral: WH1',
      'breaker: BK1',
      'breaker: BK2',
      'ground bar: BARE1+BARE2',
      'neutral bar: WH2',
    ]);
    c.make(c.panel);
    expect(c.found()).toEqual([]);
    // Recorded by number, as it was kept before: it keeps its meaning when the circuits are renumbered.
    for (const { terminals } of c.box(c.panel).asBuilt!)
      for (const { terminal } of terminals ?? []) {
        if (!('circuitId' in terminal)) continue;
        Object.assign(terminal, { number: terminal.circuitId === circuit ? 1 : 2 });
        delete terminal.circuitId;
      }
    expect(c.found()).toEqual([]);
    let house = houseOf(structuredClone(c.file));
    for (const [id, number] of [
      [circuit, 9],
      [other, 1],
      [circuit, 2],
    ] as const) {
      const applied = applyChange(house, setting('circuits', id, { number }));
      if (!applied.ok) throw new Error(applied.refusal.message);
      house = applied.document;
    }
    expect(wiringFindings(readerOf(house))).toEqual([]);
    c.make(c.panel, (joints) => {
      const isNeutral = (joint: Joint, number?: number): boolean => {
        const terminal = joint.terminals?.[0]?.terminal;
        return terminal?.kind === 'breaker-neutral' && (number === undefined || terminal.number === number);
      };
      const neutral = joints.find((joint) => isNeutral(joint, 1)) ?? joints.find((joint) => isNeutral(joint));
      neutral!.terminals = [{ terminal: NEUTRAL_BAR }];
    });
    expect(c.found()).toEqual(jasmine.arrayContaining(['proof.neutral-on-bar stop', 'box.reopen stop']));
  });

  it('stop three hots on one neutral and two on one leg, and ask for a marked breaker where two cables come home', () => {
    const c = new Case();
    const circuits = [1, 3, 5].map((space, n) =>
      c.plan.circuit(n + 1, `C${n}`, c.panel, 15, { neutralGroup: 'A', spaces: [space] }),
    );
    const box = c.plan.box('R1', 'plastic-4g-72', { roomId: c.rooms['utility']! });
    c.plan.run(c.panel, box, '14/4', circuits[0]!, { circuitIds: circuits });
    circuits.forEach((id, gang) => c.plan.device(box, 'receptacle', gang + 1, id));
    expect(c.found()).toContain('multiwire.too-many stop');
    c.file.circuits.pop();
    c.file.runs[0]!.circuitIds.pop();
    c.file.points.splice(-2);
    c.file.devices.pop();
    expect(c.found()).not.toContain('multiwire.too-many stop');
    c.file.circuits[1]!.spaces = [5];
    expect(c.found()).toContain('multiwire.same-leg stop');
    c.file.circuits[1]!.spaces = [7];
    expect(c.found()).toEqual([]);
    const plain = c.plan.circuit(9, 'Two homes', c.panel, 15);
    for (const tag of ['R8', 'R9'])
      c.plan.device(
        c.plan.fed(tag, c.panel, '14/2', plain, 'plastic-1g-20', { roomId: c.rooms['utility']! }),
        'receptacle',
      );
    expect(c.found()).toEqual(['breaker.two-runs note']);
    expect(c.after('breaker.two-runs')).toEqual([]);
  });

  it('are fed by a feeder: two hots, a neutral, and a ground that stays apart from it', () => {
    const c = new Case();
    const feeder = c.plan.circuit(1, 'Feeder', c.panel, 50, { poles: 2, spaces: [1, 3] });
    const sub = c.plan.fed('SUB', c.panel, '6/3', feeder, 'panel', { roomId: c.rooms['utility']! });
    const branch = c.plan.circuit(1, 'Branch', sub, 15);
    const box = c.plan.fed('R1', sub, '14/2', branch, 'plastic-1g-20', { roomId: c.rooms['utility']! });
    c.plan.device(box, 'receptacle');
    expect(c.lands(sub)).toEqual([
      'breaker: BK2',
      'ground bar: BARE1+BARE2',
      'main lug 1: BK1',
      'main lug 2: RD1',
      'neutral bar: WH1',
      'neutral bar: WH2',
    ]);
    c.proven(feeder, branch);
    expect(c.found()).toEqual([]);
    c.make(sub, (joints) => {
      const [ground, neutral] = ['ground-bar', 'neutral-bar'].map((kind) =>
        joints.find(({ terminals }) => terminals?.[0]?.terminal.kind === kind)!,
      );
      neutral!.ends.push(ground!.ends.pop()!);
      neutral!.kind = 'splice';
    });
    expect(c.found()).toContain('proof.neutral-grounded stop');
    delete c.box(sub).asBuilt;
    c.file.runs[0]!.plannedCable = '6/2';
    expect(c.found()).toContain('wiring.too-few-conductors stop');
    c.file.circuits[0]!.poles = 1;
    expect(c.found()).toContain('panel.not-derived fix');
  });

  it('go by nameplate where the lead has entered one: 12 AWG on 30 A can be right there', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'Condenser', c.panel, 30, { poles: 2 });
    const box = c.plan.fed('AC', c.panel, '12/2', circuit, 'plastic-2g-34', { roomId: c.rooms['utility']! });
    c.plan.device(box, 'appliance-240');
    expect(c.found()).toEqual(['wire.too-thin stop']);
    c.file.circuits[0]!.nameplate = { mca: 18.2, mocp: 30 };
    expect(c.found()).toEqual([]);
    c.file.circuits[0]!.nameplate = { mca: 21, mocp: 25 };
    expect(c.found()).toEqual(['wire.too-thin stop', 'breaker.above-nameplate stop']);
  });
});

describe('GFCI receptacles that feed on', () => {
  function kitchen(model = 'receptacle') {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'Counter', c.panel, 20);
    const place = { roomId: c.plan.room('Kitchen', 'kitchen') };
    const first = c.plan.fed('R1', c.panel, '12/2', circuit, 'plastic-1g-22.5', place);
    c.plan.device(first, 'receptacle-gfci');
    const second = c.plan.fed('R2', first, '12/2', circuit, 'plastic-1g-22.5', place);
    c.plan.device(second, model);
    return { c, circuit, first, second, place };
  }

  it('are caught when LOAD meets LINE or is fed backwards', () => {
    const { c, circuit } = kitchen();
    const reader = c.reader();
    const { wirings, joints } = netlistScope(reader, circuit);
    const kinds = new Map<string, number>();
    for (const fault of faultsIn(reader, joints)) {
      if (!/LOAD/.test(fault.kind)) continue;
      kinds.set(fault.kind, (kinds.get(fault.kind) ?? 0) + 1);
      const codes = proveNetlist(reader, buildNetlist(reader, wirings, fault.into(joints))).failures.map(
        ({ code }) => code,
      );
      expect(codes).withContext(fault.kind).toContain('proof.load-on-line');
    }
    expect([...kinds]).toEqual([
      ['LOAD joined to LINE', 2],
      ['GFCI fed on LOAD', 1],
    ]);
    const titles = saidBox(reader, joints.keys().next().value!).steps.map(({ title }) => title);
    expect(titles.length).toBeGreaterThan(0);
  });

  it('protect what lies beyond the split of a shared neutral, and not what goes on together', () => {
    const c = new Case();
    const place = { roomId: c.plan.room('Kitchen', 'kitchen') };
    const [one, two] = [1, 3].map((space, n) =>
      c.plan.circuit(n + 1, `C${n}`, c.panel, 20, { neutralGroup: 'A', spaces: [space] }),
    );
    const split = c.plan.box('R1', 'plastic-2g-34', place);
    c.plan.run(c.panel, split, '12/3', one!, { circuitIds: [one!, two!] });
    const near = c.plan.fed('G1', split, '12/2', one!, 'plastic-1g-22.5', place);
    c.plan.device(near, 'receptacle-gfci', 1, one);
    const far = c.plan.fed('R2', near, '12/2', one!, 'plastic-1g-22.5', place);
    c.plan.device(far, 'receptacle', 1, one);
    expect(c.lands(near)).toContain('load neutral: WH3');
    c.proven(one!);
    expect(c.found()).toEqual([]);
    const titles = saidBox(c.reader(), near).steps.map(({ title }) => title);
    expect(titles).toContain('Hot of circuit 1 to LINE');
    expect(titles.some((title) => title.includes('from LOAD, protected'))).toBeTrue();
  });

  it('are a stop where a control across them leaves a receptacle open that the room wants protected, with a way out', () => {
    const { c, circuit, first, second } = kitchen('receptacle-single');
    const light = c.plan.fed('L1', second, '12/3', circuit, 'plastic-round-20', {
      roomId: c.rooms['utility']!,
    });
    c.box(first).catalogueId = 'plastic-2g-34';
    c.file.runs[1]!.plannedCable = '12/3';
    c.plan.control('Over', c.plan.device(first, 'switch', 2), c.plan.device(light, 'luminaire'));
    expect(c.found()).toEqual(['gfci.crossed stop']);
    expect(new Set(c.after('gfci.crossed'))).toEqual(new Set(['gfci.crossed note']));
    c.file.circuits[0]!.protection = 'gfci';
    expect(c.found()).toEqual(['gfci.crossed note']);
  });
});

describe('Boxes and devices', () => {
  it('that a fan hangs on, or could be hung on by a spare leg, are made for a fan; no way out offers another', () => {
    for (const spare of [false, true]) {
      const c = new Case();
      const circuit = c.plan.circuit(1, 'One', c.panel, 15);
      const roomId = c.plan.room('Bedroom', 'bedroom');
      const sw = c.plan.fed('S1', c.panel, '14/2', circuit, 'plastic-2g-34', { roomId });
      const ceiling = c.plan.fed('F1', sw, '14/3', circuit, 'plastic-round-20', { roomId });
      c.plan.control(
        'Light',
        c.plan.device(sw, 'switch'),
        c.plan.device(ceiling, spare ? 'luminaire' : 'fan'),
      );
      expect(c.found()).toEqual(['box.not-for-fan stop']);
      expect(c.after('box.not-for-fan')).toEqual([]);
      const finding = wiringFindings(c.reader()).find(({ code }) => code === 'box.not-for-fan')!;
      expect(finding.fixes!.length).toBeGreaterThan(0);
      expect(said(c.reader(), finding).labels.every((label) => label.includes('Fan-rated'))).toBeTrue();
      c.file.runs[1]!.plannedCable = '14/2';
      expect(c.found()).toEqual(spare ? [] : ['box.not-for-fan stop']);
    }
  });

  it('a light with its own splice box takes as many cables as are marked on it, not so much volume', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'Lights', c.panel, 15);
    const first = c.plan.fed('L1', c.panel, '14/2', circuit, 'light-box');
    c.plan.device(first, 'luminaire');
    for (const tag of ['L2', 'L3', 'L4', 'L5'])
      c.plan.device(c.plan.fed(tag, first, '14/2', circuit, 'light-box'), 'luminaire');
    expect(c.found()).toEqual(['box.too-many-cables stop']);
    // One from light to light instead.
    c.file.runs.at(-1)!.from = { boxId: c.file.boxes.find(({ tag }) => tag === 'L2')!.id };
    expect(c.found()).toEqual([]);
  });

  it('range and dryer receptacles take two gangs, dimmers and timers only what their kind serves', () => {
    const c = new Case();
    const range = c.plan.circuit(1, 'Range', c.panel, 50, { poles: 2 });
    const box = c.plan.fed('RG', c.panel, '6/3', range, 'plastic-1g-22.5', { roomId: c.rooms['utility']! });
    c.plan.device(box, 'receptacle-240-neutral');
    expect(c.found()).toEqual(jasmine.arrayContaining(['gang.none-such fix', 'fill.too-full stop']));
    c.box(box).catalogueId = 'plastic-2g-35';
    expect(c.found()).toEqual(['fill.too-full stop']);
    delete c.box(box).catalogueId;
    Object.assign(c.box(box), {
      markedVolumeIn3: 45,
      material: 'plastic',
      kind: 'device',
      gangs: 2,
      slots: 4,
      markedClamps: 'none',
      groundScrew: false,
    });
    expect(c.found()).toEqual([]);
    const circuit = c.plan.circuit(2, 'Hall', c.panel, 15);
    const places: string[] = [];
    let at = c.panel;
    for (const [n, type] of ['switch', 'dimmer', 'timer'].entries()) {
      at = c.plan.fed(`S${n}`, at, n ? '14/4' : '14/2', circuit, 'plastic-1g-22.5', {
        roomId: c.rooms['utility']!,
      });
      places.push(...c.plan.device(at, type));
    }
    const light = c.plan.fed('L1', at, '14/2', circuit, 'plastic-round-20', { roomId: c.rooms['utility']! });
    c.plan.control('Hall', places, c.plan.device(light, 'luminaire'));
    expect(c.found()).toEqual(['device.cannot-serve fix', 'device.cannot-serve fix']);
    expect(c.after('device.cannot-serve')).toEqual(['device.cannot-serve fix']);
  });

  it('raceways with 8 and 6 AWG are counted (chapter 9 tables 4 and 5, from memory), others say that they cannot be', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'Range', c.panel, 50, { poles: 2 });
    const box = c.plan.box('RG', 'plastic-4g-72', { roomId: c.rooms['utility']! });
    const wire = (gauge: 6 | 8 | 16) => ({ size: awg(gauge), colour: 'BK' as const });
    c.plan.run(c.panel, box, undefined, circuit, {
      kind: 'raceway',
      tradeSize: '3/4',
      wires: [wire(6), wire(6), wire(8)],
    });
    expect(c.found()).not.toContain('raceway.too-full stop');
    c.file.runs[0]!.wires!.push(wire(6), wire(8));
    expect(c.found()).toContain('raceway.too-full stop');
    c.file.runs[0]!.wires!.push(wire(16));
    expect(c.found()).toContain('raceway.cannot-count note');
  });
});

describe('Neutrals and cables', () => {
  it('one place is enough: excusing a box, or one outside of the rooms, asks nothing of another', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'One', c.panel, 15);
    const hall = { roomId: c.rooms['hall']! };
    const one = c.plan.fed('S1', c.panel, '14/2', circuit, 'plastic-1g-22.5', hall);
    const light = c.plan.fed('L1', one, '14/4', circuit, 'plastic-round-20', hall);
    const two = c.plan.fed('S2', light, '14/3', circuit, 'plastic-1g-22.5', hall);
    c.plan.control(
      'Hall',
      [...c.plan.device(one, 'switch'), ...c.plan.device(two, 'switch')],
      c.plan.device(light, 'luminaire'),
    );
    expect(c.found()).toEqual([]);
    c.box(one).neutralException = 'reachable';
    expect(c.found()).toEqual([]);
    delete c.box(one).neutralException;
    c.box(one).roomId = c.rooms['garage']!;
    c.file.controls[0]!.wholeAreaSeen = true;
    expect(c.found()).toEqual([]);
  });

  it('keep a neutral that a loop has room for, capped at the switch, unless it is recorded as a dead spare', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'One', c.panel, 15);
    const room = { roomId: c.rooms['utility']! };
    const light = c.plan.fed('L1', c.panel, '14/2', circuit, 'plastic-round-20', room);
    const sw = c.plan.fed('S1', light, '14/3', circuit, 'plastic-1g-22.5', room);
    c.plan.control('Light', c.plan.device(sw, 'switch'), c.plan.device(light, 'luminaire'));
    const titles = () => saidBox(c.reader(), sw).steps.map(({ title }) => title);
    expect(titles()).toContain('Cap the neutral of circuit 1, left long');
    c.proven(circuit);
    c.box(sw).asBuilt = [{ kind: 'cap', ends: [{ runId: c.file.runs[1]!.id, conductor: 'WH' }] }];
    expect(titles()).toContain('Cap spare white of the cable to L1');
    expect(c.found()).toEqual([]);
  });

  it('keep the colours of travelers along the chain as far as the cables allow, and say where one changes', () => {
    const { c, circuit, boxes } = chainOfThree('14/3');
    const colours = () =>
      [...wireCircuit(c.reader(), circuit).runs.values()].map(({ carries }) =>
        [...carries]
          .filter(([, what]) => what.startsWith('traveler'))
          .map(([key]) => key)
          .sort()
          .join(),
      );
    expect(colours()).toEqual(['', 'BK,RD', 'BK,RD', '']);
    // Hot for a receptacle beyond goes along in the second cable and takes its black.
    c.plan.device(boxes[2]!, 'receptacle', 2);
    c.file.runs[1]!.plannedCable = '14/4';
    expect(colours()).toEqual(['', 'BU,RD', 'BU,RD', '']);
  });

  it('say that no one cable has so many, and offer two side by side where they do', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'One', c.panel, 15);
    const room = { roomId: c.rooms['utility']! };
    const near = c.plan.fed('S1', c.panel, '14/2', circuit, 'plastic-4g-72', room);
    const far = c.plan.box('S2', 'plastic-4g-72', room);
    c.plan.run(near, far, undefined, circuit);
    for (const gang of [1, 2, 3, 4])
      c.plan.control(
        `L${gang}`,
        c.plan.device(near, 'switch', gang),
        c.plan.device(c.plan.fed(`L${gang}`, far, '14/2', circuit, 'plastic-round-20', room), 'luminaire'),
      );
    expect(c.found()).toContain('run.no-one-cable stop');
    const finding = wiringFindings(c.reader()).find(({ code }) => code === 'run.no-one-cable')!;
    expect(said(c.reader(), finding).labels[0]).toContain('Run two side by side');
    expect(c.after('run.no-one-cable')).toEqual([]);
  });
});

describe('A box that was made another way and does the same', () => {
  function chain() {
    const { c, circuit, boxes, room } = chainOfThree('14/4');
    const other = c.plan.fed('L2', boxes[0]!, '14/2', circuit, 'plastic-round-20', room);
    c.plan.control('Own', c.plan.device(boxes[0]!, 'switch', 2), c.plan.device(other, 'luminaire'));
    return { c, circuit, boxes };
  }
  const exchange = (
    joints: Joint[],
    names: Record<string, string>,
    of: (deviceId: string) => boolean = () => true,
  ) => {
    for (const { terminals } of joints)
      for (const to of terminals ?? []) {
        const name = names[terminalText(to.terminal)];
        if (to.deviceId && of(to.deviceId) && name) to.terminal = onDevice(name);
      }
  };

  it('is not to be reopened: screws of a single-pole, travelers turned over, pairs of a four-way, spares left spliced', () => {
    const all: [number, Record<string, string>][] = [
      [0, { supply: 'leg', leg: 'supply' }],
      [0, { 'traveler A': 'traveler B', 'traveler B': 'traveler A' }],
      [1, { 'pair 1 A': 'pair 2 A', 'pair 1 B': 'pair 2 B', 'pair 2 A': 'pair 1 A', 'pair 2 B': 'pair 1 B' }],
      [1, { 'pair 1 A': 'pair 1 B', 'pair 1 B': 'pair 1 A', 'pair 2 A': 'pair 2 B', 'pair 2 B': 'pair 2 A' }],
    ];
    for (const [at, names] of all) {
      const { c, circuit, boxes } = chain();
      for (const box of boxes) c.make(box);
      c.make(boxes[at]!, (joints) => exchange(joints, names));
      expect(c.found()).withContext(JSON.stringify(names)).toEqual([]);
      c.proven(circuit);
    }
    const { c, circuit, boxes } = chain();
    c.make(boxes[1]!, (joints) => {
      const spares = joints.filter(({ kind, ends }) => kind === 'cap' && ends[0]!.conductor !== 'WH');
      expect(spares.length).toBe(2);
      spares[0]!.kind = 'splice';
      spares[0]!.ends.push(...spares[1]!.ends);
      joints.splice(joints.indexOf(spares[1]!), 1);
    });
    expect(c.found()).toEqual([]);
    c.proven(circuit);
  });

  it('is a stop when the proof fails as it stands, and a note when it holds', () => {
    const { c, boxes } = chain();
    c.make(boxes[0]!, (joints) => exchange(joints, { common: 'traveler A', 'traveler A': 'common' }));
    expect(c.found()).toEqual(jasmine.arrayContaining(['box.reopen stop', 'proof.does-not-follow stop']));
    const other = chain();
    for (const box of other.boxes) other.c.make(box);
    // The neutral was left long and joined to nothing that needs it: a cap where a splice is asked, and all works.
    const white = other.c.file.runs.at(-2)!;
    expect(white).toBeDefined();
    other.c.file.controls[0]!.pinnedOrder = [...other.c.file.controls[0]!.places].reverse();
    expect(
      other.c
        .found()
        .filter((one) => one.startsWith('box.reopen'))
        .every((one) => one.endsWith('note')),
    ).toBeTrue();
  });

  it('made in part asks for the rest, where a splice is divided: what is left of it may be screws and a link alone', () => {
    const c = new Case();
    const circuit = c.plan.circuit(1, 'One', c.panel, 15);
    const box = c.plan.fed('M1', c.panel, '14/2', circuit, 'plastic-4g-72');
    for (let gang = 1; gang <= 12; gang++) c.plan.device(box, 'receptacle', 1 + (gang % 4), circuit);
    const whole = boxJoints(c.reader(), box).joints.filter(({ role }) => role === 'ground');
    expect(whole.length).toBeGreaterThan(1);
    const count = boxJoints(c.reader(), box).joints.flatMap(({ landings }) => landings).length;
    for (const part of whole) {
      c.make(box, (joints) => joints.splice(0, joints.length, recordOfJoint(part)));
      expect(boxJoints(c.reader(), box).joints.flatMap(({ landings }) => landings).length).toBe(count);
      c.proven(circuit);
    }
  });

  it('works as well with what does the same exchanged, in any house, wherever it is', () => {
    const same: Record<string, string>[] = [
      { supply: 'leg', leg: 'supply' },
      { 'traveler A': 'traveler B', 'traveler B': 'traveler A' },
      { 'pair 1 A': 'pair 1 B', 'pair 1 B': 'pair 1 A' },
      { 'pair 1 A': 'pair 2 A', 'pair 1 B': 'pair 2 B', 'pair 2 A': 'pair 1 A', 'pair 2 B': 'pair 1 B' },
    ];
    let exchanged = 0;
    fc.assert(
      fc.property(
        randomSwitching(4),
        fc.array(fc.nat(3), { minLength: 12, maxLength: 12 }),
        (drawn, picks) => {
          const file = madeUp(drawn);
          file.devices.forEach(({ id, boxId, catalogueId }, at) => {
            const levers = file.points.filter(({ deviceId, role }) => deviceId === id && role === 'lever');
            if (levers.length !== 1 || catalogueId === 'smart-switch') return;
            const before = JSON.stringify(file.boxes);
            exchange(
              file.boxes.find((box) => box.id === boxId)!.asBuilt ?? [],
              same[picks[at % 12]!]!,
              (to) => to === id,
            );
            if (JSON.stringify(file.boxes) !== before) exchanged++;
          });
          const reader = readerOf(houseOf(file));
          expect(wiringFindings(reader).filter(({ code }) => /^proof|reopen|^made/.test(code))).toEqual([]);
          for (const { id } of file.circuits) expect(proveCircuit(reader, id).failures).toEqual([]);
        },
      ),
      { numRuns: runs(60) },
    );
    expect(exchanged).toBeGreaterThan(many(40));
  });
});

describe('A neutral that goes home through another cable', () => {
  it('is seen though the two halves of its receptacle are on two legs, draw alike and leave nothing in it', () => {
    const c = new Case();
    const [one, two] = [1, 3].map((space, n) =>
      c.plan.circuit(n + 1, `C${n}`, c.panel, 15, { neutralGroup: 'A', spaces: [space] }),
    ) as [string, string];
    const both = { circuitIds: [one, two] };
    const box = c.plan.box('R1', 'plastic-4g-72');
    c.plan.run(c.panel, box, '14/2', one, { ...both, purpose: 'leg' });
    c.plan.run(c.panel, box, '14/3', one, both);
    const at = c.plan.box('S1', 'plastic-2g-34');
    c.plan.run(c.panel, at, '14/3', one, both);
    const [light] = c.plan.device(box, 'luminaire', 1, two);
    c.plan.device(box, 'receptacle', 2);
    c.file.points.slice(-2).forEach((point, half) => (point.circuitId = [one, two][half]!));
    c.plan.control('Far', c.plan.device(at, 'switch', 1, two), [light!]);
    c.proven(one);
    const reader = c.reader();
    const { wirings, joints } = netlistScope(reader, one);
    const faults = faultsIn(reader, joints).filter(
      ({ kind }) => kind === 'hot and neutral by different ways',
    );
    expect(faults.length).toBeGreaterThan(1);
    for (const fault of faults)
      expect(
        proveNetlist(reader, buildNetlist(reader, wirings, fault.into(joints))).failures.map(
          ({ code }) => code,
        ),
      ).toContain('proof.unbalanced');
  });
});

import { said } from '../../testing/said.js';
import { NEUTRAL_BAR, SUPPLY } from '../../vocabulary/terminal.js';
import { applyChange } from '../../changes/apply.js';
import { readerOf } from '../../derive/reader.js';
import { houseOf } from '../../house/house-file.js';
import type { Joint } from '../../house/model.js';
import { wiringFindings } from '../../testing/wiring-findings.js';
import { makeUpBox } from '../../makeup/make-up-box.js';
import { Plan } from '../../testing/plan.js';
import { boxJoints } from './box-joints.js';
import { jointByHand, recordOfJoint, withJoint } from './made-joints.js';
import { proveCircuit } from '../proof/prove-circuit.js';
import { wireCircuit } from '../conductors/wire-circuit.js';

const end = (runId: string, conductor: string): Joint['ends'][number] => ({ runId, conductor });

/** Feed, a switch loop of 14/2 (its white is hot), and power going on from the light. */
function loop() {
  const plan = new Plan('Made');
  plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const light = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
  const sw = plan.fed('S1', light, '14/2', circuit, 'plastic-1g-22.5');
  plan.control('Light', plan.device(sw, 'switch'), plan.device(light, 'luminaire'));
  const reader = () => readerOf(houseOf(structuredClone(plan.file)));
  const box = (id: string) => plan.file.boxes.find((one) => one.id === id)!;
  /** Ticks every step of a box. */
  const makeAll = (id: string): void => {
    box(id).asBuilt = makeUpBox(reader(), id).steps.map((step) => recordOfJoint(step.joint));
  };
  const codes = (): string[] => wiringFindings(reader()).map(({ code }) => code);
  return { plan, circuit, light, sw, reader, box, makeAll, codes };
}

describe('Joints recorded as made', () => {
  it('are what the wiring asks for when they were ticked step by step, and count as made', () => {
    const { light, sw, makeAll, reader, codes } = loop();
    makeAll(light);
    makeAll(sw);
    for (const id of [light, sw]) {
      expect(boxJoints(reader(), id).conflicts).toEqual([]);
      expect(makeUpBox(reader(), id).steps.every(({ made }) => made)).toBeTrue();
    }
    expect(codes()).toEqual([]);
  });

  it('stand when a later change needs them different: reopen this box, with what to undo and what to make', () => {
    const { plan, circuit, light, makeAll, reader, codes } = loop();
    makeAll(light);
    const on = plan.fed('R1', light, '14/2', circuit, 'plastic-1g-20');
    plan.device(on, 'receptacle');
    expect(new Set(codes())).toEqual(
      new Set(['box.reopen', 'proof.always-on-is-not', 'proof.no-ground', 'proof.neutral-broken']),
    );
    const finding = wiringFindings(reader()).find(
      (one) => one.code === 'box.reopen' && said(reader(), one).message.includes('neutral'),
    )!;
    expect(said(reader(), finding).message).toBe(
      'Reopen L1 and undo white to PANEL, neutral of gang 1 (neutral).',
    );
    // What was made is taken as it is: the new cable hangs on nothing until the box is opened.
    const made = boxJoints(reader(), light).joints.find(({ role, made: is }) => is && role === 'neutral')!;
    expect(made.ends.length).toBe(1);
    delete plan.file.boxes.find(({ id }) => id === light)!.asBuilt;
    expect(codes()).toEqual([]);
  });

  it('keep the order of the places that they were made for', () => {
    const plan = new Plan('Order');
    plan.room('Garage', 'garage');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    const light = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
    const [one, two] = ['S1', 'S2'].map((tag) => plan.fed(tag, light, '14/3', circuit, 'plastic-1g-22.5'));
    const levers = [plan.device(one!, 'switch')[0]!, plan.device(two!, 'switch')[0]!];
    plan.control('Light', levers, plan.device(light, 'luminaire'));
    const reader = () => readerOf(houseOf(structuredClone(plan.file)));
    const first = (): string =>
      [...wireCircuit(reader(), circuit).levers].find(([, { index }]) => index === 0)![0];
    expect(first()).toBe(levers[0]!);
    plan.file.controls[0]!.pinnedOrder = [levers[1]!, levers[0]!];
    const steps = makeUpBox(reader(), two!).steps.map((step) => recordOfJoint(step.joint));
    delete plan.file.controls[0]!.pinnedOrder;
    plan.file.boxes.find(({ id }) => id === two)!.asBuilt = steps;
    // Both orders need as many conductors; what has been landed on the common of S2 comes from the same cable in both.
    expect(proveCircuit(reader(), circuit).failures).toEqual([]);
    expect(boxJoints(reader(), two!).conflicts).toEqual([]);
  });

  it('that name a conductor twice or one that is not there, and whites without their mark, are found', () => {
    const { sw, box, makeAll, codes, plan } = loop();
    makeAll(sw);
    const [run] = plan.file.runs.filter(({ to }) => to.boxId === sw);
    box(sw).asBuilt!.push({ kind: 'cap', ends: [{ runId: run!.id, conductor: 'WH' }] });
    box(sw).asBuilt!.push({ kind: 'cap', ends: [{ runId: run!.id, conductor: 'RD' }] });
    expect(codes()).toEqual(
      jasmine.arrayWithExactContents(['made.conductor-twice', 'made.unknown-conductor']),
    );
    box(sw).asBuilt!.splice(-2);
    expect(codes()).toEqual([]);
    for (const joint of box(sw).asBuilt!) for (const end of joint.ends) delete end.marked;
    expect(codes()).toEqual(['made.white-unmarked']);
  });

  it('are found with a connector that does not take so many', () => {
    const { light, makeAll, box, codes, reader } = loop();
    makeAll(light);
    const grounds = box(light).asBuilt!.find(({ ends }) => ends[0]?.conductor === 'BARE')!;
    grounds.connector = 'twist-small';
    expect(codes()).toEqual(['made.connector-misfit']);
    expect(said(reader(), wiringFindings(reader())[0]!).message).toBe(
      'Use a grounding twist-on with pass-through hole in L1: the small twist-on that is recorded does not take 3×14.',
    );
    grounds.connector = 'lever-3';
    expect(codes()).toEqual([]);
    expect(makeUpBox(reader(), light).steps[0]!.connector!.id).toBe('lever-3');
  });

  it('given by hand go through the same proof', () => {
    const { circuit, sw, makeAll, box, reader, codes } = loop();
    makeAll(sw);
    const [hot, leg] = ['supply', 'leg'].map((kind) =>
      box(sw).asBuilt!.find(({ terminals }) => terminals?.[0]?.terminal.kind === kind)!,
    );
    // Both on one screw: the switch is bridged.
    hot!.kind = 'splice';
    hot!.ends.push(...leg!.ends);
    box(sw).asBuilt = box(sw).asBuilt!.filter((joint) => joint !== leg);
    const failure = proveCircuit(reader(), circuit).failures[0]!;
    expect([failure.code, failure.up]).toEqual(['proof.does-not-follow', []]);
    expect(codes()).toContain('proof.does-not-follow');
  });

  it('are caught when a white that the wiring wants as neutral has been made a hot, until it is marked', () => {
    const plan = new Plan('By hand');
    plan.room('Garage', 'garage');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    const one = plan.fed('R1', panel, '14/2', circuit, 'plastic-1g-22.5');
    const two = plan.fed('R2', one, '14/2', circuit, 'plastic-1g-22.5');
    plan.device(two, 'receptacle');
    const [near, far] = plan.file.runs.map(({ id }) => id);
    // Black on white and white on black in R1.
    plan.file.boxes.find(({ id }) => id === one)!.asBuilt = [
      { kind: 'splice', ends: [end(near!, 'BK'), end(far!, 'WH')] },
      { kind: 'splice', ends: [end(near!, 'WH'), end(far!, 'BK')] },
    ];
    let house = houseOf(plan.file);
    const whites = () =>
      wiringFindings(readerOf(house)).filter(({ code }) => code.endsWith('.white-unmarked'));
    expect(whites().map(({ code, where }) => [code, where.boxId])).toEqual([['proof.white-unmarked', one]]);
    expect(said(readerOf(house), whites()[0]!).source).toContain('200.7');
    const applied = applyChange(house, whites()[0]!.fixes![0]!.change);
    if (!applied.ok) throw new Error(applied.refusal.message);
    house = applied.document;
    expect(whites()).toEqual([]);
  });

  it('given one by one: a conductor and a screw are in one joint only, bars and bare ends stay', () => {
    const [a, b, c] = ['a', 'b', 'c'].map((run) => end(run, 'BK'));
    const hot = { deviceId: 'd', terminal: SUPPLY() };
    let made = withJoint(undefined, jointByHand([a!, b!, c!], [], { connector: 'twist-medium' }));
    made = withJoint(made, jointByHand([end('a', 'WH')], [{ terminal: NEUTRAL_BAR }]));
    made = withJoint(made, jointByHand([end('b', 'WH')], [{ terminal: NEUTRAL_BAR }]));
    made = withJoint(made, jointByHand([c!], [hot]));
    expect(made).toEqual([
      { kind: 'splice', ends: [a!, b!], connector: 'twist-medium' },
      { kind: 'land', ends: [end('a', 'WH')], terminals: [{ terminal: NEUTRAL_BAR }] },
      { kind: 'land', ends: [end('b', 'WH')], terminals: [{ terminal: NEUTRAL_BAR }] },
      { kind: 'land', ends: [c!], terminals: [hot] },
    ]);
    made = withJoint(made, jointByHand([a!], [hot]));
    expect(made.slice(0, 1)).toEqual([{ kind: 'cap', ends: [b!] }]);
    expect(made.slice(3)).toEqual([
      { kind: 'cap', ends: [c!] },
      { kind: 'land', ends: [a!], terminals: [hot] },
    ]);
    expect(jointByHand([a!, b!], [], { uncut: true, loopIn: 12 })).toEqual({
      kind: 'uncut',
      ends: [a!, b!],
      loopIn: 12,
    });
  });
});

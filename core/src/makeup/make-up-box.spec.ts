import { rulebookFor } from '../rulebook/rulebook.js';
import { terminalText } from '../words/terminal-text.js';
import { runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { connectorFor, isWithin } from '../rulebook/connectors.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { fillBox } from '../fill/fill-box.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { recordOfJoint } from '../wiring/joints/made-joints.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import { saidBox } from '../testing/said.js';
import { makeUpBox } from './make-up-box.js';

/** A three-gang box with the feed in and on and three legs; `model` and overrides as asked. */
function threeGang(overrides: Record<string, string | number | boolean> = {}, model = 'plastic-3g-44') {
  const plan = new Plan('Bench');
  plan.room('Bath', 'bath');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(5, 'Bath', panel, 15);
  const box = plan.fed('S1', panel, '14/2', circuit, model);
  const on = plan.fed('R1', box, '14/2', circuit);
  plan.device(on, 'receptacle');
  const devices = ['switch', 'smart-switch', 'switch'];
  for (const [index, name] of ['Vanity', 'Shower', 'Fan'].entries()) {
    const lamp = plan.fed(`L${index + 1}`, box, '14/2', circuit, 'plastic-round-20');
    plan.control(name, plan.device(box, devices[index]!, index + 1), plan.device(lamp, 'luminaire'));
  }
  for (const [key, value] of Object.entries(overrides)) plan.file.rulebook.overrides[key] = { value };
  return saidBox(readerOf(houseOf(plan.file)), box);
}

describe('Make-up of a box', () => {
  it('goes grounds, neutrals, hots, legs, with counts, pigtails and connectors', () => {
    const { steps, breakers, complete, trimIn } = threeGang();
    expect(steps.map(({ stage, title }) => [stage, title])).toEqual([
      ['grounds', 'All grounds together'],
      ['neutrals', 'Neutrals of circuit 5'],
      ['hots', 'Hot of circuit 5'],
      ['legs', 'Leg: Vanity'],
      ['legs', 'Leg: Shower'],
      ['legs', 'Leg: Fan'],
    ]);
    expect(
      steps.map((step) => [step.conductors.length, step.pigtails.length, step.connector?.bundle, step.twist]),
    ).toEqual([
      [5, 3, '8×14', true],
      [5, 1, '6×14', true],
      [2, 3, '5×14', true],
      [1, 0, undefined, false],
      // The lead of the smart switch is spliced, with a connector of its own.
      [1, 0, '2×14', false],
      [1, 0, undefined, false],
    ]);
    expect(steps[1]!.pigtails[0]!.to).toBe('Smart switch (needs neutral), gang 2: neutral lead');
    expect(steps[1]!.pigtails[0]!.connector).toBe('small twist-on');
    expect(steps[3]!.landsOn).toBe('Switch, gang 1: leg');
    expect([breakers.map(({ number }) => number), complete, trimIn]).toEqual([[5], true, 6]);
  });

  it('bonds a metal box with a pigtail of its own', () => {
    const metal = threeGang({}, 'metal-masonry-3.5-3g');
    expect(metal.steps[0]!.pigtails.map(({ to }) => to)).toContain('ground screw of the box');
    expect(metal.steps[0]!.pigtails.length).toBe(4);
  });

  it('follows the schools of the house', () => {
    const hook = threeGang();
    expect([hook.steps[0]!.stripIn, hook.steps[2]!.pigtails[0]!.stripIn, hook.steps[3]!.stripIn]).toEqual([
      0.5, 0.75, 0.75,
    ]);
    const push = threeGang({ 'makeup.termination': 'push-in', 'makeup.spliceStrip': 'clip-back' });
    expect([push.steps[0]!.stripIn, push.steps[2]!.pigtails[0]!.stripIn, push.steps[3]!.stripIn]).toEqual([
      0.75, 0.5625, 0.5625,
    ]);
    expect(push.steps[0]!.pigtails[0]!.stripIn).withContext('a ground goes round its screw').toBe(0.75);
    expect(threeGang({ 'makeup.pretwist': 'never' }).steps.some((step) => step.twist)).toBeFalse();
    expect(threeGang({ 'makeup.connector': 'lever' }).steps[2]!.connector!.id).toBe('lever-5');
    // Screws are looped or linked; the smart switch has leads and keeps its pigtail.
    const looped = threeGang({ 'makeup.hots': 'looped' }).steps[2]!;
    expect([looped.pigtails.map(({ lengthIn }) => lengthIn), looped.connector!.bundle]).toEqual([
      [12, 6],
      '4×14',
    ]);
    const links = threeGang({ 'makeup.hots': 'links' }).steps[2]!;
    expect([links.pigtails.map(({ link }) => link ?? false), links.connector!.bundle]).toEqual([
      [false, true, false],
      '4×14',
    ]);
    expect(threeGang({ 'makeup.trim': 8 }).trimIn).toBe(8);
  });

  it('gives every cable its slot by the school of the house, and never more than the house allows', () => {
    const slots = (overrides: Record<string, string | number | boolean>, model?: string) =>
      threeGang(overrides, model).cables.map(({ toward, suggestedSlot }) => [toward, suggestedSlot]);
    expect(slots({})).toEqual([
      ['PANEL', 1],
      ['L1', 2],
      ['L2', 3],
      ['L3', 4],
      ['R1', 12],
    ]);
    expect(slots({ 'slot.order': 'label' })).toEqual([
      ['PANEL', 1],
      ['L1', 2],
      ['L2', 3],
      ['L3', 4],
      ['R1', 5],
    ]);
    expect(slots({ 'slot.order': 'bottom-in' })).toEqual([
      ['L1', 1],
      ['L2', 2],
      ['L3', 3],
      ['R1', 4],
      ['PANEL', 7],
    ]);
    // Four entries for five cables: one is shared, unless the house wants one under each clamp.
    const tight = 'metal-masonry-3.5-3g';
    expect(slots({}, tight).map(([, slot]) => slot)).toEqual([1, 1, 2, 3, 4]);
    expect(slots({ 'slot.onePerClamp': true }, tight).map(([, slot]) => slot)).toEqual([
      1,
      2,
      3,
      4,
      undefined,
    ]);
    expect(threeGang().cables.map(({ label }) => label)).toEqual([
      'power in',
      'Vanity',
      'Shower',
      'Fan',
      'on to R1',
    ]);
  });

  it('divides what no connector takes, as part of the joints: fill, proof, sheet and record follow', () => {
    const plan = new Plan('Four gang');
    plan.room('Kitchen', 'kitchen');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(5, 'Kitchen', panel, 15);
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-4g-72');
    const on = plan.fed('R1', box, '14/2', circuit);
    plan.device(on, 'receptacle');
    for (let gang = 1; gang <= 4; gang++)
      plan.control(
        `Light ${gang}`,
        plan.device(box, 'switch', gang),
        plan.device(plan.fed(`L${gang}`, box, '14/2', circuit, 'fan-24'), 'luminaire'),
      );
    const reader = () => readerOf(houseOf(structuredClone(plan.file)));
    const grounds = () => saidBox(reader(), box).steps.filter(({ stage }) => stage === 'grounds');
    // Six cables and four pigtails: no connector of the table takes ten.
    expect(
      grounds().map(({ conductors, pigtails, connector }) => [
        conductors.length,
        pigtails.map(({ to }) => to.replace('Switch, ', '')),
        connector!.bundle,
      ]),
    ).toEqual([
      [3, ['gang 3: ground', 'link to the other splice'], '5×14'],
      [3, ['gang 4: ground'], '5×14'],
    ]);
    expect(grounds()[0]!.notes.join()).toContain('it is the first pigtail, to Switch, gang 1: ground');
    expect(proveCircuit(reader(), circuit).failures).toEqual([]);
    const total = fillBox(reader(), box)!.totalIn3;
    // One part made, then all: nothing to reopen, the proof stands. Joined as one it does not hold in any connector.
    const steps = saidBox(reader(), box).steps;
    const own = plan.file.boxes.find(({ id }) => id === box)!;
    for (const count of [1, steps.length]) {
      own.asBuilt = steps.slice(0, count).map((step) => recordOfJoint(step.joint));
      expect(boxJoints(reader(), box).conflicts).toEqual([]);
      expect(proveCircuit(reader(), circuit).failures).toEqual([]);
      expect(fillBox(reader(), box)!.totalIn3).toBe(total);
    }
    const [one, other] = own.asBuilt!.splice(0, 2);
    const devices = [...one!.terminals!, ...other!.terminals!].filter(({ deviceId }) => deviceId);
    own.asBuilt!.push({ kind: 'splice', ends: [...one!.ends, ...other!.ends], terminals: devices });
    expect(boxJoints(reader(), box).conflicts).toEqual([]);
    expect(inspectHouse(reader()).map(({ code }) => code)).toContain('makeup.no-connector');
  });

  it('caps a spare conductor and a hot that ends', () => {
    const plan = new Plan('Spare');
    plan.room('Room');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    const box = plan.fed('R1', panel, '14/3', circuit);
    plan.device(box, 'receptacle');
    const { steps } = saidBox(readerOf(houseOf(plan.file)), box);
    expect(steps.at(-1)!.title).toBe('Cap spare red of the cable to PANEL');
  });
});

describe('Make-up of a chain of switches', () => {
  const plan = new Plan('Chain');
  plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(5, 'Hall', panel, 15);
  const light = plan.fed('L1', panel, '14/2', circuit, 'plastic-round-20');
  const one = plan.fed('S1', light, '14/2', circuit, 'plastic-1g-22.5');
  const two = plan.fed('S2', one, '14/4', circuit, 'plastic-1g-22.5');
  plan.control(
    'Hall',
    [...plan.device(one, 'switch'), ...plan.device(two, 'switch')],
    plan.device(light, 'luminaire'),
  );
  const reader = readerOf(houseOf(plan.file));

  it('lands travelers by cable and colour, marks whites at both ends, caps dead spares at both ends', () => {
    const steps = saidBox(reader, two).steps;
    expect(steps.map(({ stage, title }) => [stage, title])).toEqual([
      ['grounds', 'All grounds together'],
      ['travelers', 'Traveler A of Hall'],
      ['travelers', 'Traveler B of Hall'],
      ['legs', 'Leg: Hall'],
      ['spares', 'Cap spare white of the cable to S1'],
    ]);
    expect(steps.filter(({ stage }) => stage === 'travelers').map(({ landsOn }) => landsOn)).toEqual([
      'Switch, gang 1: traveler A',
      'Switch, gang 1: traveler B',
    ]);
    expect(saidBox(reader, one).steps.at(-1)!.title).toBe('Cap spare white of the cable to S2');
    const marked = [light, one].map((box) =>
      saidBox(reader, box).steps.flatMap((step) => step.marks.map(({ toward }) => [step.stage, toward])),
    );
    expect(marked).toEqual([[['hots', 'S1']], [['hots', 'L1']]]);
    expect(
      saidBox(reader, one)
        .steps.find(({ marks }) => marks.length)!
        .notes.join(),
    ).toContain('black or red tape');
  });

  it('says what lands on which screw when the device comes, and how to join for the test without it', () => {
    const [sheet] = saidBox(reader, two).devices;
    expect([sheet!.name, sheet!.levers]).toEqual(['Switch, three-way', ['three-way']]);
    expect(
      sheet!.terminals.map(({ terminal, from, colour }) => [terminalText(terminal), from, colour]),
    ).toEqual([
      ['ground', 'bare of the cable to S1', 'BARE'],
      ['common', 'black of the cable to S1', 'BK'],
      ['traveler A', 'red of the cable to S1', 'RD'],
      ['traveler B', 'blue of the cable to S1', 'BU'],
    ]);
    expect(sheet!.notes.join(' ')).toContain('differs by maker');
    expect(sheet!.test).toEqual([
      'Join common (black of the cable to S1) and traveler A (red of the cable to S1); cap blue of the cable to S1.',
    ]);
  });

  it('leaves a capped neutral pigtail at switches that need none, by the school of the house', () => {
    plan.file.rulebook.overrides['makeup.spareNeutral'] = { value: true };
    const fed = new Plan('Pigtail');
    fed.room('Garage', 'garage');
    fed.file.rulebook.overrides['makeup.spareNeutral'] = { value: true };
    const box = fed.fed(
      'S1',
      fed.box('PANEL', 'panel'),
      '14/2',
      fed.circuit(1, 'One', fed.file.boxes[0]!.id, 15),
      'plastic-1g-22.5',
    );
    const lamp = fed.fed('L1', box, '14/2', fed.file.circuits[0]!.id, 'plastic-round-20');
    fed.control('Light', fed.device(box, 'switch'), fed.device(lamp, 'luminaire'));
    const neutral = saidBox(readerOf(houseOf(fed.file)), box).steps.find(
      ({ stage }) => stage === 'neutrals',
    )!;
    expect(neutral.pigtails.map(({ to }) => to)).toEqual(['capped, for a later device']);
  });
});

describe('Connectors (common practice, from memory; makers differ)', () => {
  const rules = rulebookFor({ base: 'us-2020', overrides: {} });
  it('takes medium to 5×14 or 4×12, large to 5×12, and says when there is none', () => {
    const id = (bundle: Parameters<typeof connectorFor>[1]) => connectorFor(rules, bundle, ['twist-on'])?.id;
    expect(
      [{ 14: 2 }, { 14: 3 }, { 14: 5 }, { 12: 4 }, { 12: 5 }, { 14: 4, 12: 1 }, { 12: 7 }, { 12: 8 }].map(
        (bundle) => id(bundle),
      ),
    ).toEqual([
      'twist-small',
      'twist-medium',
      'twist-medium',
      'twist-medium',
      'twist-large',
      'twist-large',
      'twist-extra-large',
      undefined,
    ]);
    expect(connectorFor(rules, { 14: 3 }, ['grounding', 'twist-on'])!.id).toBe('grounding');
    expect([2, 3, 4, 5, 6].map((ports) => connectorFor(rules, { 12: ports }, ['lever'])?.id)).toEqual([
      'lever-2',
      'lever-3',
      'lever-5',
      'lever-5',
      undefined,
    ]);
  });

  it('compares bundles wire by wire, thick ones first', () => {
    expect(isWithin({ 14: 2, 12: 1 }, { 12: 3 })).toBeTrue();
    expect(isWithin({ 12: 2 }, { 12: 1, 14: 4 })).toBeFalse();
    // The thin lead of a light on any wire of a lighting or appliance circuit.
    for (const gauge of [14, 12, 10] as const)
      expect(connectorFor(rules, { [gauge]: 1, 18: 1 }, ['twist-on']))
        .withContext(`${gauge}`)
        .toBeDefined();
  });
});

describe('Make-up of any house', () => {
  it('has each joint of a box as one step, in the order of the trade', () => {
    const order = ['grounds', 'neutrals', 'travelers', 'hots', 'legs', 'spares', 'open'];
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        for (const box of reader.all('boxes')) {
          const { steps, complete } = makeUpBox(reader, box.id);
          const { joints } = boxJoints(reader, box.id);
          expect(steps.length).toBe(joints.length);
          const ranks = steps.map((step) => order.indexOf(step.stage));
          expect(ranks).toEqual(ranks.toSorted((a, b) => a - b));
          expect(complete && steps.some((step) => step.stage === 'open')).toBeFalse();
          for (const step of steps) {
            const many = step.conductors.length + step.pigtails.length;
            const onBar = step.landsOn?.terminal.kind === 'ground-bar';
            if (step.landsOn)
              expect([onBar ? 1 : step.conductors.length, step.pigtails.length]).toEqual([1, 0]);
            if (many > 1 && step.conductors.length > 0 && !onBar)
              expect(Boolean(step.connector) !== step.split).toBeTrue();
          }
        }
      }),
      { numRuns: runs(60) },
    );
  });
});

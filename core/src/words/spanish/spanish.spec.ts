import type { Settling, WalkFault } from '../../findings/walk-facts.js';
import { BandKind } from '../../vocabulary/kinds.js';
import * as fc from 'fast-check';
import { readerOf } from '../../derive/reader.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { houseOf } from '../../house/house-file.js';
import { inspectHouse } from '../../inspection/inspect-house.js';
import { makeUpBox } from '../../makeup/make-up-box.js';
import { JURISDICTIONS } from '../../rulebook/jurisdictions.js';
import { Plan } from '../../testing/plan.js';
import { randomHouse } from '../../testing/random-house.js';
import { randomSwitching } from '../../testing/random-switching.js';
import { runs } from '../../testing/seed.js';
import { ENGLISH } from '../english/english.js';
import { bracketed } from '../language/bracketed.js';
import { wordsOf } from '../words.js';
import { SPANISH } from './spanish.js';

describe('Spanish', () => {
  it('has a name for everything of the catalogue, for every reason and for every rule', () => {
    const texts = [
      ...JURISDICTIONS.flatMap((one) => [
        ...[...one.boxes, ...one.devices, ...one.fittings, ...one.connectors].map(({ name }) => name),
        ...one.neutralExceptions.map(({ text }) => text),
        ...one.rules.flatMap(({ title, provenance }) => [title, provenance]),
      ]),
      'plastic device as marked',
      'marked in the box',
    ];
    const same = [...new Set(texts)].filter((text) => SPANISH.told(text) === text);
    expect(same).toEqual(['Panel', 'Hickey']);
  });

  const plan = new Plan('Words');
  plan.room('Hall');
  const panel = plan.box('PANEL', 'panel');
  const [c1, c2] = [plan.circuit(1, 'Hall', panel, 15), plan.circuit(2, 'Stairs', panel, 20)];
  const box = plan.fed('S1', panel, '14/2', c1, 'plastic-1g-18');
  const light = plan.fed('L1', box, '14/2', c1, 'plastic-round-20');
  const points = plan.device(light, 'luminaire');
  plan.control('Hall light', plan.device(box, 'switch'), points);
  const [run] = plan.file.runs;
  const reader = readerOf(houseOf(plan.file));
  const load = { pointId: points[0]!, boxId: light, role: 'lamp' };
  const ends = [{ runId: run!.id, key: 'BK' }];
  const joint = { ends, landings: [], signal: undefined };
  /** A fact of every name that any finding asks for, and what else it may be. */
  const facts: Record<string, unknown> = {
    ...{
      boxIds: [box, light],
      duty: 'fan',
      undo: joint,
      make: [joint],
      mocp: 20,
      count: 3,
      amps: 15,
      number: 5,
    },
    ...{
      circuitIds: [c1, c2],
      kind: 'three-way',
      serves: ['single-pole'],
      hots: 2,
      overIn3: 4,
      has: 1,
      takes: 2,
    },
    ...{
      gang: 1,
      why: 'control',
      deviceBoxId: box,
      askedIn: [light],
      conductor: 'BK',
      connectorId: 'twist-small',
    },
    ...{ bundle: { 14: 4 }, instead: 'twist-large', is: 'hot', runIds: [run!.id], load, inPosition: true },
    ...{
      title: { code: 'grounds', circuitIds: [], isPart: false },
      what: 'neutrals',
      how: 'stays',
      isOn: true,
    },
    ...{
      switchBoxId: box,
      circuitId: c1,
      lacks: 'neutral',
      touches: true,
      isBackwards: true,
      watched: 'afci',
    },
    ...{
      landsOn: c2,
      own: c1,
      other: c2,
      state: 'dim',
      volts: 60,
      rated: 120,
      short: { kind: 'hot-to-ground' },
    },
    ...{
      more: 2,
      gauges: [12],
      wires: 5,
      tradeSize: '1/2' as const,
      percent: 40,
      key: 'makeup.pigtail',
      reason: 'Why',
    },
    ...{ needed: '14/3', slot: 1, slots: 4, limit: 2, thinnest: 14, least: 12, isIn: true, mca: undefined },
    ...{
      wanted: ['spare'],
      missing: ['spare'],
      catalogueId: 'switch',
      boxId: box,
      controlId: '',
      runId: run!.id,
    },
    ...{ insteadOf: light, all: true, cable: '14/3', first: '14/3', second: '14/2' },
    ...{
      colours: ['WH'],
      with: ['BK', 'RD'],
      core: 'neutral',
      onward: true,
      needsIn: 1.5,
      hasIn: 1,
      lengthIn: 60,
      anyDepth: true,
    },
  };
  const others: readonly [string, unknown][] = [
    ['duty', 'spare switched conductors'],
    ['places', 4],
    ['why', 'shared-neutral'],
    ['askedIn', []],
    ['instead', undefined],
    ['what', 'hots'],
    ['what', 'load'],
    ['onward', false],
    ['core', 'ground'],
    ['how', 'changes'],
    ['how', 'apart'],
    ['lacks', 'hots'],
    ['touches', false],
    ['isBackwards', false],
    ['watched', undefined],
    ['state', 'over'],
    ['short', { kind: 'voltages', other: 'leg' }],
    ['needed', undefined],
    ['isIn', false],
    ['mca', 12],
    ['inPosition', false],
  ];
  const where = {
    boxId: box,
    runId: run!.id,
    circuitId: c1,
    deviceId: plan.file.devices[0]!.id,
    controlId: plan.file.controls[0]!.id,
  };
  /** What is said of a layout, in full: facts of one name mean something else from code to code. */
  const ofLayout: Readonly<Record<string, readonly object[]>> = {
    'layout.far-counter': [{ wall: 2 }],
    'layout.far-wall': [{ wall: 2 }],
    'layout.height': [{ what: 'switch' }, { what: 'counter' }, { what: 'ceiling' }],
    'layout.in-the-way': ['doorway', 'window', 'behind-door', ...BandKind.options].map((what) => ({ what })),
    'layout.island': [
      { kind: 'island', has: 0, needs: 2 },
      { kind: 'peninsula', has: 2, needs: 2, atEnd: true },
      { kind: 'island', has: 0, needs: 0 },
    ],
    'layout.no-light': ['light', 'switch', 'switch-location'].map((lacks) => ({ lacks })),
    'layout.no-outlet': ['basin', 'foyer-wall', 'service', 'outside', 'bath', 'garage'].map((what) => ({
      what,
      has: 1,
      needs: 3,
    })),
    'layout.own-circuit': [
      { what: 'bath', amps: 20 },
      { what: 'kitchen', amps: 20 },
    ],
    'layout.panel': [{ why: 'room' }, { why: 'space' }],
    'layout.protection': ['afci', 'gfci', 'dual'].map((needs) => ({
      needs,
      roomIds: [plan.file.rooms[0]!.id],
    })),
    'layout.same-bay': [{ otherBoxId: light }],
    'way.bored': (['stud', 'plate', 'joist'] as const).flatMap((through) =>
      [true, false].map((isLarge) => ({ through, isLarge })),
    ),
    'box.face': [
      { finishIn: 0.875, isBehind: true },
      { finishIn: 0.5, isBehind: false },
    ],
    'box.low-voltage': [{ runIds: [run!.id] }, { runIds: [run!.id, run!.id] }],
    'box.splice-without': [{ count: 2 }],
    'neutral.on-ground': [
      { count: 7, limit: 5, of: 'circuit' },
      { count: 26, limit: 25, of: 'feeder' },
    ],
    'run.struck': [{ isCut: true, note: 'plumber' }, { isCut: false }],
    'way.derated': [{ cables: 5, conductors: 10, percent: 50, amps: 12.5 }],
    'way.none': ['no-wall', 'no-space', 'apart'].map((why) => ({ why })),
    'way.shut': [{}],
    'way.unreached': [{ points: 1 }, { points: 2 }],
    'layout.switch-order': [{}],
    'layout.tub': [{ what: 'switch' }, { what: 'receptacle' }, { what: 'fan' }],
  };
  const walkedRun = plan.file.runs[0]!;
  const [here, there] = [walkedRun.from.boxId, walkedRun.to.boxId];
  const faults: WalkFault[] = [
    { kind: 'missing', runId: walkedRun.id },
    { kind: 'extra', role: 'leg', boxIds: [here, there] },
    { kind: 'extra', role: 'power', boxIds: [here, there] },
    { kind: 'misrouted', runId: walkedRun.id, left: here, got: light },
    { kind: 'other-role', runId: walkedRun.id },
    { kind: 'not-in', runId: walkedRun.id, boxId: here },
    { kind: 'stray', role: 'power', boxId: there },
  ];
  const walked = faults.flatMap((fault) =>
    (['home-run', 'jumper', 'leg', 'loop', 'crossed', 'extra'] as const).flatMap((as) =>
      [true, false].map((isLogged) => ({ fault, as, isLogged })),
    ),
  );
  const settlings: Settling[] = [
    { kind: 'trace', boxId: here, ends: [there, light] },
    { kind: 'odd', boxId: here, ends: [there] },
    { kind: 'odd', boxId: here, ends: [] },
    { kind: 'look', boxId: here, runIds: [walkedRun.id] },
    { kind: 'count', boxId: there },
  ];
  const ofWalk: Readonly<Record<string, readonly object[]>> = {
    'walk.found': walked.map((told) => ({ told })),
    'walk.either': [undefined, ...settlings].flatMap((settling) =>
      [0, 2].map((lessLikely) => ({ settling, lessLikely, ways: walked.map((told) => [told, told]) })),
    ),
    'walk.unclear': [{ boxIds: [here, there] }],
    'walk.leg-early': [1, 2].map((count) => ({
      legIds: Array.from({ length: count }, () => walkedRun.id),
      powerIds: Array.from({ length: count }, () => walkedRun.id),
    })),
  };
  const variants = (code: string): unknown[] =>
    (ofLayout[code] ?? ofWalk[code])?.map((own) => ({
      code,
      where: { ...where, roomId: plan.file.rooms[0]!.id },
      facts: own,
    })) ??
    [facts, ...others.map(([name, value]) => ({ ...facts, [name]: value }))].map((own) => ({
      code,
      where,
      facts:
        code === 'wiring.too-few-conductors' ? { ...own, has: { cable: '14/2', isIn: own['isIn'] } } : own,
    }));
  /** What is put into a sentence: tags, numbers, cables. The words around them differ. */
  const put = (text: string): string[] => (text.match(/\b[A-Z]\d+\b|\d+\/\d|\d+ A\b/g) ?? []).sort();
  const [en, es] = [wordsOf(reader), wordsOf(reader, { language: SPANISH })];

  it('says every finding in words of its own, with the same names and numbers, in three lines of a phone', () => {
    for (const code of Object.keys(ENGLISH.findings))
      for (const finding of variants(code) as Finding[]) {
        const both = (words: typeof en): string => `${words.finding(finding)} ${words.more(finding) ?? ''}`;
        expect(both(es)).withContext(code).not.toBe(both(en));
        expect(put(both(es)))
          .withContext(both(en))
          .toEqual(put(both(en)));
        expect(both(es)).not.toMatch(/\b(de|a) el\b|undefined/);
        for (const words of [en, es])
          expect(words.finding(finding).length).withContext(words.finding(finding)).toBeLessThanOrEqual(138);
      }
  });

  it('says every way out, every step and its notes in words of its own', () => {
    for (const code of Object.keys(ENGLISH.fixes)) {
      const own =
        code === 'draw-wires'
          ? { wires: [{ gauge: 12, colour: 'RD' }] }
          : { ...facts, protection: 'dual', heightIn: 48, byIn: 12 };
      const fix = { code, facts: own } as unknown as Fix;
      expect(es.fix(fix)).withContext(code).not.toBe(en.fix(fix));
    }
    fc.assert(
      fc.property(randomSwitching(), (file) => {
        const house = readerOf(houseOf(file));
        const [own, other] = [wordsOf(house, { language: SPANISH }), wordsOf(house)];
        for (const { id } of file.boxes) {
          const made = makeUpBox(house, id);
          const steps = other.makeUp(made).steps;
          own.makeUp(made).steps.forEach((step, at) => {
            expect(step.title).not.toBe(steps[at]!.title);
            step.notes.forEach((note, index) => expect(note).not.toBe(steps[at]!.notes[index]!));
          });
        }
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('The marked language', () => {
  it('has every sentence of any house in brackets, balanced', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        const words = wordsOf(reader, { language: bracketed(ENGLISH) });
        for (const finding of inspectHouse(reader))
          for (const text of [
            words.finding(finding),
            ...(finding.fixes ?? []).map((fix) => words.fix(fix)),
          ]) {
            let depth = 0;
            const outside = [...text].filter((letter) => {
              if (letter === '⟦') depth++;
              if (letter === '⟧') depth--;
              return depth === 0 && letter !== '⟧';
            });
            expect([depth, outside.join('').trim()])
              .withContext(text)
              .toEqual([0, '']);
          }
      }),
      { numRuns: runs(20) },
    );
  });
});

import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { adding, removing, setting } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import type { House } from '../house/house.js';
import { houseOf, readHouseFile, writeHouseFile } from '../house/house-file.js';
import type { Box, WorkRecord } from '../house/model.js';
import { stepState, testedNow } from '../proving/tested.js';
import { ringOut } from '../proving/ring-out.js';
import { finish } from '../structures/steps.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import { HOME_RUN_STEP, SECURED_STEP } from '../closing/wall-ticks.js';
import { inspectHouse } from './inspect-house.js';
import { extraStanding, reopenedBy, writeUpStanding } from './on-paper.js';
import { readyForInspection } from './ready.js';

const changed = (house: House, ...bodies: Parameters<typeof applyChange>[1][]): House =>
  bodies.reduce((before, body) => {
    const applied = applyChange(before, body);
    if (!applied.ok) throw new Error(applied.refusal.message);
    return applied.document;
  }, house);

/** A panel, a receptacle fed from it, and one fed on. */
function chain() {
  const plan = new Plan('Closing');
  const room = plan.room('Bath', 'other');
  const panel = plan.box('P', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const box = plan.fed('R1', panel, '14/2', circuit, 'plastic-1g-18', { corner: 'c0' });
  const next = plan.fed('R2', box, '14/2', circuit);
  const [home, on] = plan.file.runs.map(({ id }) => id);
  for (const id of [home!, on!]) plan.pull(id, '14/2', 120);
  for (const id of [box, next]) plan.device(id, 'receptacle', 1, circuit);
  const by = plan.person('Ansel');
  const record = (more: Partial<WorkRecord>): WorkRecord => ({
    id: plan.id(),
    kind: 'tick',
    at: '2026-03-09T08:00:00Z',
    by,
    ...more,
  });
  return { plan, room, panel, circuit, box, next, home: home!, on: on!, by, record };
}
const codes = (house: House, asked: RegExp): string[] =>
  inspectHouse(readerOf(house)).flatMap(({ code, severity }) =>
    asked.test(code) ? [`${code} ${severity}`] : [],
  );

describe('Before the walls are closed', () => {
  it('the front of a box is told against board and tile (314.20, from memory: ¼ in), and goes away with what is offered', () => {
    const quarter = 0.25;
    fc.assert(
      fc.property(
        fc.constantFrom(0.375, 0.5, 0.625),
        fc.option(fc.constantFrom(0.25, 0.375, 0.5), { nil: undefined }),
        fc.option(fc.integer({ min: 0, max: 24 }), { nil: undefined }),
        fc.boolean(),
        fc.boolean(),
        (boardIn, tileIn, eighths, isSet, hasRing) => {
          const { plan, room, box, record } = chain();
          plan.file.rooms.find(({ id }) => id === room)!.finishes = [
            { boardIn },
            ...(tileIn ? [{ corner: 'c0', boardIn, tileIn }] : []),
          ];
          const own = plan.file.boxes.find(({ id }) => id === box)! as Box;
          if (eighths !== undefined) own.setOutIn = eighths / 8;
          if (hasRing) own.fittings = [{ kind: 'extension', volumeIn3: 4 }];
          if (isSet) plan.file.records.push(record({ boxId: box, step: 'set' }));
          const house = houseOf(plan.file);
          // By hand: where it stands, against where the wall will be.
          const stands = eighths === undefined ? (isSet ? undefined : 0.5) : eighths / 8;
          const off = stands === undefined ? 0 : boardIn + (tileIn ?? 0) - stands;
          const isWrong = !hasRing && Math.abs(off) > quarter + 1e-9;
          expect(codes(house, /^box\.face/)).toEqual(
            isWrong ? [`box.face ${eighths === undefined ? 'note' : 'fix'}`] : [],
          );
          const [fix] = inspectHouse(readerOf(house)).find(({ code }) => code === 'box.face')?.fixes ?? [];
          if (fix) expect(codes(changed(house, fix.change), /^box\.face/)).toEqual([]);
        },
      ),
      { numRuns: runs(80) },
    );
  });

  it('no splice lies outside a box, none out of reach, and low voltage keeps apart', () => {
    const { plan, circuit, box, record } = chain();
    const lights = ['B1', 'B2'].map((tag) => plan.fed(tag, box, '14/2', circuit, 'buried-point'));
    expect(codes(houseOf(plan.file), /^box\.(splice|buried|low)/)).toEqual([]);
    plan.run(lights[0]!, lights[1]!, '14/2', circuit);
    expect(codes(houseOf(plan.file), /^box\.splice/)).toEqual([
      'box.splice-without stop',
      'box.splice-without stop',
    ]);
    // Taken one after the other, each does away with what it stood under, and brings no Stop.
    const stops = (house: House): number =>
      inspectHouse(readerOf(house)).filter(({ severity }) => severity === 'stop').length;
    const taken = (house: House, asked: RegExp): House => {
      const finding = inspectHouse(readerOf(house)).find(({ code }) => asked.test(code))!;
      return changed(house, finding.fixes![0]!.change);
    };
    const boxed = taken(houseOf(plan.file), /^box\.splice/);
    expect(codes(boxed, /^box\.splice/)).toHaveSize(1);
    expect(codes(taken(boxed, /^box\.splice/), /^box\.splice/)).toEqual([]);
    expect(stops(boxed)).toBe(stops(houseOf(plan.file)) - 1);
    const showing = (result: 'pass' | 'fail') => record({ boxId: box, step: 'showing', result });
    plan.file.records.push(showing('pass'), showing('fail'));
    expect(codes(houseOf(plan.file), /^box\.buried/)).toEqual(['box.buried stop']);
    plan.file.records.push(showing('pass'));
    expect(codes(houseOf(plan.file), /^box\.buried/)).toEqual([]);
    const bell = plan.box('B9', {
      markedVolumeIn3: 18,
      material: 'plastic',
      kind: 'low-voltage',
      gangs: 1,
      slots: 2,
      markedClamps: 'none',
      groundScrew: false,
    });
    plan.run(bell, box, undefined, circuit, { kind: 'low-voltage', circuitIds: [] });
    const mixed = houseOf(plan.file);
    expect(codes(mixed, /^box\.low/)).toEqual(['box.low-voltage fix']);
    const apart = taken(mixed, /^box\.low/);
    expect(codes(apart, /^box\.low/)).toEqual([]);
    expect(stops(apart)).toBe(stops(mixed));
    expect(apart.tables.runs.size).toBe(mixed.tables.runs.size);
  });

  it('a run that another trade cut is pulled again, one that was moved is looked at; what rang through it rings again', () => {
    const { plan, circuit, on, by, record } = chain();
    const before = houseOf(plan.file);
    const steps = ringOut(readerOf(before), circuit).steps;
    const through = steps.filter(({ wires }) => [...wires].some((wire) => wire.startsWith(on)));
    expect(through.length).toBeGreaterThan(0);
    const tested = changed(
      before,
      ...steps.map((step, at) =>
        adding(
          'records',
          record({
            kind: 'test',
            at: `2026-03-09T09:0${at % 10}:00Z`,
            circuitId: circuit,
            result: 'pass',
            tested: testedNow(readerOf(before), step, 'ring-out', false),
          }),
        ),
      ),
    );
    const standing = (house: House): string[] =>
      steps.map((step) => stepState(readerOf(house), circuit, step, 'ring-out', false).is);
    expect(new Set(standing(tested))).toEqual(new Set(['good']));
    const strike = (step: string, at: string): WorkRecord => record({ kind: 'cut', step, runId: on, at });
    const moved = changed(tested, adding('records', strike('moved', '2026-03-10T08:00:00Z')));
    expect(codes(moved, /^run\.struck/)).toEqual(['run.struck fix']);
    expect(standing(moved)).toEqual(steps.map((step) => (through.includes(step) ? 'again' : 'good')));
    const looked = changed(
      moved,
      adding('records', record({ step: 'looked-at', runId: on, at: '2026-03-10T09:00:00Z' })),
    );
    expect(codes(looked, /^run\.struck/)).toEqual([]);
    const pull = [...looked.tables.pulls.values()].find(({ record: own }) => own.runId === on)!.record;
    const cut = changed(
      looked,
      adding('records', strike('cut', '2026-03-11T08:00:00Z')),
      setting('pulls', pull.id, { state: 'scrapped' }),
    );
    expect(codes(cut, /^run\.struck/)).toEqual(['run.struck fix']);
    const again = changed(
      cut,
      adding('pulls', {
        id: plan.id(),
        runId: on,
        cable: '14/2',
        at: '2026-03-11T10:00:00Z',
        by,
        state: 'in',
      }),
    );
    expect(codes(again, /^run\.struck/)).toEqual([]);
    expect(standing(again)).toEqual(steps.map((step) => (through.includes(step) ? 'again' : 'good')));
  });

  it('5 electronic switches on the ground are allowed on a circuit, 25 on a feeder (404.22, from memory)', () => {
    const found = (perCircuit: readonly number[], taken = 0): string[] => {
      const plan = new Plan('Replaced');
      plan.room('Hall', 'hall');
      const panel = plan.box('P', 'panel');
      for (const [at, count] of perCircuit.entries()) {
        const circuit = plan.circuit(at + 1, `${at}`, panel, 15);
        for (let nth = 0; nth < count; nth++) {
          const box = plan.fed(`S${at}-${nth}`, panel, '14/2', circuit, 'plastic-1g-18', {
            neutralException: 'replacement',
          });
          plan.device(box, 'smart-switch', 1, circuit);
        }
      }
      let house = houseOf(plan.file);
      for (let nth = 0; nth < taken; nth++) {
        const finding = inspectHouse(readerOf(house)).find(({ code }) => code === 'neutral.on-ground')!;
        house = changed(house, finding.fixes![0]!.change);
      }
      return codes(house, /^neutral\.on-ground/);
    };
    expect(found([5, 5, 5, 5, 5])).toEqual([]);
    expect(found([6])).toEqual(['neutral.on-ground fix']);
    expect(found([5, 5, 5, 5, 5, 1])).toEqual(['neutral.on-ground fix']);
    expect(found([6, 5, 5, 5, 5])).toHaveSize(2);
    expect(found([7], 1)).toHaveSize(1);
    expect(found([7], 2)).toEqual([]);
    expect(found([6, 5, 5, 5, 5], 1)).toEqual([]);
  });

  it('cables in one hole of an outside wall carry what the table leaves them (334.80, Tables 310.15(C)(1) and 310.16, from memory)', () => {
    // By hand: 14 AWG at 90 °C 25 A, 12 AWG 30 A; 4 to 6 conductors 80 %, 7 to 9 70 %, 10 to 20 50 %. Two cables need no derating.
    const found = (cables: readonly ('14/2' | '14/3' | '12/2')[], amps: number): string[] => {
      const plan = new Plan('Bundle');
      Object.assign(plan.file.storeys[0]!, { ceilingIn: 97 });
      plan.room('Room', 'bedroom');
      plan.file.rooms[0]!.outline = [
        [0, 0],
        [240, 0],
        [240, 120],
        [0, 120],
      ].map(([xIn, yIn], corner) => ({ id: `c${corner}`, xIn: xIn!, yIn: yIn! }));
      const panel = plan.box('P', 'panel', { corner: 'c2', alongIn: 60 });
      const circuit = plan.circuit(1, 'One', panel, amps);
      const [a, b] = [40, 200].map((alongIn) =>
        plan.box(`R${alongIn}`, 'plastic-1g-18', { corner: 'c0', alongIn, heightIn: 16 }),
      );
      for (const cable of cables) plan.run(a!, b!, cable, circuit);
      plan.file.rulebook.overrides['bore.perHole'] = { value: 6 };
      const house = houseOf(plan.file);
      for (const { code, fixes = [] } of inspectHouse(readerOf(house)))
        if (code === 'way.derated')
          expect(codes(changed(house, fixes[0]!.change), /^way\.derated/)).toEqual([]);
      return inspectHouse(readerOf(house)).flatMap((one) =>
        one.code === 'way.derated' ? [`${one.facts.conductors} ${one.facts.amps}`] : [],
      );
    };
    expect(found(['14/2', '14/2'], 15)).toEqual([]);
    expect(found(['14/2', '14/2', '14/2', '14/2'], 15)).toEqual([]);
    expect(new Set(found(['14/2', '14/2', '14/2', '14/2', '14/2'], 15))).toEqual(new Set(['10 12.5']));
    expect(new Set(found(['12/2', '12/2', '12/2', '12/2', '12/2'], 20))).toEqual(new Set(['10 15']));
    expect(new Set(found(['14/3', '14/3', '14/3', '14/2'], 15))).toEqual(new Set(['11 12.5']));
  });
});

describe('What is on paper', () => {
  it('stays when the box that it was written about is gone, in words', () => {
    const { plan, room, box, by } = chain();
    const place = { roomId: room, boxId: box, place: 'R1 · Bath' };
    const [paper, more] = [plan.id(), plan.id()];
    const at = '2026-03-12T08:00:00Z';
    plan.file.writeUps.push({ id: paper, words: 'Not stapled.', on: '2026-03-12', at, by, ...place });
    plan.file.extras.push({ id: more, what: 'A light', askedBy: 'Owner', price: 95, at, by, ...place });
    const gone = changed(houseOf(plan.file), removing('rooms', room, true));
    const reader = readerOf(gone);
    expect(writeUpStanding(reader.get('writeUps', paper)!)).toEqual(
      jasmine.objectContaining({ stands: 'to-fix', isGone: true }),
    );
    expect(reader.get('extras', more)).toEqual(jasmine.objectContaining({ place: 'R1 · Bath', price: 95 }));
    expect(readHouseFile(JSON.stringify(writeHouseFile(gone))).ok).toBeTrue();
    const fixed = changed(gone, setting('writeUps', paper, { fixedAt: at, fixedBy: by }));
    expect(writeUpStanding(readerOf(fixed).get('writeUps', paper)!).stands).toBe('to-pass');
  });

  it('an extra is agreed by initials or by a photo, and says what it opens again', () => {
    const { plan, room, box, circuit, by, record } = chain();
    const at = '2026-03-12T08:00:00Z';
    const id = plan.id();
    plan.file.extras.push({ id, what: 'A light', askedBy: 'Owner', price: 95, at, by, roomId: room });
    const asked = houseOf(plan.file);
    const standing = (house: House): string => {
      const reader = readerOf(house);
      return extraStanding(reader, reader.get('extras', id)!).stands;
    };
    const photo = adding('photos', {
      id: plan.id(),
      asset: 'a'.repeat(64),
      thumb: 'b'.repeat(64),
      widthPx: 10,
      heightPx: 10,
      at,
      by,
      extraId: id,
    });
    const yes = setting('extras', id, { yesAt: at, initials: 'K.D.' });
    expect([asked, changed(asked, yes), changed(asked, photo)].map(standing)).toEqual([
      'asked',
      'agreed',
      'agreed',
    ]);
    expect(standing(changed(asked, yes, setting('extras', id, { doneAt: at })))).toBe('done');
    expect(standing(changed(asked, setting('extras', id, { noAt: at })))).toBe('refused');
    // Nothing is made up or tested yet: cable is in, and that is all.
    expect(reopenedBy(readerOf(asked), { boxId: box })).toEqual({
      boxIds: [],
      circuitIds: [],
      walls: [],
      pulledInto: [box],
    });
    const [step] = ringOut(readerOf(asked), circuit).steps;
    const rung = changed(
      asked,
      adding(
        'records',
        record({
          kind: 'test',
          circuitId: circuit,
          result: 'pass',
          tested: testedNow(readerOf(asked), step!, 'ring-out', false),
        }),
      ),
      adding('photos', {
        ...(photo as unknown as { record: object }).record,
        id: plan.id(),
        extraId: undefined,
        roomId: room,
        corner: 'c0',
      } as never),
    );
    expect(reopenedBy(readerOf(rung), { boxId: box })).toEqual(
      jasmine.objectContaining({
        circuitIds: [circuit],
        walls: [jasmine.objectContaining({ roomId: room, number: 1 })],
      }),
    );
  });
});

describe('What stands before an inspection', () => {
  it('is counted as the lists of the house say, and is done when it is ticked', () => {
    fc.assert(
      fc.property(randomHouse, fc.array(fc.nat(60), { maxLength: 30 }), ({ plan }, pulled) => {
        const { file } = plan;
        const by = plan.person('Ansel');
        const isIn = new Set(pulled.flatMap((at) => file.runs[at]?.id ?? []));
        file.pulls = [...isIn].map((runId) => ({
          ...{ id: plan.id(), runId, cable: '14/2', at: '2026-03-02T08:00:00Z', by, state: 'in' as const },
        }));
        const house = houseOf(file);
        const lines = (of: House) => finish(readyForInspection(readerOf(of)));
        const openOf = (of: House, code: string): number =>
          lines(of)
            .filter((one) => one.code === code)
            .reduce((sum, { open }) => sum + open, 0);
        for (const { open, of, ids } of lines(house)) {
          expect(open).toBeLessThanOrEqual(of);
          expect(ids.length).toBeLessThanOrEqual(open);
        }
        expect(openOf(house, 'runs')).toBe(file.runs.length - isIn.size);
        const found = inspectHouse(readerOf(house));
        expect(openOf(house, 'stops') > 0).toBe(found.some(({ severity }) => severity === 'stop'));
        const panels = new Set(
          file.boxes.flatMap(({ id, catalogueId }) => (catalogueId === 'panel' ? [id] : [])),
        );
        const home = file.runs.filter(
          ({ kind, from, to }) => kind !== 'low-voltage' && (panels.has(from.boxId) || panels.has(to.boxId)),
        );
        expect(openOf(house, 'home-runs')).toBe(home.length);
        const at = '2026-03-03T08:00:00Z';
        const tick = (step: string, on: object) =>
          adding('records', { id: plan.id(), kind: 'tick', step, at, by, ...on });
        const ticked = changed(
          house,
          ...home.map(({ id }) => tick(HOME_RUN_STEP, { runId: id })),
          ...file.rooms.map(({ id }) => tick(SECURED_STEP, { roomId: id })),
        );
        expect(openOf(ticked, 'home-runs')).toBe(0);
        expect(openOf(ticked, 'secured')).toBe(0);
        // What is pulled after that is written and stapled anew.
        if (home[0]) {
          const late = changed(
            ticked,
            adding('pulls', {
              ...{ id: plan.id(), runId: home[0].id, cable: '14/2', at: '2026-03-04T08:00:00Z', by },
              state: 'in',
            }),
          );
          expect(openOf(late, 'home-runs')).toBe(1);
          expect(openOf(late, 'secured')).toBeGreaterThan(0);
        }
      }),
      { numRuns: runs(25) },
    );
  });
});

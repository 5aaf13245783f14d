import * as fc from 'fast-check';
import { applyChange } from '../../../changes/apply.js';
import { removing } from '../../../changes/change.js';
import { readerOf } from '../../../derive/reader.js';
import { draftHouse } from '../../../furnish/draft-house.js';
import { readOutline } from '../../../plan/typed-outline.js';
import { boxFacts, conductorsOf, deviceType, devicesIn, runsAt } from '../../../facts/box-facts.js';
import { fillBox } from '../../../fill/fill-box.js';
import { houseOf, readHouseFile } from '../../../house/house-file.js';
import type { House } from '../../../house/house.js';
import type { HouseFile } from '../../../house/house-file.js';
import { inspectHouse } from '../../../inspection/inspect-house.js';
import { makeUpBox } from '../../../makeup/make-up-box.js';
import { Plan } from '../../../testing/plan.js';
import { randomHouse } from '../../../testing/random-house.js';
import { randomSwitching } from '../../../testing/random-switching.js';
import type { RoomKind } from '../../../vocabulary/kinds.js';
import { runs } from '../../../testing/seed.js';
import { wordsOf } from '../../../words/words.js';
import { rulebookFor } from '../../rulebook.js';
import { coreUnit } from '../../rule-units.js';
import { US } from '../us/us.js';
import { CA } from './ca.js';

const ML = 16.387064;
const rules = rulebookFor({ base: 'ca-2021', overrides: {} });

/** So many cables of one size in a box, with a switch or without. */
function filled(catalogueId: string, cables: readonly string[], device?: string) {
  const plan = new Plan('Fill', 'ca-2021');
  plan.room('Room');
  const panel = plan.box('P', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const [feed, ...onward] = cables;
  const box = plan.fed('S1', panel, feed!, circuit, catalogueId);
  const ends = onward.map((cable, at) => plan.fed(`R${at}`, box, cable, circuit, 'ca-plastic-1g-295'));
  for (const end of ends) plan.device(end, 'receptacle', 1, circuit);
  if (device) plan.device(box, device, 1, circuit);
  const read = readHouseFile(JSON.stringify(plan.file));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const fill = fillBox(readerOf(read.house), box)!;
  return { fits: fill.fits, mL: Math.round(fill.totalIn3 * ML * 10) / 10 };
}

describe('Canada (CSA C22.1, from memory)', () => {
  it('counts boxes by conductors, pairs of connectors and depth: worked by hand from rule 12-3034 and Table 22', () => {
    // Two cables and a receptacle: 4 conductors, 3 connectors with tails (hot, neutral, bonding) are one pair, 2 for the strap: 7 × 24.6.
    expect(filled('ca-device-64-1g', ['14/2', '14/2'], 'receptacle')).toEqual(
      jasmine.objectContaining({ fits: true, mL: 172.2 }),
    );
    // Three cables: 6 + 1 + 2 = 9 × 24.6 = 221.4: over 204, not over 245.
    const three = ['14/2', '14/2', '14/2'];
    expect(filled('ca-device-64-1g', three, 'receptacle')).toEqual(
      jasmine.objectContaining({ fits: false, mL: 221.4 }),
    );
    expect(filled('ca-device-76-1g', three, 'receptacle').fits).toBeTrue();
    // A GFCI receptacle of 1¼ in depth takes 82 mL × 1.25 = 102.5; hot and neutral go straight to LINE and LOAD, and the one connector
    // of the bonding conductors is no pair: 4 × 24.6 + 102.5.
    expect(filled('ca-device-76-1g', ['14/2', '14/2'], 'receptacle-gfci').mL).toBe(200.9);
    // 12 AWG: 7 × 28.7 = 200.9, in 204.
    expect(filled('ca-device-64-1g', ['12/2', '12/2'], 'receptacle')).toEqual(
      jasmine.objectContaining({ fits: true, mL: 200.9 }),
    );
  });

  it('lets in what the table of boxes does, though mL were rounded when they were published', () => {
    // Table 23, from memory, conductors of 14 and 12 AWG: 15 cu in 10 and 8, 21 cu in 14 and 12, 30 cu in 20 and 17, 12.5 cu in 8 and 7.
    const most = (volume: number, key: string): number => {
      let count = 0;
      while (rules.holds((count + 1) * rules.number(key), volume / ML)) count++;
      return count;
    };
    expect([204, 245, 344, 491].map((volume) => most(volume, 'fill.volume.14'))).toEqual([8, 10, 14, 20]);
    expect([204, 245, 344, 491].map((volume) => most(volume, 'fill.volume.12'))).toEqual([7, 8, 12, 17]);
  });

  it('has every value in its own units, with no section, unit or word of the other country', () => {
    const foreign =
      /\bNEC\b|\bIRC\b|\b[1-9]\d{2}\.\d|\bcu in\b|\bsq ft\b|\d (ft|in)\b|ft²|\bfoot\b|inch|yoke/i;
    const said = CA.rules.filter(({ key }) => key !== 'show.units');
    expect(
      said.flatMap(({ title, note, unit, section, publication, options }) => {
        const text = [
          title,
          note,
          unit,
          section,
          publication,
          ...(options ?? []).map(({ text: own }) => own),
        ].join(' | ');
        return foreign.test(text) ? [text] : [];
      }),
    ).toEqual([]);
    const sections = [
      ...Object.values(CA.sections).map(({ section }) => section),
      ...CA.roomKits.flatMap(({ sources }) => Object.values(sources).flatMap(({ section }) => section ?? [])),
      ...CA.circuitPlans.flatMap(({ source }) => source.section ?? []),
    ];
    expect(sections.filter((section) => foreign.test(section))).toEqual([]);
    // What the core reads as inches or feet is a length here too, and about as long; a published value has a section.
    const there = new Map(US.rules.map((rule) => [rule.key, rule]));
    const usual = rulebookFor({ base: US.usual, overrides: {} });
    for (const rule of CA.rules) {
      expect(rule.provenance === 'published, from memory')
        .withContext(rule.key)
        .toBe(rule.section !== undefined);
      const other = there.get(rule.key);
      if (!other?.unit || typeof rule.value !== 'number' || rule.key.startsWith('fill.')) continue;
      expect(coreUnit(rule)).withContext(rule.key).toBe(other.unit);
      if (/^(in|ft|ft²|in²|cu in)$/.test(other.unit) && usual.number(rule.key) > 0) {
        const ratio = rules.number(rule.key) / usual.number(rule.key);
        expect(ratio > 0.35 && ratio < 2)
          .withContext(`${rule.key} ${ratio}`)
          .toBeTrue();
      }
    }
  });

  it('counts the same in every box of random houses as somebody who counts cables and the connectors of its make-up', () => {
    const rebased = (file: HouseFile): HouseFile => ({
      ...file,
      rulebook: { base: 'ca-2021', overrides: {} },
    });
    fc.assert(
      fc.property(
        fc.oneof(
          randomHouse.map(({ plan }) => plan.file),
          randomSwitching(3),
        ),
        (file) => {
          const reader = readerOf(houseOf(rebased(file)));
          for (const box of reader.all('boxes')) {
            const fill = fillBox(reader, box.id);
            const at = runsAt(reader, box.id);
            if (!fill || at.some((run) => conductorsOf(reader, run).length === 0)) continue;
            const insulated = at.flatMap((run) => conductorsOf(reader, run).filter(({ ground }) => !ground));
            const perGauge: Record<string, number> = { 14: 24.6, 12: 28.7, 10: 36.9, 8: 45.1, 6: 73.7 };
            const sizes = insulated.map(({ gauge }) => perGauge[gauge]!);
            const largest = Math.max(24.6, ...sizes);
            const { steps } = makeUpBox(reader, box.id);
            // On every splice, too large ones as well, on leads, and over the end of what is left over.
            const isLead = (deviceId: string | undefined): boolean =>
              deviceId !== undefined &&
              deviceType(reader, reader.get('devices', deviceId)!).connection === 'leads';
            const connectors = steps.filter(
              ({ connector, split, joint: { kind, role, landings } }) =>
                connector !== undefined ||
                split ||
                (kind === 'cap' && role !== 'ground') ||
                (kind === 'land' && isLead(landings[0]?.deviceId)),
            ).length;
            const uncut = steps.filter(({ joint }) => joint.kind === 'uncut' && joint.role !== 'ground');
            const straps = devicesIn(reader, box.id)
              .map((device) => deviceType(reader, device))
              .filter(({ mount }) => mount === 'yoke');
            const expected =
              sizes.reduce((a, b) => a + b, 0) -
              uncut.reduce((sum, { joint }) => sum + perGauge[joint.gauge]!, 0) +
              Math.floor(connectors / 2) * largest +
              straps.reduce((sum, { depthIn = 0 }) => sum + (depthIn > 1 ? 82 * depthIn : 2 * largest), 0);
            const studs = box.fittings?.some(({ kind }) => kind === 'stud' || kind === 'hickey')
              ? largest
              : 0;
            if (box.fixtureWires) continue;
            expect(Math.abs(fill.totalIn3 * ML - expected - studs))
              .withContext(boxFacts(reader, box).name)
              .toBeLessThan(0.01);
          }
          // Nothing that is read is missing, and whatever is said is said in the words of this side.
          const words = wordsOf(reader);
          for (const finding of inspectHouse(reader))
            expect(
              `${words.finding(finding)} ${finding.source ? words.source(finding.source) : ''}`,
            ).not.toMatch(/NEC|cu in|\d (ft|in)\b|\bpanel\b|traveler/);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('drafts rooms that its own inspection finds nothing to mend in', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 24, max: 60 }), fc.integer({ min: 24, max: 60 })), {
          minLength: 1,
          maxLength: 3,
        }),
        fc.constantFrom('bedroom' as const, 'living' as const, 'dining' as const),
        (sizes, kind) => {
          const plan = new Plan('Draft', 'ca-2021');
          plan.room('Utility', 'utility');
          Object.assign(plan.file.rooms.at(-1)!, { outline: readOutline('2.4 x 3', 0, 'm') });
          sizes.forEach(([length, width], at) => {
            plan.room(`Room ${at}`, kind);
            const outline = readOutline(`${length / 10} x ${width / 10}`, 0, 'm')!;
            const right = 500 * (at + 1);
            plan.file.rooms.at(-1)!.outline = outline.map(({ id, xIn, yIn }) => ({
              id: id!,
              xIn: xIn + right,
              yIn,
            }));
          });
          const house = houseOf(plan.file);
          const applied = applyChange(house, { kind: 'group', changes: [...draftHouse(house).changes] });
          if (!applied.ok) throw new Error(applied.refusal.message);
          const left = inspectHouse(readerOf(applied.document))
            .filter(
              ({ code, severity }) => severity !== 'note' && /^(layout|fill|circuit|proof|wiring)/.test(code),
            )
            .map(({ code }) => code);
          expect(left).toEqual([]);
        },
      ),
      { numRuns: runs(12) },
    );
  });

  it('drafts a kitchen either way: 20 A, or split receptacles of two circuits on 14/3 under one handle; and over again', () => {
    const kitchen = (): House => {
      const plan = new Plan('Draft', 'ca-2021');
      for (const [at, [name, kind, size]] of (
        [
          ['Utility', 'utility', '2.4 x 3'],
          ['Kitchen', 'kitchen', '4.2 x 3.6'],
          ['Living room', 'living', '5 x 4'],
        ] as const
      ).entries()) {
        plan.room(name, kind);
        plan.file.rooms.at(-1)!.outline = readOutline(size, 0, 'm')!.map(({ id, xIn, yIn }) => ({
          id: id!,
          xIn: xIn + at * 300,
          yIn,
        }));
      }
      return houseOf(plan.file);
    };
    const drafted = (house: House, counter: '20' | 'split'): House => {
      const { changes } = draftHouse(house, { rules: { 'draft.counter': counter } });
      if (changes.length === 0) return house;
      const applied = applyChange(house, { kind: 'group', changes: [...changes] });
      if (!applied.ok) throw new Error(applied.refusal.message);
      return applied.document;
    };
    const seen = (house: House): unknown[][] => {
      const reader = readerOf(house);
      const counters = reader.all('circuits').filter(({ name }) => name.startsWith('Kitchen counter'));
      expect(inspectHouse(reader).filter(({ severity }) => severity === 'stop')).toEqual([]);
      // Of every split one the tab is said; nothing else.
      expect(
        inspectHouse(reader).filter(({ code }) => /own-circuit|multiwire|proof|^circuit|^wiring/.test(code)),
      ).toEqual([]);
      return counters.map(({ id, breakerAmps, neutralGroup, spaces }) => [
        breakerAmps,
        neutralGroup,
        spaces,
        reader.mentioning('runs', id).map(({ plannedCable }) => plannedCable),
        reader.all('points').filter(({ circuitId }) => circuitId === id).length,
      ]);
    };
    // Three pairs of halves on six counter receptacles: two to a cable, the breakers of a pair on different legs.
    const half = (pair: number, space: number) => [15, `counter ${pair}`, [space], ['14/3', '14/3'], 2];
    const halves = [half(1, 1), half(1, 3), half(2, 2), half(2, 4), half(3, 5), half(3, 7)];
    const whole = [20, undefined, jasmine.any(Array), ['12/2', '12/2', '12/2'], 0];
    const split = drafted(kitchen(), 'split');
    const twenty = drafted(kitchen(), '20');
    expect(seen(split)).toEqual(halves);
    expect(seen(twenty)).toEqual([whole, whole]);
    expect(draftHouse(split).changes).toEqual([]);
    expect(seen(drafted(split, '20'))).toEqual([whole, whole]);
    const again = drafted(twenty, 'split');
    const back = readerOf(again);
    expect(seen(again).map(([amps]) => amps)).toEqual([15, 15, 15, 15, 15, 15]);
    expect(back.all('points').filter(({ circuitId }) => circuitId !== undefined).length).toBe(12);
    // A half that somebody took away stays away, and nothing hangs on it.
    const lower = back.all('circuits').find(({ name }) => name.endsWith('1, lower halves'))!;
    const taken = applyChange(again, removing('circuits', lower.id));
    if (!taken.ok) throw new Error(taken.refusal.message);
    expect(seen(drafted(taken.document, 'split'))[0]).toEqual([
      15,
      'counter 1',
      jasmine.any(Array),
      ['14/2', '14/2'],
      2,
    ]);
  });

  it('asks ground-fault protection by the distance from water where that is drawn, and by the room where it is not', () => {
    const asked = (kind: RoomKind, awayMm: number | undefined): boolean => {
      const plan = new Plan('Water', 'ca-2021');
      const room = plan.room('Room', kind);
      plan.file.rooms.at(-1)!.outline = readOutline('6 x 3', 0, 'm')!.map((at) => ({ ...at, id: at.id! }));
      if (awayMm !== undefined)
        plan.file.bands.push({
          ...{ id: plan.id(), roomId: room, kind: 'basin', corner: 'c0', alongIn: 20 },
          ...{ widthIn: 20, depthIn: 18, fromIn: 30, toIn: 34 },
        });
      const panel = plan.box('P', 'panel');
      const circuit = plan.circuit(1, 'One', panel, 15, { protection: 'afci' });
      const at = { roomId: room, corner: 'c0', alongIn: 40 + (awayMm ?? 0) / 25.4, heightIn: 44 };
      const box = plan.fed('R1', panel, '14/2', circuit, 'ca-plastic-1g-295', at);
      plan.device(box, 'receptacle', 1, circuit);
      const reader = readerOf(houseOf(plan.file));
      const found = inspectHouse(reader).filter(({ code }) => code === 'layout.protection');
      for (const { fixes = [] } of found) {
        const mended = applyChange(houseOf(plan.file), fixes[0]!.change!);
        if (!mended.ok) throw new Error(mended.refusal.message);
        const left = inspectHouse(readerOf(mended.document));
        expect(left.filter(({ code }) => code === 'layout.protection')).toEqual([]);
      }
      return found.length > 0;
    };
    // 26-704, from memory: 1.5 m, in any room; outside always.
    expect([1400, 1490, 1510, 2000, undefined].map((away) => asked('utility', away))).toEqual([
      ...[true, true, false, false, false],
    ]);
    expect([1400, 1600, undefined].map((away) => asked('laundry', away))).toEqual([true, false, true]);
    expect([1400, 3000].map((away) => asked('garage', away))).toEqual([true, false]);
    expect(asked('outdoors', 3000)).toBeTrue();
  });

  it('says when a circuit has more than 12 outlets (8-304, from memory); the other country counts none', () => {
    const found = (base: 'ca-2021' | 'us-2020', count: number): string[] => {
      const plan = new Plan('Outlets', base);
      plan.room('Room', 'bedroom');
      const panel = plan.box('P', 'panel');
      const circuit = plan.circuit(1, 'One', panel, 15);
      let from = panel;
      for (let at = 1; at <= count; at++) {
        from = plan.fed(`R${at}`, from, '14/2', circuit);
        plan.device(from, 'receptacle', 1, circuit);
      }
      return inspectHouse(readerOf(houseOf(plan.file)))
        .filter(({ code }) => code === 'circuit.too-many-outlets')
        .map(({ severity }) => severity);
    };
    expect([found('ca-2021', 12), found('ca-2021', 13), found('us-2020', 13)]).toEqual([[], ['fix'], []]);
  });
});

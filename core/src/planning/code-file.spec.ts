import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { fillBox } from '../fill/fill-box.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf, readHouseFile, writeHouseFile } from '../house/house-file.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { JURISDICTIONS } from '../rulebook/jurisdictions.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import type { OwnCode } from '../vocabulary/own-code.js';
import { wordsOf } from '../words/words.js';
import { toAnotherCode } from './another-code.js';
import { codeFileOf, readCodeFile } from './code-file.js';

const EDITIONS = JURISDICTIONS.map(({ usual }) => usual);
const plainHouse = (base: string): HouseFile => {
  const plan = new Plan('Own code', base);
  plan.room('Room', 'bedroom');
  const panel = plan.box('P', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const box = plan.fed('R1', panel, '14/2', circuit, 'plastic-1g-18');
  plan.device(box, 'receptacle', 1, circuit);
  plan.device(plan.fed('R2', box, '14/2', circuit, 'plastic-1g-18'), 'receptacle', 1, circuit);
  return plan.file;
};
/** A house after it was told to go by a code. */
const under = (file: HouseFile, code: OwnCode) => {
  const house = houseOf(file);
  const applied = applyChange(house, toAnotherCode(readerOf(house), code.basedOn, code).change);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.document;
};
const said = (house: ReturnType<typeof houseOf>): string[] => {
  const reader = readerOf(house);
  const words = wordsOf(reader);
  return inspectHouse(reader).map((finding) => words.finding(finding));
};

describe('A code of one’s own, as a file', () => {
  it('comes back as it went out, in every country, and a house that goes by it is judged alike, wherever its file is read', () => {
    fc.assert(
      fc.property(
        randomHouse,
        fc.constantFrom(...EDITIONS),
        fc.integer({ min: 4, max: 12 }),
        ({ plan }, base, inches) => {
          const value = base === 'us-2020' ? inches : inches * 25;
          const home = houseOf({
            ...plan.file,
            rulebook: { base, overrides: { 'makeup.pigtail': { value }, 'cut.round': { value: value * 2 } } },
          });
          const read = readCodeFile(JSON.stringify(codeFileOf(readerOf(home))));
          if (!read.ok) throw new Error(JSON.stringify(read.problems));
          const there = under({ ...plan.file, rulebook: { base, overrides: {} } }, read.code);
          expect(readerOf(there).rules().number('makeup.pigtail')).toBe(
            readerOf(home).rules().number('makeup.pigtail'),
          );
          expect(said(there)).toEqual(said(home));
          const file = writeHouseFile(there);
          const again = readHouseFile(JSON.stringify(file));
          expect(again.ok && writeHouseFile(again.house)).toEqual(file);
          expect(again.ok && said(again.house)).toEqual(said(home));
          // And back with nothing of it left.
          const back = applyChange(there, toAnotherCode(readerOf(there), base).change);
          expect(back.ok && back.document.head.rulebook.code).toBeUndefined();
        },
      ),
      { numRuns: runs(20) },
    );
  });

  it('chooses among the methods that are there: conductors counted as in Canada, on a code of the United States', () => {
    const plain = plainHouse('us-2020');
    const own = codeFileOf(readerOf(houseOf(plain)));
    const code: OwnCode = {
      ...own,
      edition: 'Town 2026',
      fillMethod: 'conductor-count',
      rules: [
        ...own.rules,
        { key: 'fill.connectorPair', value: 1, provenance: 'common practice' },
        { key: 'fill.shallowDevice', value: 25.4, unit: 'mm', provenance: 'common practice' },
        { key: 'fill.deepDevice', value: 82, unit: 'mL', provenance: 'common practice' },
      ],
    };
    const house = under(plain, code);
    const reader = readerOf(house);
    const box = plain.boxes.find(({ tag }) => tag === 'R1')!.id;
    // Two cables, three splices with tails (one pair), one device: 4 + 1 + 2 conductors of 2.00 cu in.
    expect(fillBox(reader, box)!.totalIn3).toBeCloseTo(14, 9);
    expect(reader.rules().cite('free.length')).toBe('Town 2026 300.14');
  });

  it('is refused whole, with a sentence and a code for everything that is wrong with it', () => {
    const own = codeFileOf(readerOf(houseOf(plainHouse('us-2020'))));
    const codesOf = (edit: (code: Record<string, unknown> & OwnCode) => unknown): string[] => {
      const copy = structuredClone(own) as Record<string, unknown> & OwnCode;
      const read = readCodeFile(JSON.stringify(edit(copy) ?? copy));
      return read.ok ? [] : read.problems.map(({ code }) => code);
    };
    const rule = (code: OwnCode, key: string) =>
      code.rules.find((one) => one.key === key)! as Record<string, unknown>;
    const set = (key: string, fields: Record<string, unknown>) => (code: OwnCode) => {
      Object.assign(rule(code, key), fields);
      for (const [field, value] of Object.entries(fields))
        if (value === undefined) delete rule(code, key)[field];
    };
    expect(codesOf(() => undefined)).toEqual([]);
    // A loop in its references, and one that leads nowhere.
    expect(
      codesOf((code) => {
        set('cut.round', { sameAs: 'cut.between', value: undefined })(code);
        set('cut.between', { sameAs: 'cut.round', value: undefined })(code);
      }),
    ).toEqual(['jurisdiction.reference-loop', 'jurisdiction.reference-loop']);
    expect(codesOf(set('cut.round', { sameAs: 'cut.nowhere', value: undefined }))).toEqual([
      'jurisdiction.unknown-reference',
    ]);
    // Sizes that are missing, or have no breaker.
    expect(codesOf((code) => ({ ...code, sizes: [] }))).toEqual(['jurisdiction.no-sizes']);
    expect(codesOf((code) => ({ ...code, sizes: ['2.5mm2'] }))).toEqual([
      'jurisdiction.size-without-breaker',
    ]);
    // Wrong units, kinds and ranges.
    expect(codesOf(set('free.length', { unit: 'mL' }))).toEqual(['jurisdiction.wrong-unit']);
    expect(codesOf(set('free.length', { unit: 'mm', value: 150 }))).toEqual([]);
    expect(codesOf(set('free.length', { value: 'six' }))).toEqual(['jurisdiction.value-wrong-kind']);
    expect(codesOf(set('free.length', { value: -1 }))).toEqual(['jurisdiction.value-out-of-range']);
    expect(codesOf(set('makeup.hots', { value: 'glued' }))).toEqual(['jurisdiction.value-unknown-option']);
    // A section without provenance, and what is published nowhere.
    expect(codesOf(set('free.length', { provenance: 'common practice' }))).toEqual([
      'jurisdiction.section-without-provenance',
    ]);
    expect(codesOf(set('free.length', { section: undefined }))).toEqual([
      'jurisdiction.published-without-section',
    ]);
    expect(codesOf(set('free.length', { key: 'free.lengths' }))).toEqual(['jurisdiction.unknown-rule']);
    expect(codesOf((code) => ({ ...code, basedOn: 'zz-1999' }))).toEqual(['jurisdiction.unknown-edition']);
    expect(codesOf((code) => ({ ...code, fillMethod: 'free-volume' }))).toEqual([
      'jurisdiction.method-without-values',
      'jurisdiction.method-without-values',
    ]);
    expect(codesOf((code) => ({ ...code, script: 'x' }))).toEqual(['file.unknown-field']);
    const broken = readCodeFile('{');
    expect(!broken.ok && broken.problems[0]!.code).toBe('jurisdiction.not-json');
    // The same in a house file: it is not taken in.
    const file = plainHouse('us-2020');
    const carried = readHouseFile(
      JSON.stringify({ ...file, rulebook: { ...file.rulebook, code: { ...own, sizes: [] } } }),
    );
    expect(!carried.ok && carried.problems.map(({ code }) => code)).toEqual(['jurisdiction.no-sizes']);
  });

  it('lets a house whose rules are not here be read and written as it came, and changed by nobody', () => {
    const file = plainHouse('us-2020');
    const rulebook = { base: 'zz-2030', overrides: { 'zz.rule': { value: 3 } } };
    const read = readHouseFile(JSON.stringify({ ...file, rulebook }));
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    expect(writeHouseFile(read.house).rulebook as unknown).toEqual(rulebook);
    expect(said(read.house).length).toBeGreaterThanOrEqual(0);
    const applied = applyChange(read.house, { kind: 'house.set', name: 'Another' });
    expect(!applied.ok && [applied.refusal.code, applied.refusal.message]).toEqual([
      'jurisdiction.not-here',
      'This house goes by rules that are not here (zz-2030): it can be read and exported, not changed.',
    ]);
  });
});

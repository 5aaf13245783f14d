import * as fc from 'fast-check';
import { boxesInRoom } from '../../facts/box-facts.js';
import { readerOf } from '../../derive/reader.js';
import { houseOf } from '../../house/house-file.js';
import { inspectHouse } from '../../inspection/inspect-house.js';
import { makeUpBox } from '../../makeup/make-up-box.js';
import { US } from '../../rulebook/jurisdictions/us/us.js';
import { randomHouse } from '../../testing/random-house.js';
import { runs } from '../../testing/seed.js';
import { ENGLISH } from '../english/english.js';
import { bracketed } from '../language/bracketed.js';
import { wordsOf } from '../words.js';
import { SPANISH } from './spanish.js';

describe('Spanish', () => {
  it('has a name for everything of the catalogue, for every reason and for every rule', () => {
    const texts = [
      ...[...US.boxes, ...US.devices, ...US.fittings, ...US.connectors].map(({ name }) => name),
      ...US.neutralExceptions.map(({ text }) => text),
      ...US.rules.flatMap(({ title, provenance }) => [title, provenance]),
      'plastic device as marked',
      'marked in the box',
    ];
    const same = [...new Set(texts)].filter((text) => SPANISH.told(text) === text);
    expect(same).toEqual(['Panel', 'Hickey']);
  });

  it('says every finding, fix and step of any house in words of its own, with the same names and numbers', () => {
    // What is put into a sentence: tags, numbers, cables. The words around them differ.
    const put = (text: string): string[] => (text.match(/\b[A-Z]\d+\b|\d+\/\d|\d+ A\b/g) ?? []).sort();
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        const [en, es] = [wordsOf(reader), wordsOf(reader, { language: SPANISH })];
        for (const finding of inspectHouse(reader)) {
          const both = (words: typeof en): string => `${words.finding(finding)} ${words.more(finding) ?? ''}`;
          expect(both(es)).not.toBe(both(en));
          expect(put(both(es)))
            .withContext(both(en))
            .toEqual(put(both(en)));
          for (const fix of finding.fixes ?? []) expect(es.fix(fix)).not.toBe(en.fix(fix));
        }
        for (const { id } of plan.file.rooms)
          for (const box of boxesInRoom(reader, id)) {
            const made = makeUpBox(reader, box.id);
            const [own, other] = [es.makeUp(made).steps, en.makeUp(made).steps];
            own.forEach((step, at) => {
              expect(step.title).not.toBe(other[at]!.title);
              step.notes.forEach((note, index) => expect(note).not.toBe(other[at]!.notes[index]!));
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

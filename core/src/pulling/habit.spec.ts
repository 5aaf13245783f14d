import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { Pull } from '../house/model.js';
import { Plan } from '../testing/plan.js';
import { runs as times } from '../testing/seed.js';
import { habitOf } from './habit.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import { askedOfPull, reelUses, sharedOut } from './reel-marks.js';

/** A circuit of so many boxes, all of it pulled off one reel as planned. */
function pulled(planned: readonly number[], by: (at: number) => string = () => 'a') {
  const plan = new Plan('Reel');
  plan.room('Hall');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  let last = panel;
  planned.forEach((_, at) => (last = plan.fed(`R${at + 1}`, last, '14/2', circuit)));
  const reel = {
    id: plan.id(),
    name: 'Reel 3',
    kind: 'reel' as const,
    cable: '14/2' as const,
    lengthIn: 250 * 12,
  };
  plan.file.reels.push(reel);
  const people = new Map<string, string>();
  plan.file.runs.forEach((run, at) => {
    const name = by(at);
    if (!people.has(name)) people.set(name, plan.id());
    plan.file.pulls.push({
      id: plan.id(),
      runId: run.id,
      cable: '14/2',
      reelId: reel.id,
      lengthIn: planned[at]!,
      plannedIn: planned[at]!,
      lengthFrom: 'planned',
      at: '2026-03-02T08:00:00Z',
      by: people.get(name)!,
      state: 'in',
    });
  });
  return { plan, reel, people };
}

describe('Foot marks and habit', () => {
  const SEGMENT = '00000000-0000-4000-9000-000000000001';

  it('share out what came off between two marks by what was planned, to the inch, up or down along the sheath', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 60, max: 900 }), { minLength: 2, maxLength: 12 }),
        fc.integer({ min: 300, max: 900 }),
        fc.integer({ min: 85, max: 140 }),
        fc.boolean(),
        (planned, start, percent, isUp) => {
          const { plan, reel } = pulled(planned);
          const at = Math.floor(planned.length / 2);
          plan.file.pulls[at - 1]!.endMark = start;
          const house = houseOf(plan.file);
          const since = planned.slice(at);
          const usedFt = (since.reduce((sum, length) => sum + length, 0) * percent) / 1200;
          const mark = start + (isUp ? usedFt : -usedFt);
          const { questions, change, usedIn } = sharedOut(readerOf(house), reel.id, mark, SEGMENT, 'Mark');
          expect(usedIn).toBeCloseTo(usedFt * 12, 6);
          expect(questions.every(({ kind }) => kind === 'more-than-left')).toBeTrue();
          const applied = applyChange(house, change!);
          if (!applied.ok) throw new Error(applied.refusal.message);
          const reader = readerOf(applied.document);
          const pulls = reader.all('pulls');
          const shared = pulls.filter(({ lengthFrom }) => lengthFrom === 'shared');
          expect(shared.length).toBe(since.length);
          expect(shared.reduce((sum, pull) => sum + pulledLengthIn(pull)!, 0)).toBeCloseTo(usedFt * 12, 6);
          // What was planned at that moment stays with each, and they are one length of the habit.
          expect(pulls.map(({ plannedIn }) => plannedIn)).toEqual(planned);
          const { crew } = habitOf(reader);
          expect(crew.lengths).toBe(1);
          const raw = percent / 100;
          expect(crew.factor).toBeCloseTo(1 + (raw - 1) / 5, 6);
          // The next mark goes on from this one; the wrong way round is asked about.
          const [use] = reelUses(reader);
          expect([use!.mark, use!.since.length]).toEqual([mark, 0]);
          expect(sharedOut(reader, reel.id, mark + 1, SEGMENT, '').questions).toEqual([
            { kind: 'none-since' },
          ]);
        },
      ),
      { numRuns: times(100) },
    );
  });

  it('are asked about where they run backwards, jump, or take more than there was; never refused', () => {
    const { plan, reel } = pulled([240, 240, 240]);
    plan.file.pulls[0]!.endMark = 100;
    plan.file.pulls[0]!.startMark = 80;
    const kinds = (mark: number): string[] => {
      const { questions, change } = sharedOut(readerOf(houseOf(plan.file)), reel.id, mark, SEGMENT, '');
      expect(change).toBeDefined();
      return questions.map(({ kind }) => kind);
    };
    expect(kinds(142)).toEqual([]);
    expect(kinds(60)).toEqual(['backwards']);
    expect(kinds(105)).toEqual(['unlikely']);
    expect(kinds(400)).toEqual(['unlikely', 'more-than-left']);
    // The first mark of a reel only says where it begins.
    delete plan.file.pulls[0]!.endMark;
    delete plan.file.pulls[0]!.startMark;
    const first = sharedOut(readerOf(houseOf(plan.file)), reel.id, 60, SEGMENT, '');
    expect([first.questions, first.usedIn]).toEqual([[], undefined]);
  });

  it('asks about a pull before it is logged: marks that jump or run backwards, lengths that no run takes', () => {
    const { plan, reel } = pulled([240, 240]);
    Object.assign(plan.file.pulls[0]!, { startMark: 80, endMark: 100 });
    Object.assign(plan.file.pulls[1]!, { startMark: 100, endMark: 120 });
    const reader = readerOf(houseOf(plan.file));
    const kinds = (startMark: number, endMark: number, left?: number): string[] =>
      askedOfPull(
        reader,
        { reelId: reel.id, startMark, endMark, plannedIn: 240 },
        left === undefined ? undefined : new Map([[reel.id, left + 480]]),
      ).map(({ kind }) => kind);
    expect(kinds(120, 141)).toEqual([]);
    expect(kinds(120.5, 141)).toEqual([]);
    expect(kinds(125, 145)).toEqual(['gap']);
    expect(kinds(140, 120)).toEqual(['backwards', 'gap']);
    // The start of one reel and the end of another.
    expect(kinds(120, 872)).toContain('unlikely');
    // What other houses took is not there any more.
    expect(kinds(120, 141, 300)).toEqual([]);
    expect(kinds(120, 141, 200)).toEqual(['more-than-left']);
    expect(askedOfPull(reader, { lengthIn: 240, plannedIn: 240 })).toEqual([]);
    expect(askedOfPull(reader, { lengthIn: 2400, plannedIn: 240 }).map(({ kind }) => kind)).toEqual([
      'unlikely',
    ]);
  });

  it('draws a person towards the crew and the crew towards 1 while there are few, and ignores what was only taken as planned', () => {
    const over = (pull: Pull, factor: number): void => {
      pull.lengthIn = pull.plannedIn! * factor;
      delete pull.lengthFrom;
    };
    const { plan, people } = pulled(
      Array.from({ length: 40 }, () => 240),
      (at) => (at < 20 ? 'a' : 'b'),
    );
    expect(habitOf(readerOf(houseOf(plan.file))).crew).toEqual({ factor: 1, lengths: 0 });
    plan.file.pulls.forEach((pull, at) => over(pull, at < 20 ? 1.1 : 1.3));
    // One entry that cannot be: no habit.
    plan.file.pulls[0]!.lengthIn = 5000;
    const { crew, byPerson, byKind } = habitOf(readerOf(houseOf(plan.file)));
    expect(crew.lengths).toBe(39);
    expect(crew.factor).toBeGreaterThan(1.17);
    expect(crew.factor).toBeLessThan(1.21);
    const [a, b] = [byPerson.get(people.get('a')!)!, byPerson.get(people.get('b')!)!];
    expect([a.lengths, b.lengths]).toEqual([19, 20]);
    expect(a.factor).toBeGreaterThan(1.1);
    expect(a.factor).toBeLessThan(crew.factor);
    expect(b.factor).toBeLessThan(1.3);
    expect(b.factor).toBeGreaterThan(crew.factor);
    expect([...byKind].reduce((sum, [, { lengths }]) => sum + lengths, 0)).toBe(39);
  });
});

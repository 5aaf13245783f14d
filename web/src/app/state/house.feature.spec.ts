import type { ChangeBody, Envelope, House, JournalEntry } from '@mule-tally/core';
import { applyChange, emptyHouse, personOfVersion1, recordOf, setting, withRow } from '@mule-tally/core';
import { HouseEvents } from './house.actions';
import type { Step } from './house.actions';
import type { HouseState } from './house.feature';
import { houseFeature } from './house.feature';

const HOUSE = '40000000-0000-4000-8000-000000000001';
const STOREY = '40000000-0000-4000-8000-000000000002';
const start = withRow(
  emptyHouse({ id: HOUSE, name: 'Lot', rulebook: { base: 'us-2020', overrides: {} } }),
  'storeys',
  STOREY,
  { at: 0, record: { id: STOREY, name: 'Ground' } },
);

let count = 0;
const changeOf = (body: ChangeBody, by = 'Lead'): Envelope => ({
  change: { id: `50000000-0000-4000-8000-${String(++count).padStart(12, '0')}`, version: 2, body },
  actorId: personOfVersion1(by),
});
const rename = (name: string): ChangeBody => setting('storeys', STOREY, { name });
const reduce = houseFeature.reducer;

function opened(): HouseState {
  const opening = reduce(undefined, HouseEvents.houseOpened({ houseId: HOUSE }));
  return reduce(
    opening,
    HouseEvents.houseRead({
      house: start,
      seq: 4,
      outbox: [],
      stacks: { undo: [], redo: [] },
      history: [],
      away: false,
      epoch: 'e',
    }),
  );
}

function make(state: HouseState, envelope: Envelope, step: Step = 'do'): HouseState {
  const { change } = envelope;
  const applied = applyChange(state.view!, change.body, (id) => state.history[id]);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return reduce(state, HouseEvents.changeMade({ envelope, diff: applied.diff, step }));
}

function entry(head: House, seq: number, { change, actorId }: Envelope, state?: HouseState): JournalEntry {
  const applied = applyChange(head, change.body, (id) => state?.history[id]);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return { seq, changeId: change.id, actorId, at: '2026-03-02T08:00:00Z', change, diff: applied.diff };
}

const shown = (state: HouseState) => recordOf(state.view!, 'storeys', STOREY)?.name;
const arrive = (state: HouseState, entries: JournalEntry[]) =>
  reduce(state, HouseEvents.journalArrived({ houseId: HOUSE, entries }));

describe('The house that is open', () => {
  it('shows a change at once and keeps showing it once, when it comes back in the journal', () => {
    const mine = changeOf(rename('Mine'));
    let state = make(opened(), mine);
    expect([shown(state), state.outbox.length, recordOf(state.head!, 'storeys', STOREY)!.name]).toEqual([
      'Mine',
      1,
      'Ground',
    ]);
    state = arrive(state, [entry(state.head!, 5, mine)]);
    expect([shown(state), state.outbox.length, state.seq]).toEqual(['Mine', 0, 5]);
    expect(arrive(state, [entry(start, 5, mine)]))
      .withContext('an entry twice is no news')
      .toBe(state);
  });

  it('puts what is unsent on top of what others have done meanwhile', () => {
    const mine = changeOf(rename('Mine'));
    const theirs = changeOf({ kind: 'house.set', name: 'Theirs' }, 'Mireille');
    const over = changeOf(rename('Over'), 'Mireille');
    let state = make(opened(), mine);
    state = arrive(state, [entry(state.head!, 5, theirs)]);
    expect([shown(state), state.view!.head.name]).toEqual(['Mine', 'Theirs']);
    state = arrive(state, [entry(state.head!, 6, over)]);
    expect(shown(state)).withContext('the later one has the last word').toBe('Mine');
  });

  it('keeps a change that no longer applies, out of the view, until a person decides', () => {
    const mine = changeOf(rename('Mine'));
    let state = make(opened(), mine);
    const gone = changeOf({ kind: 'storey.remove', recordId: STOREY }, 'Mireille');
    state = arrive(state, [entry(state.head!, 5, gone)]);
    expect([shown(state), state.outbox.length]).toEqual([undefined, 1]);
    state = reduce(
      state,
      HouseEvents.changesAnswered({
        houseId: HOUSE,
        done: [],
        overwrote: [],
        refused: [{ id: mine.change.id, code: 'change.stale-target', message: 'It is gone.' }],
      }),
    );
    expect(state.outbox[0]!.refusal).toEqual({ code: 'change.stale-target', message: 'It is gone.' });
    expect([state.undo, state.message]).toEqual([[], 'Not taken by the server: It is gone.']);
    const retried = reduce(state, HouseEvents.refusedChangeRetried({ changeId: mine.change.id }));
    expect(retried.outbox[0]!.refusal).toBeUndefined();
    expect(reduce(state, HouseEvents.refusedChangeDropped({ changeId: mine.change.id })).outbox).toEqual([]);
  });

  it('goes back and forth, and forgets the way forth after something new', () => {
    const [one, two] = [changeOf(rename('One')), changeOf(rename('Two'))];
    let state = make(make(opened(), one), two);
    const back = changeOf({ kind: 'revert', of: two.change.id });
    state = make(state, back, 'undo');
    expect([shown(state), state.undo, state.redo]).toEqual(['One', [one.change.id], [back.change.id]]);
    const forth = changeOf({ kind: 'revert', of: back.change.id });
    const redone = make(state, forth, 'redo');
    expect([shown(redone), redone.undo, redone.redo]).toEqual(['Two', [one.change.id, forth.change.id], []]);
    expect(make(state, changeOf(rename('Three'))).redo).toEqual([]);
  });

  it('takes nothing of another house', () => {
    const state = opened();
    const other = '40000000-0000-4000-8000-00000000000f';
    const news = entry(start, 5, changeOf(rename('X')));
    expect(reduce(state, HouseEvents.journalArrived({ houseId: other, entries: [news] }))).toBe(state);
    expect(reduce(state, HouseEvents.outboxRead({ houseId: other, outbox: [] }))).toBe(state);
  });
});

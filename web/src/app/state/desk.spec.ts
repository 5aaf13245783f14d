import { TestBed } from '@angular/core/testing';
import { emptyHouse, setting, withRow } from '@mule-tally/core';
import { Store, provideState, provideStore } from '@ngrx/store';
import { Desk } from './desk';
import { HouseEvents } from './house.actions';
import { houseFeature } from './house.feature';

const HOUSE = '40000000-0000-4000-8000-000000000001';
const STOREY = '40000000-0000-4000-8000-000000000002';

describe('The desk', () => {
  it('makes a change once: what says what is there already leaves nothing behind, what does not apply says why', () => {
    // As the app has it: a house shares its structure with others, and must not be frozen.
    const runtimeChecks = { strictStateImmutability: false, strictActionImmutability: false };
    TestBed.configureTestingModule({
      providers: [provideStore({}, { runtimeChecks }), provideState(houseFeature)],
    });
    const store = TestBed.inject(Store);
    store.dispatch(HouseEvents.houseOpened({ houseId: HOUSE }));
    store.dispatch(
      HouseEvents.houseRead({
        house: withRow(
          emptyHouse({ id: HOUSE, name: 'Lot', rulebook: { base: 'us-2020', overrides: {} } }),
          'storeys',
          STOREY,
          { at: 0, record: { id: STOREY, name: 'Ground' } },
        ),
        seq: 4,
        outbox: [],
        stacks: { undo: [], redo: [] },
        history: [],
        away: false,
        epoch: 'e',
      }),
    );
    const desk = TestBed.inject(Desk);
    const state = store.selectSignal(houseFeature.selectHouseState);
    const steps = () => [state().outbox.length, state().undo.length];
    expect(desk.make(setting('storeys', STOREY, { name: 'Ground' }))).toBeUndefined();
    expect(steps()).toEqual([0, 0]);
    expect(desk.make(setting('storeys', STOREY, { name: 'Upper' }))).toBeUndefined();
    expect(steps()).toEqual([1, 1]);
    expect(desk.make(setting('storeys', HOUSE, { name: 'Attic' }))).toBeDefined();
    expect([...steps(), state().message]).toEqual([1, 1, jasmine.any(String)]);
  });
});

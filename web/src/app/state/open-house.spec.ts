import { TestBed } from '@angular/core/testing';
import type { ChangeBody, Envelope } from '@mule-tally/core';
import {
  CREW_CHANGES,
  emptyHouse,
  personOfVersion1,
  recordOf,
  rowsOf,
  setting,
  withRow,
} from '@mule-tally/core';
import { provideEffects } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { Store, provideState, provideStore } from '@ngrx/store';
import { Subject } from 'rxjs';
import { Api } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import { CREW_BOOK } from '../sync/outbox';
import { LOOK } from '../sync/trigger';
import { FakeServer } from '../testing/fake-server';
import { CrewDesk, Desk } from './desk';
import { Crew } from './crew';
import { CrewEvents, HouseEvents } from './document.events';
import { CrewEffects, HouseEffects } from './document.effects';
import { crewFeature, houseFeature } from './document.feature';
import { ExchangeEffects } from './exchange.effects';
import { Session } from './session';
import { OpenHouse } from './open-house';

const STOREY = '40000000-0000-4000-8000-000000000002';
let houses = 0;

/** Waits for something that comes about by itself; fails with what was seen last. */
async function until<T>(see: () => T, wanted: T): Promise<void> {
  for (let turn = 0; turn < 4000; turn++) {
    if (JSON.stringify(see()) === JSON.stringify(wanted)) return;
    await new Promise((next) => setTimeout(next, 5));
  }
  expect(see()).toEqual(wanted);
}

/** A device with a house open, on a server that does as it is told. */
class Bench {
  readonly houseId = `40000000-0000-4000-8001-${String(++houses).padStart(12, '0')}`;
  readonly server = new FakeServer(
    withRow(
      emptyHouse({ id: this.houseId, name: 'Lot', rulebook: { base: 'us-2020', overrides: {} } }),
      'storeys',
      STOREY,
      { at: 0, record: { id: STOREY, name: 'Ground' } },
    ),
  );
  private readonly looks = new Subject<void>();
  private readonly store: Store;
  readonly desk: Desk;
  readonly house: OpenHouse;
  readonly device: DeviceStore;

  constructor() {
    TestBed.configureTestingModule({
      providers: [
        // As the app has it: a house shares its structure with others, and must not be frozen.
        provideStore(
          {},
          { runtimeChecks: { strictStateImmutability: false, strictActionImmutability: false } },
        ),
        provideState(houseFeature),
        provideState(crewFeature),
        provideEffects(HouseEffects, CrewEffects, ExchangeEffects),
        { provide: Api, useValue: this.server },
        { provide: LOOK, useValue: this.looks },
      ],
    });
    this.store = TestBed.inject(Store);
    this.desk = TestBed.inject(Desk);
    this.house = TestBed.inject(OpenHouse);
    this.device = TestBed.inject(DeviceStore);
  }

  readonly state = () => this.store.selectSignal(houseFeature.selectHouseState)();
  readonly crewState = () => this.store.selectSignal(crewFeature.selectCrewState)();
  readonly shown = () => {
    const view = this.house.view();
    return view && recordOf(view, 'storeys', STOREY)?.name;
  };
  readonly onServer = () => recordOf(this.server.house_, 'storeys', STOREY)?.name;
  /** Everything is out and has come back. */
  readonly rest = () =>
    until(() => [this.state().outbox.length, this.state().seq - this.server.entries.length], [0, 0]);
  look(): void {
    this.looks.next();
  }
  async openCrew(): Promise<void> {
    this.store.dispatch(CrewEvents.opened({ documentId: CREW_BOOK }));
    await until(() => this.crewState().phase, 'ready');
  }
  async open(): Promise<void> {
    this.store.dispatch(HouseEvents.opened({ documentId: this.houseId }));
    await until(() => this.state().phase, 'ready');
  }
  dispatch(action: Action): void {
    this.store.dispatch(action);
  }
}

const rename = (name: string): ChangeBody => setting('storeys', STOREY, { name });
/** A change that somebody else has made. */
const theirs = (body: ChangeBody): Envelope => ({
  change: { id: crypto.randomUUID(), version: 3, body },
  actorId: personOfVersion1('Mireille'),
});

describe('The house that is open', () => {
  afterEach(async () => {
    const device = TestBed.inject(DeviceStore);
    for (const houseId of await device.unsentDocuments())
      await device.dropFromOutbox((await device.outbox(houseId)).map(({ key }) => key));
  });

  it('shows a change at once, sends it, and derives nothing again when it comes back in the journal', async () => {
    const b = new Bench();
    await b.open();
    expect(b.desk.make(rename('Mine'))).toBeUndefined();
    expect([b.shown(), b.state().outbox.length, b.onServer()]).toEqual(['Mine', 1, 'Ground']);
    const view = b.house.view();
    await b.rest();
    expect([b.shown(), b.onServer(), b.house.head()!.seq]).toEqual(['Mine', 'Mine', 1]);
    expect(b.house.view()).withContext('the same house').toBe(view);
  });

  it('makes nothing of what is there already, and says why something does not apply', async () => {
    const b = new Bench();
    await b.open();
    expect(b.desk.make(rename('Ground'))).toBeUndefined();
    expect([b.state().outbox.length, b.state().undo.length]).toEqual([0, 0]);
    expect(b.desk.make(setting('storeys', b.houseId, { name: 'Attic' }))).toBeDefined();
    expect([b.state().outbox.length, b.state().message]).toEqual([0, jasmine.any(String)]);
  });

  it('puts what is unsent on top of what others have done meanwhile', async () => {
    const b = new Bench();
    await b.open();
    b.server.isAway = true;
    b.desk.make(rename('Mine'));
    await until(() => b.state().away, true);
    b.server.take(theirs({ kind: 'house.set', name: 'Theirs' }));
    b.server.take(theirs(rename('Over')));
    b.server.isAway = false;
    b.look();
    await b.rest();
    expect([b.shown(), b.house.view()!.head.name, b.state().away]).toEqual(['Mine', 'Theirs', false]);
  });

  it('keeps a change that no longer applies, out of the view, until a person decides', async () => {
    const b = new Bench();
    await b.open();
    b.server.isAway = true;
    b.desk.make(rename('Mine'));
    await until(() => b.state().away, true);
    b.server.take(theirs({ kind: 'storey.remove', recordId: STOREY }));
    b.server.isAway = false;
    b.look();
    await until(() => b.state().outbox.map(({ refusal }) => typeof refusal), ['object']);
    await until(b.shown, undefined);
    expect([b.state().undo, b.state().message]).toEqual([
      [],
      jasmine.stringMatching('Not taken by the server: '),
    ]);
    const { id } = b.state().outbox[0]!.change;
    // Sent again it is refused again; then it is let go of, on the device too.
    b.server.take(theirs({ kind: 'revert', of: b.server.entries[0]!.changeId }));
    b.dispatch(HouseEvents.refusedChangeRetried({ changeId: id }));
    await b.rest();
    expect([b.shown(), b.onServer()]).toEqual(['Mine', 'Mine']);
  });

  it('lets go of a refused change on the device too', async () => {
    const b = new Bench();
    await b.open();
    b.server.before = () => void b.server.take(theirs({ kind: 'storey.remove', recordId: STOREY }));
    b.desk.make(rename('Mine'));
    await until(() => b.state().outbox.map(({ refusal }) => typeof refusal), ['object']);
    b.dispatch(HouseEvents.refusedChangeDropped({ changeId: b.state().outbox[0]!.change.id }));
    expect(b.state().outbox).toEqual([]);
    let left = 1;
    await until(() => (void b.device.outbox(b.houseId).then(({ length }) => (left = length)), left), 0);
  });

  it('loses nothing and doubles nothing when answers are lost, and sends in the order of entry', async () => {
    const b = new Bench();
    await b.open();
    let lost = 0;
    b.server.after = () => {
      if (lost++ < 2) b.server.isAway = true;
      if (b.server.isAway) throw Object.assign(new Error('cut off'));
    };
    for (const name of ['One', 'Two', 'Three']) b.desk.make(rename(name));
    for (let turn = 0; turn < 40 && b.state().outbox.length; turn++) {
      b.server.isAway = false;
      b.look();
      await new Promise((next) => setTimeout(next, 10));
    }
    await b.rest();
    expect(b.onServer()).toBe('Three');
    expect(b.server.entries.map(({ diff }) => String(diff.rows[0]!.changed!['name']!.to)).join()).toBe(
      'One,Two,Three',
    );
  });

  it('goes back and forth, and forgets the way forth after something new', async () => {
    const b = new Bench();
    await b.open();
    b.desk.make(rename('One'));
    b.desk.make(rename('Two'));
    b.desk.undo();
    await until(b.shown, 'One');
    b.desk.redo();
    await until(b.shown, 'Two');
    b.desk.undo();
    await until(b.shown, 'One');
    expect([b.state().undo.length, b.state().redo.length]).toEqual([1, 1]);
    b.desk.make(rename('Three'));
    expect(b.state().redo).toEqual([]);
    await b.rest();
    expect(b.onServer()).toBe('Three');
  });

  it('undoes what this device no longer knows, and says so where it cannot be fetched', async () => {
    const b = new Bench();
    const old = theirs(rename('Old'));
    b.server.take(old);
    await b.open();
    b.server.isAway = true;
    b.house.open(b.house.view()!, 1, [], []);
    await b.desk.revert(old.change.id);
    expect([b.shown(), b.state().message]).toEqual(['Old', 'The server cannot be reached.']);
    b.server.isAway = false;
    await b.desk.revert(old.change.id);
    expect(b.shown()).toBe('Ground');
  });

  it('is read anew, with what is unsent on top, when another database stands in the place of the one it was read of', async () => {
    const b = new Bench();
    await b.open();
    b.server.isAway = true;
    b.desk.make({ kind: 'house.set', name: 'Mine' });
    await until(() => b.state().away, true);
    b.server.isAway = false;
    b.server.epoch = 'restored';
    b.server.house_ = withRow(b.server.house_, 'storeys', STOREY, {
      at: 0,
      record: { id: STOREY, name: 'Restored' },
    });
    b.look();
    await until(() => [b.state().epoch, b.shown()], ['restored', 'Restored']);
    await b.rest();
    expect(b.house.view()!.head.name).toBe('Mine');
  });

  it('comes from the device when the server is away, with what is unsent', async () => {
    const b = new Bench();
    await b.open();
    b.server.take(theirs({ kind: 'house.set', name: 'Theirs' }));
    b.look();
    await b.rest();
    b.server.isAway = true;
    b.desk.make(rename('Mine'));
    await until(() => b.state().away, true);
    b.dispatch(HouseEvents.closed());
    expect(b.house.view()).toBeUndefined();
    await b.open();
    expect([b.shown(), b.house.view()!.head.name, b.state().away]).toEqual(['Mine', 'Theirs', true]);
  });

  it('says when there is no such house, or none that can be read', async () => {
    const b = new Bench();
    b.dispatch(HouseEvents.opened({ documentId: STOREY }));
    await until(() => b.state().phase, 'missing');
    spyOn(b.server, 'document').and.resolveTo({ file: { format: 'something else' }, seq: 1, text: '' });
    b.dispatch(HouseEvents.opened({ documentId: b.houseId }));
    await until(() => b.state().phase, 'unreadable');
    expect(b.state().message).toBeTruthy();
  });
});

describe('The crew book', () => {
  afterEach(async () => {
    const device = TestBed.inject(DeviceStore);
    for (const documentId of await device.unsentDocuments())
      await device.dropFromOutbox((await device.outbox(documentId)).map(({ key }) => key));
  });
  const crewRests = (b: Bench) =>
    until(() => [b.crewState().outbox.length, b.crewState().seq - b.server.crew.entries.length], [0, 0]);

  it('goes out before the house, so that whoever has just entered themselves is known', async () => {
    const b = new Bench();
    await b.openCrew();
    await b.open();
    await crewRests(b);
    const [crew, session] = [TestBed.inject(Crew), TestBed.inject(Session)];
    b.server.isAway = true;
    const [before, name] = [session.who(), `Mireille ${crypto.randomUUID()}`];
    b.desk.make(rename('By the one before'));
    expect(crew.add(name)).toBeUndefined();
    expect([session.who().name, crew.nameOf(session.who().id)]).toEqual([name, name]);
    b.desk.make(rename('By Mireille'));
    await until(() => [b.state().away, b.crewState().away], [true, true]);
    b.server.isAway = false;
    b.look();
    await b.rest();
    await crewRests(b);
    expect(b.server.asked.slice(0, 2)).toEqual([CREW_BOOK, b.houseId]);
    expect(rowsOf(b.server.crew.now, 'people').map(({ record }) => record.name)).toEqual([name]);
    expect(b.server.entries.map(({ actorId }) => actorId)).toEqual([before.id, session.who().id]);
    // Entered under a name that somebody else has: the name that the book gives is theirs.
    b.server.isAway = true;
    const twice = `Ada ${crypto.randomUUID()}`;
    crew.add(twice);
    const mine = session.who().id;
    const body = CREW_CHANGES.adding('people', { id: crypto.randomUUID(), name: twice });
    b.server.crew.take({ change: { id: crypto.randomUUID(), version: 3, body }, actorId: mine });
    b.server.isAway = false;
    b.look();
    await until(() => (TestBed.tick(), [session.who().id, session.who().name]), [mine, `${twice} (2)`]);
    session.who.set(before);
  });

  it('is undone, refused and kept for the time without a server by itself', async () => {
    const b = new Bench();
    await b.openCrew();
    const desk = TestBed.inject(CrewDesk);
    const price = { id: crypto.randomUUID(), kind: 'hour', amount: 60 } as const;
    const amount = () => recordOf(b.server.crew.now, 'prices', price.id)?.amount;
    expect(desk.make(CREW_CHANGES.adding('prices', price))).toBeUndefined();
    expect(desk.make(CREW_CHANGES.adding('prices', { ...price, id: crypto.randomUUID() }))!.code).toBe(
      'crew.only-one',
    );
    expect(b.crewState().message).toContain('price');
    desk.make(CREW_CHANGES.setting('prices', price.id, { amount: 70 }));
    desk.undo();
    await crewRests(b);
    expect(amount()).toBe(60);
    b.server.isAway = true;
    desk.make(CREW_CHANGES.setting('prices', price.id, { amount: 80 }));
    await until(() => b.crewState().away, true);
    b.dispatch(CrewEvents.closed());
    await b.openCrew();
    await until(() => b.crewState().outbox.length, 1);
    b.server.isAway = false;
    b.look();
    await until(amount, 80);
    await crewRests(b);
  });

  it('leaves out a step back that cannot be gone, such as a name, and goes on to those before it', async () => {
    const b = new Bench();
    await b.openCrew();
    const desk = TestBed.inject(CrewDesk);
    const id = crypto.randomUUID();
    const price = { id: crypto.randomUUID(), kind: 'hour', amount: 60 } as const;
    desk.make(CREW_CHANGES.adding('prices', price));
    desk.make(CREW_CHANGES.adding('people', { id, name: 'Odo' }));
    desk.make(CREW_CHANGES.setting('people', id, { name: 'Otto' }));
    // The device may remember steps of the crew book from before.
    const steps = b.crewState().undo.length;
    for (const gone of [1, 2, 3]) {
      desk.undo();
      await until(() => b.crewState().undo.length, steps - gone);
    }
    await crewRests(b);
    const { people, prices } = b.server.crew.now.tables;
    expect([people.get(id), prices.size]).toEqual([undefined, 0]);
  });

  it('is asked for again where it could not be read, once the server is there', async () => {
    const b = new Bench();
    const document = b.server.document.bind(b.server);
    const reading = spyOn(b.server, 'document').and.callFake((id) =>
      id === CREW_BOOK ? Promise.reject(new Error('cut')) : document(id),
    );
    b.dispatch(CrewEvents.opened({ documentId: CREW_BOOK }));
    await until(() => b.crewState().phase, 'unreadable');
    await b.open();
    reading.and.callFake(document);
    b.look();
    await until(() => b.crewState().phase, 'ready');
  });
});

describe('The journal', () => {
  it('comes to the same in whatever order and however often its pages arrive', async () => {
    const b = new Bench();
    await b.open();
    for (const name of ['One', 'Two', 'Three', 'Four']) b.server.take(theirs(rename(name)));
    const { entries } = b.server;
    // An older page after a newer one, and one that overlaps what is there.
    expect(b.house.arrived(entries.slice(0, 2)).length).toBe(2);
    expect(b.house.arrived(entries.slice(0, 1))).toEqual([]);
    expect(b.house.arrived(entries.slice(1, 4)).map(({ seq }) => seq)).toEqual([3, 4]);
    expect([b.shown(), b.house.head()!.seq]).toEqual(['Four', 4]);
    // One that is ahead of what is there waits until what is between has come.
    const gap = b.server.take(theirs(rename('Five')));
    b.server.take(theirs(rename('Six')));
    expect(b.house.arrived(b.server.entries.slice(5))).toEqual([]);
    expect([gap.status, b.shown()]).toEqual(['applied', 'Four']);
    b.house.arrived(b.server.entries.slice(4));
    expect([b.shown(), b.house.head()!.seq]).toEqual(['Six', 6]);
  });
});

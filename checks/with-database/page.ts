/**
 * The page of the app without its screens, in Node: its own store, effects, desk, outbox and exchange, over an IndexedDB in memory.
 * What browsers give it (storage, locks, requests) comes from the device that the page is open on.
 */
import 'fake-indexeddb/auto';
import '@angular/compiler';
import '@angular/localize/init';
import { AsyncLocalStorage } from 'node:async_hooks';

/** What a browser gives to one of its pages. */
export interface Surroundings {
  readonly storage: Map<string, string>;
  fetch(path: string, init?: RequestInit): Promise<Response>;
}

const within = new AsyncLocalStorage<Surroundings>();
/** Does something as a page of these surroundings; what it starts goes on in them. */
export const as = <Result>(surroundings: Surroundings, work: () => Result): Result =>
  within.run(surroundings, work);

const realFetch = globalThis.fetch;
const nothing = (): void => undefined;
const define = (name: string, value: unknown): void =>
  void Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });
define('fetch', (path: string, init?: RequestInit) => {
  const page = within.getStore();
  return page && path.startsWith('/') ? page.fetch(path, init) : realFetch(path, init);
});
define('localStorage', {
  getItem: (key: string) => within.getStore()?.storage.get(key) ?? null,
  setItem: (key: string, value: string) => within.getStore()?.storage.set(key, value),
  removeItem: (key: string) => within.getStore()?.storage.delete(key),
});
define('document', { visibilityState: 'visible', addEventListener: nothing, removeEventListener: nothing });
/** One at a time for each page: a page that is gone holds nothing up. */
const turns = new WeakMap<Surroundings, Promise<unknown>>();
/** How many have theirs, or wait for it. */
const atWork = new WeakMap<Surroundings, number>();
const inTurn = (_name: string, work: () => Promise<unknown>): Promise<unknown> => {
  const page = within.getStore()!;
  const done = (turns.get(page) ?? Promise.resolve()).then(work);
  const count = (by: number): void => void atWork.set(page, (atWork.get(page) ?? 0) + by);
  count(1);
  turns.set(
    page,
    done.catch(nothing).then(() => count(-1)),
  );
  return done;
};
define('navigator', { locks: { request: inTurn } });
// Tabs of one browser talk by it; each device here has one.
define(
  'BroadcastChannel',
  class extends EventTarget {
    postMessage = nothing;
    close = nothing;
  },
);

const { ErrorHandler, Injector, createEnvironmentInjector, signal, ɵINJECTOR_SCOPE } =
  await import('@angular/core');
const { Store, provideState, provideStore } = await import('@ngrx/store');
const { provideEffects } = await import('@ngrx/effects');
const { Subject } = await import('rxjs');
const { CrewEffects, HouseEffects } = await import('../../web/src/app/state/document.effects.js');
const { ExchangeEffects } = await import('../../web/src/app/state/exchange.effects.js');
const { CrewEvents, HouseEvents } = await import('../../web/src/app/state/document.events.js');
const { crewFeature, houseFeature } = await import('../../web/src/app/state/document.feature.js');
const { Desk } = await import('../../web/src/app/state/desk.js');
const { Identity } = await import('../../web/src/app/state/identity.js');
const { OpenHouse } = await import('../../web/src/app/state/open-house.js');
const { Session } = await import('../../web/src/app/state/session.js');
const { DeviceStore } = await import('../../web/src/app/sync/device-store.js');
const { LOOK } = await import('../../web/src/app/sync/trigger.js');

/** Who works on the page. */
export interface Worker {
  readonly id: string;
  readonly name: string;
  readonly role: 'lead' | 'hand';
  readonly deviceId: string;
}

/** A page that is open at a house. */
export type Page = ReturnType<typeof openPage>;

export function openPage(surroundings: Surroundings, { id, name, role, deviceId }: Worker, houseId: string) {
  return as(surroundings, () => {
    const look = new Subject<undefined>();
    const injector = createEnvironmentInjector(
      [
        { provide: ɵINJECTOR_SCOPE, useValue: 'root' },
        { provide: ErrorHandler, useClass: ErrorHandler },
        { provide: LOOK, useValue: look },
        { provide: Session, useValue: { who: signal({ id, name, role }), deviceId } },
        { provide: Identity, useValue: { actor: signal({ id, role }) } },
        provideStore(
          {},
          { runtimeChecks: { strictStateImmutability: false, strictActionImmutability: false } },
        ),
        provideState(houseFeature),
        provideState(crewFeature),
        provideEffects(HouseEffects, CrewEffects, ExchangeEffects),
      ],
      Injector.NULL as never,
    );
    const store = injector.get(Store);
    const desk = injector.get(Desk);
    const house = injector.get(OpenHouse);
    const device = injector.get(DeviceStore);
    const state = store.selectSignal(houseFeature.selectHouseState);
    store.dispatch(CrewEvents.opened({ documentId: 'crew' }));
    store.dispatch(HouseEvents.opened({ documentId: houseId }));
    const inHere = <Result>(work: () => Result): Result => as(surroundings, work);
    return {
      desk: {
        make: (body: Parameters<typeof desk.make>[0]) => inHere(() => desk.make(body)),
        undo: () => inHere(() => desk.undo()),
        redo: () => inHere(() => desk.redo()),
      },
      house,
      state,
      /** It is time to exchange. */
      look: () => inHere(() => look.next(undefined)),
      outbox: () => inHere(() => device.outbox(houseId)),
      /** It sends, or is about to. */
      isSending: () => (atWork.get(surroundings) ?? 0) > 0,
      close: () => injector.destroy(),
    };
  });
}

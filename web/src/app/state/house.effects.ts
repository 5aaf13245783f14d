import { Injectable, inject } from '@angular/core';
import type { HouseFile } from '@mule-tally/core';
import { readHouseFile, writeHouseFile } from '@mule-tally/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import {
  EMPTY,
  concatMap,
  debounceTime,
  exhaustMap,
  filter,
  firstValueFrom,
  from,
  fromEvent,
  map,
  merge,
  mergeMap,
  switchMap,
  tap,
  timer,
  withLatestFrom,
} from 'rxjs';
import { Api, Refused, ServerAway } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import type { OutboxItem } from '../sync/outbox';
import { Sender } from '../sync/sender';
import { HouseEvents } from './house.actions';
import { houseFeature, unrefused } from './house.feature';
import { Session } from './session';

/** How often other people's changes are fetched, until the server announces them. Milliseconds. */
const LOOK_EVERY = 4000;
const JOURNAL_PAGE = 500;
/** Journal entries fetched with a house, so that what was done lately can be undone after a reload. */
const HISTORY = 200;

/** One sender for all tabs of this browser. */
const SENDER = 'mule-tally-sender';

@Injectable()
export class HouseEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly session = inject(Session);
  private readonly sender = new Sender(this.device, this.api);
  private readonly otherTabs = new BroadcastChannel('mule-tally');
  private readonly state$ = this.store.select(houseFeature.selectHouseState);

  readonly open = createEffect(() =>
    this.actions.pipe(
      ofType(HouseEvents.houseOpened),
      switchMap(({ houseId }) => from(this.read(houseId))),
    ),
  );

  /** Into IndexedDB before anything is sent. */
  readonly keep = createEffect(() =>
    this.actions.pipe(
      ofType(HouseEvents.changeMade),
      withLatestFrom(this.state$),
      concatMap(async ([{ envelope }, { houseId, undo, redo }]) => {
        if (houseId) {
          await this.device.enqueue({ houseId, ...envelope });
          await this.device.keepUndo(houseId, { undo, redo });
          this.otherTabs.postMessage({ houseId });
        }
        return HouseEvents.changeKept({ changeId: envelope.change.id });
      }),
    ),
  );

  readonly send = createEffect(() =>
    merge(
      this.actions.pipe(
        ofType(HouseEvents.changeKept, HouseEvents.houseRead, HouseEvents.refusedChangeRetried),
      ),
      timer(LOOK_EVERY, LOOK_EVERY),
      fromEvent(window, 'online'),
      fromEvent(document, 'visibilitychange'),
    ).pipe(
      withLatestFrom(this.state$),
      filter(([, { phase }]) => phase !== 'loading' && document.visibilityState === 'visible'),
      exhaustMap(([, { phase, houseId }]) =>
        from(this.exchange(phase === 'ready' ? houseId : null)).pipe(mergeMap((events) => events)),
      ),
    ),
  );

  readonly listenToOtherTabs = createEffect(() =>
    fromEvent<MessageEvent<{ houseId: string }>>(this.otherTabs, 'message').pipe(
      withLatestFrom(this.state$),
      filter(([{ data }, { houseId }]) => data.houseId === houseId),
      switchMap(async ([{ data }]) =>
        HouseEvents.outboxRead({
          houseId: data.houseId,
          outbox: (await this.device.outbox(data.houseId)).map(({ item }) => item),
        }),
      ),
    ),
  );

  readonly rememberDecision = createEffect(
    () =>
      this.actions.pipe(
        ofType(HouseEvents.refusedChangeDropped),
        withLatestFrom(this.state$),
        concatMap(async ([{ changeId }, { houseId }]) => {
          const kept = houseId ? await this.device.outbox(houseId) : [];
          await this.device.dropFromOutbox(
            kept.filter(({ item }) => item.change.id === changeId).map(({ key }) => key),
          );
        }),
      ),
    { dispatch: false },
  );

  readonly retry = createEffect(
    () =>
      this.actions.pipe(
        ofType(HouseEvents.refusedChangeRetried),
        withLatestFrom(this.state$),
        concatMap(async ([{ changeId }, { houseId }]) => {
          for (const { key, item } of houseId ? await this.device.outbox(houseId) : []) {
            if (item.change.id !== changeId) continue;
            await this.device.setOutboxItem(key, unrefused(item));
          }
        }),
      ),
    { dispatch: false },
  );

  /** A copy of the house for the time when the server cannot be reached. */
  readonly remember = createEffect(
    () =>
      this.state$.pipe(
        filter(({ head }) => head !== null),
        map(({ head, seq }) => ({ head: head!, seq })),
        debounceTime(1500),
        tap(({ head, seq }) => void this.device.keepHouse(writeHouseFile(head, this.session.people()), seq)),
        switchMap(() => EMPTY),
      ),
    { dispatch: false },
  );

  private async read(houseId: string) {
    const stored = async (): Promise<OutboxItem[]> =>
      (await this.device.outbox(houseId)).map(({ item }) => item);
    const stacks = await this.device.undo(houseId);
    try {
      const { file, seq } = await this.api.house(houseId);
      const { epoch } = this.api;
      const { entries } = await this.api.journal(houseId, {
        before: seq + 1,
        limit: HISTORY,
        diffs: 'only',
      });
      const read = readHouseFile(file);
      if (!read.ok) return HouseEvents.houseUnreadable({ message: read.problems[0]!.message });
      return HouseEvents.houseRead({
        house: read.house,
        seq,
        outbox: await stored(),
        stacks,
        history: entries,
        away: false,
        epoch,
      });
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 404) return HouseEvents.houseMissing();
      const kept = error instanceof ServerAway ? await this.device.house(houseId) : undefined;
      const read = kept && readHouseFile(kept.file satisfies HouseFile);
      if (kept && read?.ok) {
        return HouseEvents.houseRead({
          house: read.house,
          seq: kept.seq,
          outbox: await stored(),
          stacks,
          history: [],
          away: true,
          epoch: '',
        });
      }
      return HouseEvents.houseUnreadable({
        message: error instanceof ServerAway ? error.message : 'This house could not be opened. Try again.',
      });
    }
  }

  /**
   * Sends what is unsent, of houses that were left behind too, then fetches the journal of the open one: the only way by which
   * its head moves on.
   */
  private async exchange(houseId: string | null) {
    try {
      await this.session.sendPeople();
      const sent = await navigator.locks.request(SENDER, () => this.sender.sendAll(houseId ?? undefined));
      if (!houseId) return [];
      const answered = sent.get(houseId) ?? { done: [], refused: [], overwrote: [] };
      const { seq, epoch } = await this.now();
      // What was sent stands on the last page at the latest: it stays in the view until that has arrived.
      for (let after = seq, isMore = true; isMore;) {
        const { entries, more } = await this.api.journal(houseId, {
          after,
          limit: JOURNAL_PAGE,
          diffs: 'only',
        });
        // Another database stands in the place of the one that was read: all anew, with what is unsent on top.
        if (epoch && this.api.epoch !== epoch) return [HouseEvents.houseOpened({ houseId })];
        this.store.dispatch(HouseEvents.journalArrived({ houseId, entries }));
        after = entries.at(-1)?.seq ?? after;
        isMore = more && entries.length > 0;
      }
      return [HouseEvents.serverBack(), HouseEvents.changesAnswered({ houseId, ...answered })];
    } catch (error) {
      return error instanceof ServerAway && houseId ? [HouseEvents.serverAway()] : [];
    }
  }

  private now(): Promise<{ seq: number; epoch: string }> {
    return firstValueFrom(this.state$);
  }
}

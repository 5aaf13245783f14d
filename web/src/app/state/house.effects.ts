import { Injectable, inject } from '@angular/core';
import type { HouseFileResult, JournalEntry } from '@mule-tally/core';
import { applyDiff, readHouseFileInSteps } from '@mule-tally/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { Store } from '@ngrx/store';
import {
  concatMap,
  distinctUntilChanged,
  exhaustMap,
  filter,
  from,
  fromEvent,
  map,
  merge,
  mergeMap,
  switchMap,
  tap,
  withLatestFrom,
} from 'rxjs';
import { Api, Refused, ServerAway } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import type { OutboxItem } from '../sync/outbox';
import { Exchange } from '../sync/exchange';
import { LOOK } from '../sync/trigger';
import { inSlices } from './slices';
import { HouseEvents } from './house.actions';
import { houseFeature, unrefused } from './house.feature';
import { OpenHouse } from './open-house';
import { Session } from './session';

/** Journal entries fetched with a house, so that what was done lately can be undone after a reload. */
const HISTORY = 200;

@Injectable()
export class HouseEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly session = inject(Session);
  private readonly exchanges = new Exchange(this.device, this.api);
  private readonly look$ = inject(LOOK);
  private readonly otherTabs = new BroadcastChannel('mule-tally');
  private readonly house = inject(OpenHouse);
  private readonly openId = this.store.selectSignal(houseFeature.selectHouseId);
  private readonly now = this.store.selectSignal(houseFeature.selectHouseState);
  private readonly state$ = this.store.select(houseFeature.selectHouseState);

  readonly open = createEffect(() =>
    this.actions.pipe(
      ofType(HouseEvents.houseOpened),
      tap(() => this.house.close()),
      switchMap(({ houseId }) => from(this.read(houseId))),
    ),
  );

  readonly close = createEffect(
    () =>
      this.actions.pipe(
        ofType(HouseEvents.houseClosed),
        tap(() => this.house.close()),
      ),
    { dispatch: false },
  );

  /** What is shown has what is unsent on top, however that came about. */
  readonly rebase = createEffect(
    () =>
      this.state$.pipe(
        map(({ outbox }) => outbox),
        distinctUntilChanged(),
        tap((outbox) => this.house.rebase(outbox)),
      ),
    { dispatch: false },
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
    merge(this.actions.pipe(ofType(HouseEvents.changeKept, HouseEvents.houseRead)), this.look$).pipe(
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

  /** Sent again once the device has it that way. */
  readonly retry = createEffect(() =>
    this.actions.pipe(
      ofType(HouseEvents.refusedChangeRetried),
      withLatestFrom(this.state$),
      concatMap(async ([{ changeId }, { houseId }]) => {
        for (const { key, item } of houseId ? await this.device.outbox(houseId) : []) {
          if (item.change.id !== changeId) continue;
          await this.device.setOutboxItem(key, unrefused(item));
        }
        return HouseEvents.changeKept({ changeId });
      }),
    ),
  );

  private async read(houseId: string) {
    const stored = async (): Promise<OutboxItem[]> =>
      (await this.device.outbox(houseId)).map(({ item }) => item);
    const stacks = await this.device.undo(houseId);
    try {
      const { file, seq, text } = await this.api.house(houseId);
      const { epoch } = this.api;
      const { entries } = await this.api.journal(houseId, {
        before: seq + 1,
        limit: HISTORY,
        diffs: 'only',
      });
      const read = await this.readInSlices(houseId, file);
      if (!read?.ok) return this.unreadable(read);
      // For the time when the server cannot be reached.
      void this.device.keepHouse({ id: houseId, name: read.file.name, text, seq });
      const outbox = await stored();
      if (this.openId() === houseId) this.house.open(read.house, seq, outbox, entries, text);
      return HouseEvents.houseRead({ houseId, seq, outbox, stacks, away: false, epoch });
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 404) return HouseEvents.houseMissing();
      if (!(error instanceof ServerAway))
        return HouseEvents.houseUnreadable({ message: 'This house could not be opened. Try again.' });
      const kept = await this.device.house(houseId);
      if (!kept) return HouseEvents.houseUnreadable({ message: error.message });
      const read = await this.readInSlices(houseId, kept.file);
      if (!read?.ok) return this.unreadable(read);
      const seq = kept.news.at(-1)?.seq ?? kept.seq;
      const house = kept.news.reduce((older, { diff }) => applyDiff(older, diff), read.house);
      const outbox = await stored();
      if (this.openId() === houseId) this.house.open(house, seq, outbox, kept.news);
      return HouseEvents.houseRead({ houseId, seq, outbox, stacks, away: true, epoch: '' });
    }
  }

  /** Reads a file with pauses for the screen; undefined where another house has been asked for meanwhile. */
  private readInSlices(houseId: string, file: unknown): Promise<HouseFileResult | undefined> {
    return inSlices(readHouseFileInSteps(file), () => this.openId() !== houseId);
  }

  private unreadable(read: HouseFileResult | undefined): Action {
    const message = read && !read.ok ? read.problems[0]?.message : undefined;
    return HouseEvents.houseUnreadable({ message: message ?? 'This house could not be opened. Try again.' });
  }

  private async exchange(houseId: string | null): Promise<Action[]> {
    try {
      await this.session.sendPeople();
    } catch (error) {
      // One that is refused as a person holds nothing up; what they changed says so itself.
      if (error instanceof ServerAway) return houseId ? [HouseEvents.serverAway()] : [];
    }
    const ended = await this.exchanges.run(
      houseId ? { houseId, now: this.now, take: (entries) => this.take(houseId, entries) } : undefined,
    );
    if (!houseId || ended.kind === 'failed') return [];
    switch (ended.kind) {
      case 'done':
        return [HouseEvents.serverBack(), HouseEvents.changesAnswered({ houseId, ...ended.sent })];
      case 'other-database':
        // All anew, with what is unsent on top.
        return [HouseEvents.houseOpened({ houseId })];
      case 'away':
        return [HouseEvents.serverAway()];
    }
  }

  /** Moves the head on, unless another house has been opened meanwhile. */
  private take(houseId: string, entries: readonly JournalEntry[]): void {
    const newer = this.openId() === houseId ? this.house.arrived(entries) : [];
    const last = newer.at(-1);
    if (!last) return;
    void this.device.keepNews(houseId, newer);
    this.store.dispatch(
      HouseEvents.journalArrived({
        houseId,
        seq: last.seq,
        changeIds: newer.map(({ changeId }) => changeId),
      }),
    );
  }
}

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
import type { OutboxItem } from '../sync/device-store';
import { HouseEvents } from './house.actions';
import { houseFeature } from './house.feature';

/** How often other people's changes are fetched, until the server announces them. Milliseconds. */
const LOOK_EVERY = 4000;
const BATCH = 100;
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
      concatMap(async ([{ change }, { houseId, undo, redo }]) => {
        if (houseId) {
          await this.device.enqueue({ houseId, change });
          await this.device.keepUndo(houseId, { undo, redo });
          this.otherTabs.postMessage({ houseId });
        }
        return HouseEvents.changeKept({ changeId: change.id });
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
      filter(
        ([, { phase, houseId }]) =>
          phase === 'ready' && houseId !== null && document.visibilityState === 'visible',
      ),
      exhaustMap(([, { houseId }]) => from(this.exchange(houseId!)).pipe(mergeMap((events) => events))),
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
            await this.device.setOutboxItem(key, { houseId: item.houseId, change: item.change });
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
        tap(({ head, seq }) => void this.device.keepHouse(writeHouseFile(head), seq)),
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
      const { entries } = await this.api.journal(houseId, { before: seq + 1, limit: HISTORY });
      const read = readHouseFile(file);
      if (!read.ok) return HouseEvents.houseUnreadable({ message: read.problems[0]!.message });
      return HouseEvents.houseRead({
        house: read.house,
        seq,
        outbox: await stored(),
        stacks,
        history: entries,
        away: false,
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
        });
      }
      return HouseEvents.houseUnreadable({
        message: error instanceof ServerAway ? error.message : 'This house could not be opened. Try again.',
      });
    }
  }

  /** Sends what is in the outbox, in order, then fetches the journal: the only way by which the head moves on. */
  private async exchange(houseId: string) {
    try {
      const { done, refused } = await navigator.locks.request(SENDER, () => this.sendOutbox(houseId));
      const seq = await this.currentSeq();
      const { entries } = await this.api.journal(houseId, { after: seq, limit: JOURNAL_PAGE });
      return [
        HouseEvents.serverBack(),
        HouseEvents.journalArrived({ houseId, entries }),
        // When the journal has more pages, what was sent may stand on a later one: it stays in the view until then.
        ...(entries.length < JOURNAL_PAGE ? [HouseEvents.changesAnswered({ houseId, done, refused })] : []),
      ];
    } catch (error) {
      return error instanceof ServerAway ? [HouseEvents.serverAway()] : [];
    }
  }

  private currentSeq(): Promise<number> {
    return new Promise((resolve) => {
      this.store.select(houseFeature.selectSeq).subscribe(resolve).unsubscribe();
    });
  }

  private async sendOutbox(houseId: string) {
    const done: string[] = [];
    const refused: { id: string; code: string; message: string }[] = [];
    for (;;) {
      // Read again after each batch: what was entered meanwhile goes out too.
      const part = (await this.device.outbox(houseId)).filter(({ item }) => !item.refusal).slice(0, BATCH);
      if (part.length === 0) return { done, refused };
      const { answers } = await this.api.change(
        houseId,
        part.map(({ item }) => item.change),
      );
      const finished: number[] = [];
      for (const [index, answer] of answers.entries()) {
        const { key, item } = part[index]!;
        if (answer.status === 'refused') {
          const { id, code, message } = answer;
          refused.push({ id, code, message });
          await this.device.setOutboxItem(key, { ...item, refusal: { code, message } });
        } else {
          done.push(answer.id);
          finished.push(key);
        }
      }
      await this.device.dropFromOutbox(finished);
    }
  }
}

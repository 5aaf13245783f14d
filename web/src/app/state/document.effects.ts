import { Injectable, inject } from '@angular/core';
import type {
  CREW_LISTS,
  ChangeBody,
  CrewChangeBody,
  CrewHead,
  Diff,
  Document,
  HouseHead,
  ListName,
  Lists,
  TABLES,
} from '@mule-tally/core';
import { Places, applyDiff, placedAt, readCrewFile, readHouseFileInSteps } from '@mule-tally/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { Store } from '@ngrx/store';
import {
  concatMap,
  distinctUntilChanged,
  filter,
  from,
  fromEvent,
  map,
  switchMap,
  tap,
  withLatestFrom,
} from 'rxjs';
import { Api, Refused, ServerAway } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import type { OutboxItem } from '../sync/outbox';
import type { Entry } from '../sync/transport';
import type { DocumentEvents } from './document.events';
import { CrewEvents, HouseEvents } from './document.events';
import type { DocumentState } from './document.feature';
import { crewFeature, houseFeature, unrefused } from './document.feature';
import { OpenCrew } from './open-crew';
import type { OpenDocument } from './open-document';
import { OpenHouse } from './open-house';
import { inSlices } from './slices';

/** Journal entries fetched with a document, so that what was done lately can be undone after a reload. */
const HISTORY = 200;

/** A document as it was read from its file, or why it could not be. */
type ReadDocument<L extends Lists, H extends { id: string }> =
  | { readonly ok: true; readonly document: Document<L, H>; readonly name: string }
  | { readonly ok: false; readonly message?: string | undefined };

/** Opens documents of one kind, keeps what is entered, and lets go of what is refused. */
abstract class DocumentEffects<L extends Lists, H extends { id: string }, B> {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly otherTabs = new BroadcastChannel('mule-tally');
  private readonly own = this.kind();
  private readonly events = this.own.events;
  private readonly document = this.own.document;
  private readonly state$ = this.store.select(this.own.select);
  private readonly now = this.store.selectSignal(this.own.select);

  /** Which documents; asked for before the fields of a subclass are there. */
  protected abstract kind(): {
    readonly noun: string;
    readonly events: DocumentEvents;
    select(state: object): DocumentState;
    readonly document: OpenDocument<L, H, B>;
  };
  /** Reads a file with pauses for the screen; undefined where another document has been asked for meanwhile. */
  protected abstract fileRead(file: unknown, isLeft: () => boolean): Promise<ReadDocument<L, H> | undefined>;

  readonly open = createEffect(() =>
    this.actions.pipe(
      ofType(this.events.opened),
      tap(() => this.document.close()),
      switchMap(({ documentId }) => from(this.read(documentId))),
    ),
  );

  readonly close = createEffect(
    () =>
      this.actions.pipe(
        ofType(this.events.closed),
        tap(() => this.document.close()),
      ),
    { dispatch: false },
  );

  /** What is shown has what is unsent on top, however that came about. */
  readonly rebase = createEffect(
    () =>
      this.state$.pipe(
        map(({ outbox }) => outbox),
        distinctUntilChanged(),
        tap((outbox) => this.document.rebase(outbox)),
      ),
    { dispatch: false },
  );

  /** Into IndexedDB before anything is sent. */
  readonly keep = createEffect(() =>
    this.actions.pipe(
      ofType(this.events.changeMade),
      withLatestFrom(this.state$),
      concatMap(async ([{ envelope }, { documentId, undo, redo }]) => {
        if (documentId) {
          await this.device.enqueue({ documentId, ...envelope });
          await this.device.keepUndo(documentId, { undo, redo });
          this.otherTabs.postMessage({ documentId });
        }
        return this.events.changeKept({ changeId: envelope.change.id });
      }),
    ),
  );

  readonly listenToOtherTabs = createEffect(() =>
    fromEvent<MessageEvent<{ documentId: string }>>(this.otherTabs, 'message').pipe(
      withLatestFrom(this.state$),
      filter(([{ data }, { documentId }]) => data.documentId === documentId),
      switchMap(async ([{ data }]) =>
        this.events.outboxRead({
          documentId: data.documentId,
          outbox: (await this.device.outbox(data.documentId)).map(({ item }) => item),
        }),
      ),
    ),
  );

  readonly rememberDecision = createEffect(
    () =>
      this.actions.pipe(
        ofType(this.events.refusedChangeDropped),
        withLatestFrom(this.state$),
        concatMap(async ([{ changeId }, { documentId }]) => {
          if (documentId) await this.device.dropChanges(documentId, new Set([changeId]));
        }),
      ),
    { dispatch: false },
  );

  /** Sent again once the device has it that way. */
  readonly retry = createEffect(() =>
    this.actions.pipe(
      ofType(this.events.refusedChangeRetried),
      withLatestFrom(this.state$),
      concatMap(async ([{ changeId }, { documentId }]) => {
        for (const { key, item } of documentId ? await this.device.outbox(documentId) : []) {
          if (item.change.id !== changeId) continue;
          await this.device.setOutboxItem(key, unrefused(item));
        }
        return this.events.changeWaits();
      }),
    ),
  );

  /** Moves the head on, unless another document has been opened meanwhile. */
  take(documentId: string, entries: readonly Entry[]): void {
    const isOpen = this.now().documentId === documentId;
    const newer = isOpen
      ? this.document.arrived(entries as readonly (Entry & { diff: Diff<ListName<L>> })[])
      : [];
    const last = newer.at(-1);
    if (!last) return;
    void this.device.keepNews(documentId, newer);
    // What has come back is done, whatever was answered when it was sent.
    const ids = new Set(newer.map(({ changeId }) => changeId));
    if (this.now().outbox.some(({ change }) => ids.has(change.id)))
      void this.device.dropChanges(documentId, ids);
    this.store.dispatch(
      this.events.journalArrived({
        documentId,
        seq: last.seq,
        changeIds: newer.map(({ changeId }) => changeId),
      }),
    );
  }

  private async read(documentId: string): Promise<Action> {
    const isLeft = (): boolean => this.now().documentId !== documentId;
    const stored = async (): Promise<OutboxItem[]> =>
      (await this.device.outbox(documentId)).map(({ item }) => item);
    const stacks = await this.device.undo(documentId);
    try {
      const { file, seq, places, text } = await this.api.document(documentId);
      const { epoch } = this.api;
      const { entries } = await this.api.journal(documentId, {
        before: seq + 1,
        limit: HISTORY,
        diffs: 'only',
      });
      const read = await this.fileRead(file, isLeft);
      if (!read?.ok) return this.unreadable(read);
      const document = placedAt(read.document, places);
      // For the time when the server cannot be reached.
      void this.device.keepDocument({ id: documentId, name: read.name, text, seq });
      const outbox = await stored();
      if (!isLeft()) this.document.open(document, seq, outbox, entries as never, text);
      return this.events.read({ documentId, seq, outbox, stacks, away: false, epoch });
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 404) return this.events.missing();
      if (!(error instanceof ServerAway)) return this.unreadable();
      const kept = await this.device.document(documentId);
      if (!kept) return this.events.unreadable({ message: error.message });
      const read = await this.fileRead(kept.file, isLeft);
      if (!read?.ok) return this.unreadable(read);
      const seq = kept.news.at(-1)?.seq ?? kept.seq;
      const news = kept.news as readonly { changeId: string; diff: Diff<ListName<L>> }[];
      const before = placedAt(read.document, Places.safeParse(kept.places).data);
      const document = news.reduce((older, { diff }) => applyDiff(older, diff), before);
      const outbox = await stored();
      if (!isLeft()) this.document.open(document, seq, outbox, news);
      return this.events.read({ documentId, seq, outbox, stacks, away: true, epoch: '' });
    }
  }

  private unreadable(read?: ReadDocument<L, H>): Action {
    const message = read && !read.ok ? read.message : undefined;
    return this.events.unreadable({
      message: message ?? $localize`This ${this.own.noun} could not be opened. Try again.`,
    });
  }
}

@Injectable({ providedIn: 'root' })
export class HouseEffects extends DocumentEffects<typeof TABLES, HouseHead, ChangeBody> {
  protected kind() {
    return {
      noun: 'house',
      events: HouseEvents,
      select: houseFeature.selectHouseState,
      document: inject(OpenHouse),
    };
  }

  protected async fileRead(file: unknown, isLeft: () => boolean) {
    const read = await inSlices(readHouseFileInSteps(file), isLeft);
    if (!read?.ok) return read && { ok: false as const, message: read.problems[0]?.message };
    return { ok: true as const, document: read.house, name: read.file.name };
  }
}

@Injectable({ providedIn: 'root' })
export class CrewEffects extends DocumentEffects<typeof CREW_LISTS, CrewHead, CrewChangeBody> {
  protected kind() {
    return {
      noun: 'crew book',
      events: CrewEvents,
      select: crewFeature.selectCrewState,
      document: inject(OpenCrew),
    };
  }

  protected fileRead(file: unknown) {
    const read = readCrewFile(file);
    return Promise.resolve(
      read.ok
        ? { ok: true as const, document: read.crew, name: read.crew.head.name }
        : { ok: false as const, message: read.problems[0]?.message },
    );
  }
}

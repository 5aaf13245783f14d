import { Injectable, inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { Store } from '@ngrx/store';
import type { Subscriber } from 'rxjs';
import { Observable, exhaustMap, merge, tap } from 'rxjs';
import type { Hint } from '../sync/live';
import { Live } from '../sync/live';
import { Api } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import type { OpenAt } from '../sync/exchange';
import { Exchange } from '../sync/exchange';
import { CREW_BOOK } from '../sync/outbox';
import type { Sent } from '../sync/sender';
import { LOOK } from '../sync/trigger';
import { CrewEffects, HouseEffects } from './document.effects';
import { CrewEvents, HouseEvents } from './document.events';
import { crewFeature, houseFeature } from './document.feature';

const NOTHING_SENT: Sent = { done: [], refused: [], overwrote: [] };

/** Sends what was entered and fetches what others did, of the crew book and of the house that is open. */
@Injectable()
export class ExchangeEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly device = inject(DeviceStore);
  private readonly exchanges = new Exchange(this.device, inject(Api));
  private readonly look$ = inject(LOOK);
  /** The crew first: who made a change is known before it is shown. */
  private readonly documents = [
    {
      events: CrewEvents,
      state: this.store.selectSignal(crewFeature.selectCrewState),
      effects: inject(CrewEffects),
    },
    {
      events: HouseEvents,
      state: this.store.selectSignal(houseFeature.selectHouseState),
      effects: inject(HouseEffects),
    },
  ];

  constructor() {
    inject(Live).mustLook = () =>
      this.documents.some(({ state }) => state().away || state().outbox.some(({ refusal }) => !refusal));
  }

  /** Something is to be sent, or it is time to look. */
  private isDue = false;
  /** What the server told of: the last number of each document. */
  private readonly told = new Map<string, number>();

  readonly exchange = createEffect(() =>
    merge(
      this.actions.pipe(
        ofType(
          ...[HouseEvents.changeKept, HouseEvents.changeWaits, HouseEvents.read],
          ...[CrewEvents.changeKept, CrewEvents.changeWaits, CrewEvents.read],
        ),
      ),
      this.look$,
    ).pipe(
      tap((hints) => {
        if (Array.isArray(hints))
          for (const { documentId, seq } of hints as readonly Hint[]) this.told.set(documentId, seq);
        else this.isDue = true;
      }),
      // What comes while an exchange goes on is seen to after it.
      exhaustMap(() => this.untilDone()),
    ),
  );

  /** Whether there is anything to exchange, as far as is known. */
  private hasWork(): boolean {
    const isReady =
      this.documents.every(({ state }) => state().phase !== 'loading') &&
      document.visibilityState === 'visible';
    const isBehind = this.documents.some(({ state }) => {
      const { documentId, phase, seq } = state();
      return phase === 'ready' && (this.told.get(documentId ?? '') ?? 0) > seq;
    });
    return isReady && (this.isDue || isBehind);
  }

  private untilDone(): Observable<Action> {
    return new Observable((out) => {
      const run = async (): Promise<void> => {
        while (!out.closed && this.hasWork()) {
          this.isDue = false;
          const told = [...this.told];
          const events = await this.exchanged();
          // What was told of and did not come is another database's, or comes by and by: it is not asked for in a circle.
          for (const [id, seq] of told) if (this.told.get(id) === seq) this.told.delete(id);
          for (const event of events) out.next(event);
          await this.lookAtWaiting(out);
        }
        out.complete();
      };
      run().catch((error: unknown) => out.error(error));
    });
  }

  private async exchanged(): Promise<Action[]> {
    const open = this.documents.flatMap((one) => {
      const { documentId, phase } = one.state();
      return documentId && phase === 'ready' ? [{ ...one, documentId }] : [];
    });
    const ended = await this.exchanges.run(
      open.map(({ documentId, state, effects }): OpenAt => ({
        documentId,
        now: state,
        take: (entries) => effects.take(documentId, entries),
      })),
    );
    switch (ended.kind) {
      case 'done':
        return [
          ...open.flatMap(({ events, documentId }) => [
            events.serverBack(),
            events.changesAnswered({ documentId, ...(ended.sent.get(documentId) ?? NOTHING_SENT) }),
          ]),
          ...this.crewMissed(),
        ];
      case 'other-database':
        // All anew, with what is unsent on top.
        return open.map(({ events, documentId }) => events.opened({ documentId }));
      case 'away':
        return open.map(({ events }) => events.serverAway());
      case 'failed':
        return [];
    }
  }

  /** What is shown to wait is what waits on the device: another tab may have sent it, or heard why it is not taken. */
  private async lookAtWaiting(out: Subscriber<Action>): Promise<void> {
    for (const { events, state } of this.documents) {
      const { documentId, outbox, away } = state();
      if (!documentId || away || outbox.length === 0) continue;
      const kept = await this.device.outbox(documentId);
      out.next(events.outboxRead({ documentId, outbox: kept.map(({ item }) => item) }));
    }
  }

  /** The crew book could not be read at first, and the server is there now. */
  private crewMissed(): Action[] {
    const { phase } = this.documents[0]!.state();
    return phase === 'unreadable' || phase === 'missing'
      ? [CrewEvents.opened({ documentId: CREW_BOOK })]
      : [];
  }
}

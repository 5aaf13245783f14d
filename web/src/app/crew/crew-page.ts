import { ToldPipe } from '../parts/term';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { EDITIONS } from '@mule-tally/core';
import { crewChangeText } from '../parts/change-text';
import { JournalList } from '../parts/journal-list';
import { Keys } from '../parts/keys';
import { OutboxList } from '../parts/outbox-list';
import { Tabs } from '../parts/tabs';
import { Value } from '../parts/value';
import { CrewDesk } from '../state/desk';
import { CrewEvents } from '../state/document.events';
import { crewFeature } from '../state/document.feature';
import { OpenCrew } from '../state/open-crew';
import { speaksBy } from '../state/speaks-by';
import { CREW_BOOK } from '../sync/outbox';
import { CrewConnectors } from './crew-connectors';
import { CrewHabits } from './crew-habits';
import { CrewKits } from './crew-kits';
import { CrewPeople } from './crew-people';
import { CrewPrices } from './crew-prices';
import { CrewRoomKits } from './crew-room-kits';
import { CrewRules } from './crew-rules';
import { CrewStock } from './crew-stock';

/** The crew book: what belongs to the crew and to no house. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-page',
  imports: [
    ToldPipe,
    RouterLink,
    Tabs,
    Value,
    JournalList,
    OutboxList,
    CrewPeople,
    CrewStock,
    CrewKits,
    CrewRoomKits,
    CrewHabits,
    CrewPrices,
    CrewConnectors,
  ],
  template: `
    <main class="page">
      <a i18n routerLink="/" class="back">Back to the jobs</a>
      <header class="head">
        <h1 i18n>Crew book</h1>
        <span class="actions">
          <button
            i18n
            type="button"
            class="btn btn-line"
            [disabled]="state().undo.length === 0"
            (click)="desk.undo()"
            i18n-title
            title="Undo (u)"
          >
            Undo
          </button>
          <button
            i18n
            type="button"
            class="btn btn-line"
            [disabled]="state().redo.length === 0"
            (click)="desk.redo()"
            i18n-title
            title="Redo (Shift + u)"
          >
            Redo
          </button>
        </span>
      </header>
      <p i18n class="soft">What belongs to the crew and to no house. New houses start with it.</p>
      <label class="by"
        ><span i18n class="name">Shown by</span>
        <select class="form-select" [mtValue]="rules.base()" (mtValueChange)="rules.showBy($event)">
          @for (edition of editions; track edition.id) {
            <option [value]="edition.id">{{ edition.name }}</option>
          }
        </select></label
      >
      <div aria-live="polite">
        @if (state().away) {
          <p i18n class="strip away">
            <strong>The server is away.</strong> What you enter is kept on this device and goes out by itself
            when it is back.
          </p>
        }
        @if (refused().length) {
          <p i18n class="strip refused">
            <span class="num">{{ refused().length }}</span> not taken by the server and kept:
            <a routerLink="/crew" [queryParams]="{ part: 'unsent' }">look and decide</a>
          </p>
        }
        @if (state().phase === 'ready' && state().message; as message) {
          <p class="strip refused">
            {{ message | told }}
            <button i18n type="button" class="btn btn-line" (click)="read()">Dismiss</button>
          </p>
        }
      </div>
      @if (crew.view()) {
        <mt-tabs [tabs]="tabs" [shown]="shown()" param="part" i18n-label label="Parts of the crew book">
          @switch (shown()) {
            @case ('people') {
              <mt-crew-people />
            }
            @case ('stock') {
              <mt-crew-stock />
            }
            @case ('kits') {
              <mt-crew-kits />
            }
            @case ('room-kits') {
              <mt-crew-room-kits />
            }
            @case ('habits') {
              <mt-crew-habits />
            }
            @case ('prices') {
              <mt-crew-prices />
            }
            @case ('connectors') {
              <mt-crew-connectors />
            }
            @case ('journal') {
              <mt-journal
                [documentId]="book"
                [seq]="state().seq"
                [text]="text"
                (undone)="desk.revert($event)"
              />
            }
            @case ('unsent') {
              <mt-outbox
                [items]="state().outbox"
                [text]="text"
                (retried)="retry($event)"
                (dropped)="drop($event)"
              />
            }
          }
        </mt-tabs>
      } @else if (state().phase === 'unreadable' || state().phase === 'missing') {
        <p role="alert">{{ state().message ?? 'The crew book could not be opened.' | told }}</p>
        <button i18n type="button" class="btn btn-main" (click)="reopen()">Try again</button>
      } @else {
        <p i18n role="status">Opening the crew book…</p>
      }
    </main>
  `,
  styles: `
    .by {
      display: inline-flex;
      align-items: center;
      gap: 0.6rem;
      margin-bottom: 0.6rem;
      white-space: nowrap;
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      flex-wrap: wrap;
      gap: 0.6rem;
    }
  `,
})
export class CrewPage {
  protected readonly rules = inject(CrewRules);
  protected readonly editions = EDITIONS;
  private readonly store = inject(Store);
  protected readonly crew = inject(OpenCrew);
  protected readonly desk = inject(CrewDesk);
  readonly part = input<string>();

  protected readonly book = CREW_BOOK;
  protected readonly text = crewChangeText as (body: unknown) => string;
  protected readonly state = this.store.selectSignal(crewFeature.selectCrewState);
  protected readonly refused = this.store.selectSignal(crewFeature.selectRefused);
  protected readonly tabs = [
    { id: 'people', name: $localize`People` },
    { id: 'stock', name: $localize`Stock` },
    { id: 'kits', name: $localize`Kits` },
    { id: 'room-kits', name: $localize`Room kits` },
    { id: 'habits', name: $localize`Habits` },
    { id: 'prices', name: $localize`Prices` },
    { id: 'connectors', name: $localize`Connectors` },
    { id: 'journal', name: $localize`Log` },
    { id: 'unsent', name: $localize`Unsent` },
  ];
  protected readonly shown = computed(() =>
    this.tabs.some(({ id }) => id === this.part()) ? this.part()! : 'people',
  );

  constructor() {
    // In the words of where the crew builds.
    speaksBy(() => this.rules.base());
    inject(Keys).while({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });
  }

  protected reopen(): void {
    this.store.dispatch(CrewEvents.opened({ documentId: CREW_BOOK }));
  }
  protected read(): void {
    this.store.dispatch(CrewEvents.messageRead());
  }
  protected retry(changeId: string): void {
    this.store.dispatch(CrewEvents.refusedChangeRetried({ changeId }));
  }
  protected drop(changeId: string): void {
    this.store.dispatch(CrewEvents.refusedChangeDropped({ changeId }));
  }
}

import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, resource, signal } from '@angular/core';
import type { ChangeBody, JournalEntry } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import { Value } from '../parts/value';
import { Desk } from '../state/desk';
import { HouseEvents } from '../state/house.actions';
import { houseFeature } from '../state/house.feature';
import { OpenHouse } from '../state/open-house';
import type { Theme } from '../state/session';
import { Session } from '../state/session';
import { Tabs } from '../parts/tabs';
import { Api } from '../sync/api';
import { changeText } from './change-text';
import { RulebookPage } from './rulebook-page';

/** House-wide things: the rulebook, the journal, who is in the crew, what has not been sent. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-gang-box',
  imports: [DatePipe, Value, RulebookPage, Tabs],
  templateUrl: './gang-box.html',
})
export class GangBox {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  protected readonly house = inject(OpenHouse);
  protected readonly desk = inject(Desk);
  protected readonly session = inject(Session);
  readonly tab = input<string>();

  protected readonly state = this.store.selectSignal(houseFeature.selectHouseState);
  protected readonly newName = signal('');
  protected readonly before = signal<number | undefined>(undefined);
  protected readonly themes: readonly { id: Theme; name: string }[] = [
    { id: 'paper', name: 'Paper' },
    { id: 'attic', name: 'Attic (dark)' },
    { id: 'sun', name: 'Sun (high contrast)' },
  ];
  protected readonly tabs = [
    { id: 'rulebook', name: 'Rulebook' },
    { id: 'journal', name: 'Journal' },
    { id: 'unsent', name: 'Unsent' },
    { id: 'crew', name: 'Crew and look' },
  ];
  protected readonly shown = computed(() => {
    const wanted = this.tab() ?? location.hash.slice(1);
    return this.tabs.some(({ id }) => id === wanted) ? wanted : 'rulebook';
  });

  protected readonly journal = resource({
    params: () => {
      const { houseId, seq } = this.state();
      return this.shown() === 'journal' && houseId
        ? { houseId, before: this.before() ?? seq + 1 }
        : undefined;
    },
    loader: ({ params }) => this.api.journal(params.houseId, { before: params.before, limit: 50 }),
  });

  protected text(body: ChangeBody): string {
    return changeText(body);
  }

  /** What an entry says; one that this program cannot read is named, and stops nothing. */
  protected entryText(entry: JournalEntry): string {
    try {
      return changeText(entry.change?.body as ChangeBody);
    } catch {
      return 'A change that this program cannot read';
    }
  }

  protected undoEntry(entry: JournalEntry): void {
    void this.desk.revert(entry.changeId);
  }

  /** Everybody of the crew, in one line. */
  protected readonly names = computed(() =>
    this.session
      .people()
      .map(({ name }) => name)
      .join(', '),
  );

  protected async addPerson(): Promise<void> {
    const name = this.newName().trim();
    if (!name) return;
    await this.session.addPerson(name);
    this.newName.set('');
  }

  protected retry(changeId: string): void {
    this.store.dispatch(HouseEvents.refusedChangeRetried({ changeId }));
  }

  protected drop(changeId: string): void {
    this.store.dispatch(HouseEvents.refusedChangeDropped({ changeId }));
  }

  protected setName(name: string): void {
    if (name.trim() && name !== this.house.view()?.head.name)
      this.desk.make({ kind: 'house.set', name: name.trim() });
  }
}

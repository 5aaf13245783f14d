import { OnlyFor } from '../parts/only-for';
import { ToldPipe } from '../parts/term';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { ChangeBody, SpokenLanguage } from '@mule-tally/core';
import { POWER_CHANGED_STEP, PowerState, adding, megabytes } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import { Value } from '../parts/value';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { HouseEvents } from '../state/document.events';
import { houseFeature } from '../state/document.feature';
import { OpenHouse } from '../state/open-house';
import type { Theme } from '../state/session';
import { Crew } from '../state/crew';
import { Identity } from '../state/identity';
import { Keeping } from '../state/keeping';
import { Waiting } from '../state/waiting';
import { Version } from '../state/version';
import { Session } from '../state/session';
import { SPOKEN } from '../state/spoken';
import { Tabs } from '../parts/tabs';
import { personEntry } from '../parts/person-entry';
import { formOf, problemOf } from '../parts/zod-form';
import { changeText } from '../parts/change-text';
import { HandOverPanel } from '../parts/hand-over-panel';
import { JournalList } from '../parts/journal-list';
import { OutboxList } from '../parts/outbox-list';
import { PictureOutbox } from '../parts/picture-outbox';
import { Charts } from './charts';
import { HeldList } from './held-list';
import { Material } from './material';
import { RulebookPage } from './rulebook-page';
import { WordsPipe } from '../parts/words';

const POWER_STATES = PowerState.options;

/** House-wide things: the rulebook, the journal, who is in the crew, what has not been sent. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-truck',
  imports: [
    OnlyFor,
    ToldPipe,
    ReactiveFormsModule,
    RouterLink,
    Value,
    RulebookPage,
    Tabs,
    JournalList,
    OutboxList,
    PictureOutbox,
    HandOverPanel,
    HeldList,
    Material,
    Charts,
    WordsPipe,
  ],
  templateUrl: './truck.html',
})
export class Truck {
  private readonly store = inject(Store);
  protected readonly house = inject(OpenHouse);
  protected readonly desk = inject(Desk);
  protected readonly crew = inject(Crew);
  protected readonly session = inject(Session);
  protected readonly keeping = inject(Keeping);
  protected readonly version = inject(Version);
  protected readonly megabytes = megabytes;
  readonly tab = input<string>();

  protected readonly state = this.store.selectSignal(houseFeature.selectHouseState);
  protected readonly form = formOf({ name: '' }, personEntry);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly spoken = inject(SPOKEN);
  protected readonly languages: readonly { id: SpokenLanguage; name: string }[] = [
    { id: 'en', name: 'English' },
    { id: 'es', name: 'Español' },
  ];
  protected readonly themes: readonly { id: Theme; name: string }[] = [
    { id: 'paper', name: $localize`Paper` },
    { id: 'attic', name: $localize`Attic (dark)` },
    { id: 'sun', name: $localize`Sun (high contrast)` },
  ];
  /** Of the crew: the house may say otherwise. */
  protected readonly isLead = inject(Identity).isLead;
  private readonly waiting = inject(Waiting);
  protected readonly tabs = computed(() => [
    { id: 'rulebook', name: $localize`Rulebook` },
    { id: 'material', name: $localize`Material` },
    { id: 'charts', name: $localize`Charts` },
    { id: 'house', name: $localize`House` },
    { id: 'journal', name: $localize`Log` },
    { id: 'unsent', name: $localize`Unsent` },
    ...(this.isLead() ? [{ id: 'decide', name: this.toDecide() }] : []),
    { id: 'crew', name: $localize`Crew and look` },
  ]);
  protected readonly shown = computed(() => {
    const wanted = this.tab() ?? location.hash.slice(1);
    return this.tabs().some(({ id }) => id === wanted) ? wanted : 'rulebook';
  });

  private readonly derived = inject(Derived);
  protected readonly text = (body: unknown): string =>
    changeText(body as ChangeBody, this.derived.words()?.say);

  private toDecide(): string {
    const count = this.waiting.of()?.changes.length ?? 0;
    return count ? $localize`To decide, ${count}` : $localize`To decide`;
  }

  /** Everybody of the crew, in one line. */
  protected readonly names = computed(() =>
    this.crew
      .people()
      .map(({ name }) => name)
      .join(', '),
  );

  protected addPerson(): void {
    const read = personEntry.safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const refusal = this.crew.add(read.data.name);
    this.problem.set(refusal?.message);
    if (!refusal) this.form.reset();
  }

  protected retry(changeId: string): void {
    this.store.dispatch(HouseEvents.refusedChangeRetried({ changeId }));
  }

  protected drop(changeId: string): void {
    this.store.dispatch(HouseEvents.refusedChangeDropped({ changeId }));
  }

  protected setPower(chosen: string): void {
    const power = POWER_STATES.find((one) => one === chosen);
    if (!power || power === this.house.view()?.head.power) return;
    // What was proven dead is to be proven again.
    this.desk.make({
      kind: 'group',
      title: $localize`Power of the house`,
      changes: [
        { kind: 'house.set', power },
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          at: new Date().toISOString(),
          by: this.session.who().id,
          step: POWER_CHANGED_STEP,
        }),
      ],
    });
  }

  protected setName(name: string): void {
    if (name.trim() && name !== this.house.view()?.head.name)
      this.desk.make({ kind: 'house.set', name: name.trim() });
  }
}

import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Control, Fields } from '@mule-tally/core';
import { removing, setting } from '@mule-tally/core';
import { Value } from '../parts/value';
import type { Choice } from '../parts/pick-field';
import { DraftedLine } from '../parts/drafted-line';
import { PickField } from '../parts/pick-field';
import { Desk } from '../state/desk';
import { answerTo } from '../work/answer';
import { Workbench } from '../work/workbench';
import { OutlookPanel } from './outlook-panel';

/** One control: its switches, its loads, what they mean, and where its feed could come to instead. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-control-card',
  imports: [DraftedLine, ToldPipe, WordsPipe, Value, OutlookPanel, PickField],
  template: `
    <label class="title"
      ><span i18n class="visually-hidden">Name</span
      ><input
        class="form-control"
        maxlength="200"
        [mtValue]="control().name"
        mtOnLeave
        (mtValueChange)="set({ name: $event })"
    /></label>
    <div class="sides">
      <div>
        <h3>{{ from() }}</h3>
        @for (place of placeChoices(); track place.id) {
          <p>
            {{ place.label }}
            <button
              type="button"
              class="btn btn-line"
              (click)="drop('places', place.id)"
              [attr.aria-label]="'Take off {}' | words: place.label"
            >
              ×
            </button>
          </p>
        } @empty {
          <p i18n class="soft">no switch yet</p>
        }
        <mt-pick-field
          i18n-label
          label="Add a switch"
          [choices]="levers()"
          (chosen)="append('places', $event)"
        />
      </div>
      <div>
        <h3 i18n>Switches</h3>
        @for (load of loadChoices(); track load.id) {
          <p>
            {{ load.label }}
            <button
              type="button"
              class="btn btn-line"
              (click)="drop('loads', load.id)"
              [attr.aria-label]="'Take off {}' | words: load.label"
            >
              ×
            </button>
          </p>
        } @empty {
          <p i18n class="soft">no light or outlet yet</p>
        }
        <mt-pick-field
          i18n-label
          label="Add a light or outlet"
          [choices]="loads()"
          (chosen)="append('loads', $event)"
        />
      </div>
    </div>
    <div class="actions">
      <button
        i18n
        type="button"
        class="btn btn-line"
        [attr.aria-expanded]="opened()"
        (click)="opened.set(!opened())"
      >
        What it means
      </button>
      @if (control().places.length > 1) {
        <button
          type="button"
          class="btn btn-line"
          (click)="pin()"
          [attr.aria-pressed]="!!control().pinnedOrder"
        >
          {{ (control().pinnedOrder ? 'Order is locked: let it be worked out' : 'Lock the order') | words }}
        </button>
        <label class="seen"
          ><span i18n class="name">Whole area seen from every location</span>
          <select class="form-select" [mtValue]="seen()" (mtValueChange)="setSeen($event)">
            <option i18n value="">if all is in one room</option>
            <option i18n value="yes">yes</option>
            <option i18n value="no">no</option>
          </select></label
        >
      }
      <button i18n type="button" class="btn btn-danger-line" (click)="remove()">Remove this switching</button>
    </div>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (opened()) {
      <section class="means">
        <mt-drafted-line [record]="control()" />
        @if (meaning(); as look) {
          <mt-outlook [outlook]="look" />
          @if (asksForCables()) {
            <button i18n type="button" class="btn btn-main" (click)="apply(look.change)">
              Plan the cables it needs
            </button>
          }
        } @else if (!workbench.broken()) {
          <p i18n class="soft" role="status">Working out what it means…</p>
        }
        @let options = feeds();
        @if (!options && workbench.broken()) {
          <p class="soft" role="status">
            <ng-container i18n>What it means was not worked out.</ng-container>&ngsp;
            <button i18n type="button" class="btn btn-line" (click)="lookAgain()">Look again</button>
          </p>
        } @else if (!options) {
          <p i18n class="soft" role="status">Looking where power could come in…</p>
        } @else if (options.length > 1) {
          <h3 i18n>Power comes in at</h3>
          <div class="feeds">
            @for (feed of options; track feed.boxId) {
              <article class="feed" [class.now]="feed.now">
                <h4>
                  {{ feed.tag }}
                  <span class="soft">{{ endOf(feed) }}</span>
                </h4>
                <mt-outlook [outlook]="feed.outlook" />
                @if (!feed.now) {
                  <button i18n type="button" class="btn btn-line" (click)="apply(feed.outlook.change)">
                    Let it come in at {{ feed.tag }}
                  </button>
                }
              </article>
            }
          </div>
        } @else {
          <p i18n class="soft">
            Its power is pulled, or there is no other box where it could come in: nothing to compare.
          </p>
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      border-bottom: 1px solid var(--rule);
      padding: 0.6rem 0;
    }
    .title {
      display: block;
      max-width: 24rem;
    }
    .sides {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 1rem;
    }
    .sides p {
      margin: 0.2rem 0;
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 0.5rem;
    }
    .actions {
      margin-top: 0.6rem;
      align-items: end;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .means {
      border-left: 0.3rem solid var(--chalk);
      padding: 0.3rem 0 0.3rem 0.9rem;
      margin-top: 0.6rem;
    }
    .feeds {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(16rem, 1fr));
      gap: 1rem;
    }
    .feed {
      border: 1.5px solid var(--rule);
      background: var(--paper-raised);
      padding: 0.4rem 0.8rem 0.8rem;
    }
    .feed.now {
      border-color: var(--ink);
    }
    h4 {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 1.2rem;
    }
    @media (max-width: 700px) {
      .sides {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class ControlCard {
  private readonly desk = inject(Desk);
  protected readonly workbench = inject(Workbench);
  readonly control = input.required<Control>();
  readonly levers = input.required<readonly Choice[]>();
  readonly loads = input.required<readonly Choice[]>();

  /** "Switched from 2 locations" */
  protected readonly from = computed(() => {
    const count = this.control().places.length;
    return count === 1 ? $localize`Switched from 1 location` : $localize`Switched from ${count} locations`;
  });
  /** "switch end · as it is" */
  protected endOf(feed: { hasSwitch: boolean; hasLoad: boolean; now: boolean }): string {
    return [
      feed.hasSwitch && $localize`switch end`,
      feed.hasLoad && $localize`light end`,
      feed.now && $localize`as it is`,
    ]
      .filter(Boolean)
      .join(' · ');
  }
  protected readonly opened = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);
  private named(choices: readonly Choice[], ids: readonly string[]): Choice[] {
    return ids.map((id) => choices.find((choice) => choice.id === id) ?? { id, label: 'something else' });
  }
  protected readonly placeChoices = computed(() => this.named(this.levers(), this.control().places));
  protected readonly loadChoices = computed(() => this.named(this.loads(), this.control().loads));
  private readonly outlook = answerTo<'outlook'>(() =>
    this.opened() ? { about: 'outlook', controlId: this.control().id } : undefined,
  );
  protected readonly meaning = this.outlook.value;
  protected readonly asksForCables = computed(
    () =>
      this.meaning()?.runs.some(({ has, needed, pulled }) => needed && needed !== has && !pulled) ?? false,
  );
  private readonly feedEnds = answerTo<'feed-ends'>(() =>
    this.opened() ? { about: 'feed-ends', controlId: this.control().id } : undefined,
  );
  /** Where the feed could come to. */
  protected readonly feeds = this.feedEnds.value;
  protected lookAgain(): void {
    this.workbench.again();
    this.outlook.reload();
    this.feedEnds.reload();
  }

  protected readonly seen = computed(() => {
    const { wholeAreaSeen } = this.control();
    return wholeAreaSeen === undefined ? '' : wholeAreaSeen ? 'yes' : 'no';
  });

  protected set(fields: Fields<'controls'>): void {
    this.problem.set(this.desk.make(setting('controls', this.control().id, fields))?.message);
  }
  protected append(side: 'places' | 'loads', id: string | undefined): void {
    if (id && !this.control()[side].includes(id)) this.set({ [side]: [...this.control()[side], id] });
  }
  protected drop(side: 'places' | 'loads', id: string): void {
    const left = this.control()[side].filter((other) => other !== id);
    this.set({ [side]: left, ...(side === 'places' && this.control().pinnedOrder && { pinnedOrder: null }) });
  }
  protected pin(): void {
    this.set({ pinnedOrder: this.control().pinnedOrder ? null : [...this.control().places] });
  }
  protected setSeen(value: string): void {
    this.set({ wholeAreaSeen: value === '' ? null : value === 'yes' });
  }
  protected apply(change: Parameters<Desk['make']>[0]): void {
    this.problem.set(this.desk.make(change)?.message);
  }
  protected remove(): void {
    this.problem.set(this.desk.make(removing('controls', this.control().id))?.message);
  }
}

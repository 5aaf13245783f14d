import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { CrewRoomKit, KitItem, RoomKind } from '@mule-tally/core';
import { CREW_CHANGES, RoomKind as RoomKinds } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { CrewDesk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { CrewRules } from './crew-rules';

type Measure = NonNullable<KitItem['every']>['of'];
const MEASURES: Readonly<Record<'ft' | 'm', Readonly<Record<Measure, string>>>> = {
  ft: {
    'wall-ft': $localize`ft of wall`,
    'length-ft': $localize`ft of length`,
    'area-ft2': $localize`sq ft`,
  },
  m: {
    'wall-ft': $localize`m of wall`,
    'length-ft': $localize`m of length`,
    'area-ft2': $localize`m²`,
  },
};
/** Meters of a foot. */
const FOOT = 0.3048;

/** What rooms of a kind get when a house is drafted: the rulebook's kit, or this crew's own in its place. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-room-kits',
  imports: [ToldPipe, Value, WordsPipe],
  template: `
    <p i18n class="soft">
      A house is drafted by these. What is changed here is the crew’s own; houses that stand are drafted again
      by hand.
    </p>
    <div class="fields">
      <label
        ><span i18n class="name">Kind of room</span>
        <select class="form-select" [mtValue]="kind()" (mtValueChange)="kind.set($event)">
          @for (each of kinds; track each) {
            <option [value]="each">{{ each.replace('-', ' ') | told }}{{ isOwn(each) ? ' ✎' : '' }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">Ways in</span>
        <select class="form-select" [mtValue]="kit().ways" (mtValueChange)="write({ ways: $event })">
          @for (count of [1, 2, 3, 4]; track count) {
            <option [value]="count">{{ count }}</option>
          }
        </select></label
      >
      @if (own(); as own) {
        <button i18n type="button" class="btn btn-line" (click)="back(own)">
          Back to the rulebook’s kit
        </button>
      }
    </div>
    <div class="scroll-x">
      <table class="ledger">
        <thead>
          <tr>
            <th i18n>What</th>
            <th i18n>At least</th>
            <th i18n>One for each</th>
            <th i18n>Switch order</th>
            <th i18n>Switched from</th>
            <th i18n>Source</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (item of kit().items; track item.key; let at = $index) {
            <tr>
              <td>
                <input
                  class="form-control"
                  maxlength="60"
                  [attr.aria-label]="'Name of item {}' | words: at + 1"
                  [mtValue]="item.name"
                  mtOnLeave
                  (mtValueChange)="set(at, { name: $event.trim() || item.name })"
                />
              </td>
              <td>
                <input
                  class="form-control num small"
                  inputmode="numeric"
                  [attr.aria-label]="'{} at least' | words: item.name"
                  [mtValue]="'' + item.least"
                  mtOnLeave
                  (mtValueChange)="setLeast(at, $event)"
                />
              </td>
              <td>
                @if (item.every; as every) {
                  <span class="each">
                    <input
                      class="form-control num small"
                      inputmode="decimal"
                      [attr.aria-label]="'{}: one for each' | words: item.name"
                      [mtValue]="each(every)"
                      mtOnLeave
                      (mtValueChange)="setEach(at, $event)"
                    />
                    {{ measure(every.of) }}</span
                  >
                }
              </td>
              <td>
                @if (item.switch; as own) {
                  <input
                    class="form-control num small"
                    inputmode="numeric"
                    [attr.aria-label]="'Switch order of {}' | words: item.name"
                    [mtValue]="'' + own.order"
                    mtOnLeave
                    (mtValueChange)="setOrder(at, $event)"
                  />
                }
              </td>
              <td>
                @if (item.switch; as own) {
                  <select
                    class="form-select"
                    [attr.aria-label]="'{} is switched from' | words: item.name"
                    [mtValue]="own.from"
                    (mtValueChange)="
                      set(at, {
                        switch: { order: own.order, from: $event, hangs: own.hangs, device: own.device },
                      })
                    "
                  >
                    <option i18n value="first">the first way in</option>
                    <option i18n value="every">every way in</option>
                  </select>
                }
              </td>
              <td class="soft">{{ source(item) | told }}</td>
              <td>
                <button
                  type="button"
                  class="btn btn-line"
                  [attr.aria-label]="'Take {} out of the kit' | words: item.name"
                  (click)="take(at)"
                >
                  ×
                </button>
              </td>
            </tr>
          } @empty {
            <tr>
              <td i18n colspan="7" class="soft">Such rooms get nothing.</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    <label class="more"
      ><span i18n class="name">One more</span>
      <select class="form-select" [mtValue]="''" (mtValueChange)="add($event)">
        <option i18n value="">pick what else they get…</option>
        @for (entry of others(); track entry.id) {
          <option [value]="entry.id">{{ entry.item.name | told }} ({{ entry.of | told }})</option>
        }
      </select></label
    >
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
  `,
  styles: `
    td:first-child .form-control {
      min-width: 11rem;
    }
    td .form-select {
      min-width: 9.5rem;
    }
    .small {
      width: 5rem;
    }
    .each {
      display: flex;
      gap: 0.4rem;
      align-items: center;
      white-space: nowrap;
    }
    .more {
      display: block;
      max-width: 24rem;
      margin-top: 0.8rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class CrewRoomKits {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  private readonly rules = inject(CrewRules);
  private readonly published = computed(() => this.rules.trade().roomKits);
  protected readonly kinds = RoomKinds.options;
  protected readonly kind = signal<RoomKind>('bedroom');
  protected readonly problem = signal<string | undefined>(undefined);

  private ownOf(kind: RoomKind): CrewRoomKit | undefined {
    return this.book.records('roomKits').find(({ roomKind }) => roomKind === kind);
  }
  protected readonly own = computed(() => this.ownOf(this.kind()));
  private readonly usual = computed(() => this.published().find(({ roomKind }) => roomKind === this.kind()));
  protected readonly kit = computed(() => {
    const { ways, items } = this.own() ?? this.usual() ?? { ways: 1, items: [] };
    return { ways, items };
  });
  /** What any kit has and this one has not. */
  protected readonly others = computed(() => {
    const has = new Set(this.kit().items.map(({ key }) => key));
    return this.published().flatMap(({ roomKind, items }) =>
      items
        .filter(({ key }) => !has.has(key))
        .map((item) => ({ id: `${roomKind} ${item.key}`, of: roomKind.replace('-', ' '), item })),
    );
  });

  protected isOwn(kind: RoomKind): boolean {
    return this.ownOf(kind) !== undefined;
  }
  protected measure(of: Measure): string {
    return MEASURES[this.rules.units().typed][of];
  }
  /** How much of a shown measure one of the book is. */
  private times(of: Measure): number {
    if (this.rules.units().typed === 'ft') return 1;
    return of === 'area-ft2' ? FOOT * FOOT : FOOT;
  }
  protected each({ of, each }: NonNullable<KitItem['every']>): string {
    return String(Number((each * this.times(of)).toFixed(2)));
  }
  protected source({ key }: KitItem): string {
    const source = this.usual()?.sources[key];
    return source?.section ?? source?.provenance ?? $localize`the crew’s own`;
  }

  /** Writes the kit as the crew's own; the first change makes it that. */
  protected write(fields: Partial<Pick<CrewRoomKit, 'ways' | 'items'>>): void {
    const own = this.own();
    const refusal = own
      ? this.desk.make(CREW_CHANGES.setting('roomKits', own.id, fields))
      : this.desk.make(
          CREW_CHANGES.adding('roomKits', {
            id: crypto.randomUUID(),
            roomKind: this.kind(),
            ...this.kit(),
            ...fields,
          }),
        );
    this.problem.set(refusal?.message);
  }

  protected set(at: number, fields: Partial<KitItem>): void {
    const items = this.kit().items.map((item, index) =>
      index === at ? (JSON.parse(JSON.stringify({ ...item, ...fields })) as KitItem) : item,
    );
    this.write({ items });
  }
  protected setLeast(at: number, typed: string): void {
    this.set(at, { least: Number(typed) });
  }
  protected setEach(at: number, typed: string): void {
    const every = this.kit().items[at]!.every!;
    const each = Number((Number(typed.replace(',', '.')) / this.times(every.of)).toFixed(6));
    this.set(at, { every: { ...every, each } });
  }
  protected setOrder(at: number, typed: string): void {
    this.set(at, { switch: { ...this.kit().items[at]!.switch!, order: Number(typed) } });
  }
  protected take(at: number): void {
    this.write({ items: this.kit().items.filter((_item, index) => index !== at) });
  }
  protected add(id: string): void {
    const other = this.others().find((entry) => entry.id === id);
    if (other) this.write({ items: [...this.kit().items, other.item] });
  }
  protected back(own: CrewRoomKit): void {
    this.problem.set(this.desk.make(CREW_CHANGES.removing('roomKits', own.id))?.message);
  }
}

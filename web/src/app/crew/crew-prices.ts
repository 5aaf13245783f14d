import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import type { Price } from '@mule-tally/core';
import { CREW_CHANGES, PricedKind } from '@mule-tally/core';
import * as z from 'zod';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { CrewDesk } from '../state/desk';
import { Derived } from '../state/derived';
import { OpenCrew } from '../state/open-crew';
import { CrewRules } from './crew-rules';

const METERS_OF_FOOT = 0.3048;

const amountText = z
  .string()
  .transform((text) => (text.trim() === '' ? NaN : Number(text)))
  .refine((amount) => amount >= 0 && amount <= 1_000_000, $localize`A price is a number, such as 0.42.`);
const entry = z.object({ kind: PricedKind, item: z.string(), amount: amountText });

const KINDS: readonly { id: Price['kind']; name: string; per: string }[] = [
  { id: 'cable', name: $localize`Cable`, per: $localize`foot` },
  { id: 'box', name: $localize`Box`, per: $localize`piece` },
  { id: 'device', name: $localize`Device`, per: $localize`piece` },
  { id: 'connector', name: $localize`Connector`, per: $localize`piece` },
  { id: 'hour', name: $localize`Work`, per: $localize`hour` },
];

/** What things cost this crew. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-prices',
  imports: [ToldPipe, WordsPipe, ReactiveFormsModule, Value],
  template: `
    <form class="panel-form fields" [formGroup]="form" (ngSubmit)="add()">
      <label
        ><span i18n class="name">What</span>
        <select class="form-select" formControlName="kind">
          @for (kind of kinds; track kind.id) {
            <option [value]="kind.id">{{ kind.name }}</option>
          }
        </select></label
      >
      @if (items().length) {
        <label
          ><span i18n class="name">Which</span>
          <select class="form-select" formControlName="item">
            @for (item of items(); track item.id) {
              <option [value]="item.id">{{ item.name }}</option>
            }
          </select></label
        >
      }
      <label
        ><span i18n class="name">Price, each {{ per(kind()) }}</span
        ><input class="form-control num" formControlName="amount" inputmode="decimal" placeholder="0.42"
      /></label>
      <button i18n type="submit" class="btn btn-main">Keep the price</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>What</th>
          <th i18n class="right">Price</th>
          <th i18n>each</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (price of prices(); track price.id) {
          <tr>
            <td>{{ name(price) }}</td>
            <td class="right">
              <input
                class="form-control num amount"
                inputmode="decimal"
                [attr.aria-label]="'Price of {}' | words: name(price)"
                [mtValue]="shownAmount(price)"
                mtOnLeave
                (mtValueChange)="set(price, $event)"
              />
            </td>
            <td>{{ per(price.kind) }}</td>
            <td>
              <button
                i18n
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Take out the price of {}' | words: name(price)"
                (click)="remove(price.id)"
              >
                Take it out
              </button>
            </td>
          </tr>
        } @empty {
          <tr>
            <td i18n colspan="4" class="soft">No price yet. They are in the crew’s own currency.</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .amount {
      width: 7rem;
      margin-left: auto;
      text-align: right;
    }
  `,
})
export class CrewPrices {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  private readonly derived = inject(Derived);
  private readonly rules = inject(CrewRules);
  protected readonly kinds = KINDS;
  protected readonly form = formOf(
    { kind: 'cable' as Price['kind'], item: this.rules.trade().cables[0]!.id, amount: '' },
    entry,
  );
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  protected readonly kind = computed(() => this.typed().kind ?? 'cable');
  protected readonly problem = signal<string | undefined>(undefined);

  private readonly all = computed(
    (): Readonly<Record<Price['kind'], readonly { id: string; name: string }[]>> => {
      const said = (types: readonly { id: string; name: string }[]) =>
        types.map(({ id, name }) => ({ id, name: this.derived.told(name) }));
      const { cables, boxes, devices, connectors } = this.rules.trade();
      return {
        cable: cables.map(({ id }) => ({ id, name: id })),
        box: said(boxes.filter(({ volumeIn3 }) => volumeIn3 !== undefined)),
        device: said(devices),
        connector: said(connectors),
        hour: [],
      };
    },
  );
  protected readonly items = computed(() => this.all()[this.kind()]);
  constructor() {
    // Another edition sells other things.
    effect(() => {
      const own = this.items();
      const { item } = this.form.controls;
      if (own.length && !own.some(({ id }) => id === item.value)) item.setValue(own[0]!.id);
    });
  }
  protected readonly prices = computed(() => this.book.records('prices'));

  protected per(kind: Price['kind']): string {
    const isLong = kind === 'cable' && this.rules.units().typed === 'm';
    return isLong ? this.derived.inTrade($localize`meter`) : KINDS.find(({ id }) => id === kind)!.per;
  }
  /** Cable is kept by the foot, and priced by what the crew measures in. */
  private times(kind: Price['kind']): number {
    return kind === 'cable' && this.rules.units().typed === 'm' ? METERS_OF_FOOT : 1;
  }
  protected shownAmount({ kind, amount }: Price): string {
    return String(Number((amount / this.times(kind)).toFixed(4)));
  }
  protected name({ kind, item }: Price): string {
    const own = KINDS.find(({ id }) => id === kind)!.name;
    const which = item && (this.all()[kind].find(({ id }) => id === item)?.name ?? item);
    return which ? `${own}: ${which}` : own;
  }

  protected add(): void {
    const read = entry.safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const { kind, item } = read.data;
    const amount = read.data.amount * this.times(kind);
    const known = this.all()[kind];
    const own = known.some(({ id }) => id === item) ? item : known[0]?.id;
    const refusal = this.desk.make(
      CREW_CHANGES.adding('prices', { id: crypto.randomUUID(), kind, ...(own && { item: own }), amount }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) this.form.patchValue({ amount: '' });
  }

  protected set(price: Price, text: string): void {
    const read = amountText.safeParse(text);
    this.problem.set(read.success ? undefined : read.error.issues[0]!.message);
    if (read.success && text !== this.shownAmount(price))
      this.desk.make(
        CREW_CHANGES.setting('prices', price.id, { amount: read.data * this.times(price.kind) }),
      );
  }

  protected remove(id: string): void {
    this.desk.make(CREW_CHANGES.removing('prices', id));
  }
}

import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import type { UnitSystem } from '@mule-tally/core/work';
import { CREW_CHANGES, Inches, Name } from '@mule-tally/core';
import { readLength } from '@mule-tally/core/work';
import * as z from 'zod';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { CrewDesk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { CrewRules } from './crew-rules';

const KINDS = [
  { id: 'reel', name: $localize`Reel` },
  { id: 'coil', name: $localize`Coil` },
  { id: 'offcut', name: $localize`Offcut` },
] as const;

const entryOf = (system: UnitSystem) =>
  z.object({
    name: z
      .string()
      .trim()
      .min(1, $localize`It needs a name.`)
      .max(200, $localize`A name has up to 200 characters.`)
      .pipe(Name),
    kind: z.enum(['reel', 'coil', 'offcut']),
    cable: z.string(),
    place: z.string().trim().max(60),
    length: z
      .string()
      .transform((text) => readLength(text, system))
      .refine(
        (inches): inches is number => inches !== undefined && inches > 0 && Inches.safeParse(inches).success,
        system === 'metric'
          ? $localize`The length is in meters, such as 75.`
          : $localize`The length is in feet, such as 250.`,
      ),
  });

/** Reels, coils and offcuts of the crew, with what is left on them. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-stock',
  imports: [ToldPipe, WordsPipe, ReactiveFormsModule, Value],
  template: `
    <form class="panel-form fields" [formGroup]="form" (ngSubmit)="add()">
      <label
        ><span i18n class="name">Name</span
        ><input
          class="form-control"
          formControlName="name"
          i18n-placeholder
          placeholder="Reel 4"
          autocomplete="off"
      /></label>
      <label
        ><span i18n class="name">Kind</span>
        <select class="form-select" formControlName="kind">
          @for (kind of kinds; track kind.id) {
            <option [value]="kind.id">{{ kind.name }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">Cable</span>
        <select class="form-select" formControlName="cable">
          @for (cable of rules.trade().cables; track cable.id) {
            <option [value]="cable.id">{{ cable.id }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">Length ({{ rules.units().typed }})</span
        ><input class="form-control num" formControlName="length" inputmode="decimal" placeholder="250"
      /></label>
      <label
        ><span i18n class="name">Where</span
        ><input
          class="form-control"
          formControlName="place"
          maxlength="60"
          i18n-placeholder
          placeholder="Truck 2"
          autocomplete="off"
      /></label>
      <button i18n type="submit" class="btn btn-main">Put it in stock</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Name</th>
          <th i18n>Kind</th>
          <th i18n>Cable</th>
          <th i18n>Where</th>
          <th i18n class="right">Length</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (reel of stock(); track reel.id) {
          <tr>
            <td>
              <input
                class="form-control"
                maxlength="200"
                [attr.aria-label]="'Name of {}' | words: reel.name"
                [mtValue]="reel.name"
                mtOnLeave
                (mtValueChange)="rename(reel, $event)"
              />
            </td>
            <td>{{ nameOf(reel.kind) }}</td>
            <td class="num">{{ reel.cable }}</td>
            <td>
              <input
                class="form-control"
                maxlength="60"
                [attr.aria-label]="'Where {} is' | words: reel.name"
                [mtValue]="reel.place ?? ''"
                mtOnLeave
                (mtValueChange)="move(reel, $event)"
              />
            </td>
            <td class="right">
              <input
                class="form-control num length"
                [attr.aria-label]="'Length of {}' | words: reel.name"
                [mtValue]="rules.units().long(reel.lengthIn)"
                mtOnLeave
                (mtValueChange)="measure(reel, $event)"
              />
            </td>
            <td>
              <button
                i18n
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Take out {}' | words: reel.name"
                (click)="remove(reel.id)"
              >
                Used up
              </button>
            </td>
          </tr>
        } @empty {
          <tr>
            <td i18n colspan="6" class="soft">
              No reel yet. What is in stock is offered where a pull is logged.
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .length {
      width: 8rem;
      margin-left: auto;
      text-align: right;
    }
  `,
})
export class CrewStock {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  protected readonly rules = inject(CrewRules);
  protected readonly kinds = KINDS;
  protected nameOf(kind: (typeof KINDS)[number]['id']): string {
    return KINDS.find(({ id }) => id === kind)!.name;
  }

  private readonly entry = computed(() => entryOf(this.rules.units().system));
  protected readonly form = formOf(
    {
      name: '',
      kind: 'reel' as (typeof KINDS)[number]['id'],
      cable: this.rules.trade().cables[0]!.id,
      place: '',
      length: '',
    },
    this.entry(),
  );
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly stock = computed(() => this.book.records('stock'));

  protected add(): void {
    const read = this.entry().safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const { length: lengthIn, place, ...reel } = read.data;
    const refusal = this.desk.make(
      CREW_CHANGES.adding('stock', { id: crypto.randomUUID(), ...reel, ...(place && { place }), lengthIn }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) this.form.patchValue({ name: '', length: '' });
  }

  protected rename({ id, name: now }: { id: string; name: string }, typed: string): void {
    const name = typed.trim();
    if (name && name !== now) this.desk.make(CREW_CHANGES.setting('stock', id, { name }));
  }

  protected move({ id, place: now }: { id: string; place?: string | undefined }, typed: string): void {
    const place = typed.trim();
    if (place !== (now ?? '')) this.desk.make(CREW_CHANGES.setting('stock', id, { place: place || null }));
  }

  protected measure({ id, lengthIn: now }: { id: string; lengthIn: number }, text: string): void {
    const { units } = this.rules;
    if (text === units().long(now)) return;
    const lengthIn = readLength(text, units().system);
    const isLength = lengthIn !== undefined && Inches.safeParse(lengthIn).success;
    this.problem.set(isLength ? undefined : $localize`A length is expected, such as 180 (${units().typed}).`);
    if (isLength && lengthIn !== now) this.desk.make(CREW_CHANGES.setting('stock', id, { lengthIn }));
  }

  protected remove(id: string): void {
    this.desk.make(CREW_CHANGES.removing('stock', id));
  }
}

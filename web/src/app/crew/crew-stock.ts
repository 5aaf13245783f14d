import { ReelQuestions } from '../parts/reel-questions';
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
import type { KnownReel } from '../state/reels';
import { Reels } from '../state/reels';
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
  imports: [ReelQuestions, ToldPipe, WordsPipe, ReactiveFormsModule, Value],
  template: `
    <form class="panel-form fields" [formGroup]="form()" (ngSubmit)="add()">
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
          <th i18n class="right">Left</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (known of stock(); track known.reel.id) {
          @let reel = known.reel;
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
              @if (usesOf(known); as uses) {
                <p class="soft uses">{{ uses }}</p>
              }
              <mt-reel-questions [reelId]="reel.id" />
            </td>
            <td>{{ nameOf(reel.kind) }}</td>
            <td class="num">{{ reel.cable }}</td>
            <td>
              <input
                class="form-control"
                maxlength="60"
                [attr.aria-label]="'Where {} is' | words: reel.name"
                i18n-placeholder
                placeholder="Where"
                [mtValue]="reel.place ?? ''"
                mtOnLeave
                (mtValueChange)="move(reel, $event)"
              />
            </td>
            <td class="right">
              <input
                class="form-control num length"
                [attr.aria-label]="'Length of {}' | words: reel.name"
                [mtValue]="left(known)"
                mtOnLeave
                (mtValueChange)="count(known, $event)"
              />
            </td>
            <td class="does">
              <button
                i18n
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Cut a piece off {}' | words: reel.name"
                [attr.aria-expanded]="cutting() === reel.id"
                (click)="cutting.set(cutting() === reel.id ? undefined : reel.id)"
              >
                Cut off
              </button>
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
          @if (cutting() === reel.id) {
            <tr>
              <td colspan="6">
                <form class="piece" (submit)="cutOff($event, known)">
                  <label
                    ><span i18n class="name">Length of the piece ({{ rules.units().typed }})</span
                    ><input class="form-control num" name="piece" inputmode="decimal" autocomplete="off"
                  /></label>
                  <button i18n type="submit" class="btn btn-main">Put the piece in stock</button>
                </form>
              </td>
            </tr>
          }
        } @empty {
          <tr>
            <td i18n colspan="6" class="soft">
              No reel yet. What is in stock is offered where a pull is logged.
            </td>
          </tr>
        }
      </tbody>
    </table>
    @if (elsewhere().length) {
      <h3 i18n>Reels that houses took from, and the stock does not have</h3>
      <ul class="elsewhere">
        @for (known of elsewhere(); track known.reel.id) {
          <li>
            <strong>{{ known.reel.name }}</strong> <span class="num">{{ known.reel.cable }}</span>
            <span class="soft">{{ usesOf(known) }}</span>
            <button
              type="button"
              class="btn btn-line"
              [attr.aria-label]="'Put {} in stock' | words: known.reel.name"
              (click)="take(known)"
            >
              {{ 'Put in stock, {} left' | words: left(known) }}
            </button>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    .uses {
      margin: 0.2rem 0 0;
    }
    .does .btn {
      margin: 2px 4px 2px 0;
    }
    @media (min-width: 761px) {
      .does {
        white-space: nowrap;
      }
    }
    .piece {
      display: flex;
      flex-wrap: wrap;
      align-items: end;
      gap: 0.6rem;
    }
    .elsewhere {
      list-style: none;
      padding: 0;
    }
    .elsewhere li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 0.8rem;
      border-bottom: 1px solid var(--rule);
      padding: 0.3rem 0;
    }
    .elsewhere .btn {
      margin-left: auto;
    }
    .length {
      width: 8rem;
      margin-left: auto;
      text-align: right;
    }
  `,
})
export class CrewStock {
  private readonly desk = inject(CrewDesk);
  private readonly reels = inject(Reels);
  protected readonly rules = inject(CrewRules);
  protected readonly kinds = KINDS;
  protected nameOf(kind: (typeof KINDS)[number]['id']): string {
    return KINDS.find(({ id }) => id === kind)!.name;
  }

  private readonly entry = computed(() => entryOf(this.rules.units().system));
  /** In the cables and the unit of the edition that is shown. */
  protected readonly form = computed(() =>
    formOf(
      {
        name: '',
        kind: 'reel' as (typeof KINDS)[number]['id'],
        cable: this.rules.trade().cables[0]!.id,
        place: '',
        length: '',
      },
      this.entry(),
    ),
  );
  protected readonly problem = signal<string | undefined>(undefined);
  /** The reel that a piece is being cut off. */
  protected readonly cutting = signal<string | undefined>(undefined);
  protected readonly stock = computed(() => this.reels.all().filter(({ isInStock }) => isInStock));
  protected readonly elsewhere = computed(() => this.reels.all().filter(({ isInStock }) => !isInStock));

  constructor() {
    this.reels.want();
  }

  protected left({ leftIn }: KnownReel): string {
    return this.rules.units().long(Math.max(0, leftIn));
  }

  /** "Lot 12: 84 ft, Lot 13: 20 ft" */
  protected usesOf({ uses }: KnownReel): string {
    return uses
      .map(
        ({ houseId, usage }) => `${this.reels.houseName(houseId)}: ${this.rules.units().long(usage.usedIn)}`,
      )
      .join(', ');
  }

  protected add(): void {
    const read = this.entry().safeParse(this.form().getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form()));
    const { length: lengthIn, place, ...reel } = read.data;
    const refusal = this.desk.make(
      CREW_CHANGES.adding('stock', { id: crypto.randomUUID(), ...reel, ...(place && { place }), lengthIn }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) this.form().patchValue({ name: '', length: '' });
  }

  protected rename({ id, name: now }: { id: string; name: string }, typed: string): void {
    const name = typed.trim();
    if (name && name !== now) this.desk.make(CREW_CHANGES.setting('stock', id, { name }));
  }

  protected move({ id, place: now }: { id: string; place?: string | undefined }, typed: string): void {
    const place = typed.trim();
    if (place !== (now ?? '')) this.desk.make(CREW_CHANGES.setting('stock', id, { place: place || null }));
  }

  /** A length that was typed, of at least so many inches; what is wrong with it is said. */
  private lengthOf(text: string, least = 0): number | undefined {
    const { units } = this.rules;
    const lengthIn = readLength(text, units().system);
    const isLength = lengthIn !== undefined && lengthIn >= least && Inches.safeParse(lengthIn).success;
    this.problem.set(isLength ? undefined : $localize`A length is expected, such as 180 (${units().typed}).`);
    return isLength ? lengthIn : undefined;
  }

  /** What was counted on it now: what came off it stays as it was logged. */
  protected count(known: KnownReel, text: string): void {
    if (text === this.left(known)) return;
    const leftIn = this.lengthOf(text);
    if (leftIn === undefined) return;
    const lengthIn = leftIn + known.usedIn;
    if (lengthIn !== known.reel.lengthIn)
      this.desk.make(CREW_CHANGES.setting('stock', known.reel.id, { lengthIn }));
  }

  /** A piece of it lies in stock by itself from now on. */
  protected cutOff(event: Event, { reel, leftIn }: KnownReel): void {
    event.preventDefault();
    const field = (event.target as HTMLFormElement).querySelector('input')!;
    const pieceIn = this.lengthOf(field.value, 1);
    if (pieceIn === undefined) return;
    if (pieceIn > leftIn) return this.problem.set($localize`Less than that is left on ${reel.name}.`);
    const { id, name, cable, place } = reel;
    const refusal = this.desk.make({
      kind: 'group',
      title: $localize`Cut a piece off ${name}`,
      changes: [
        CREW_CHANGES.adding('stock', {
          ...{
            id: crypto.randomUUID(),
            name: $localize`Offcut of ${name}`.slice(0, 200),
            kind: 'offcut',
            cable,
          },
          ...{ lengthIn: pieceIn, parentId: id, ...(place !== undefined && { place }) },
        }),
        CREW_CHANGES.setting('stock', id, { lengthIn: reel.lengthIn - pieceIn }),
      ],
    });
    this.problem.set(refusal?.message);
    if (!refusal) this.cutting.set(undefined);
  }

  /** A reel that came with a house is the crew's from now on, under its own id: what was pulled off it counts. */
  protected take({ reel: { parentId: _, ...reel } }: KnownReel): void {
    this.problem.set(this.desk.make(CREW_CHANGES.adding('stock', reel))?.message);
  }

  protected remove(id: string): void {
    this.desk.make(CREW_CHANGES.removing('stock', id));
  }
}

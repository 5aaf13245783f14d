import { DraftedLine } from '../parts/drafted-line';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Circuit, Fields } from '@mule-tally/core';
import { adding, boxFacts, removing, setting } from '@mule-tally/core';
import { CIRCUIT_PULLS } from '@mule-tally/core/work';
import { ReactiveFormsModule } from '@angular/forms';
import * as z from 'zod';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { TallyMarks } from '../parts/tally-marks';
import { TermPipe } from '../parts/term';
import { Confirm } from '../parts/confirm';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { kept } from '../sync/draft-store';

/** A nameplate as it is typed, in amperes. */
interface Plate {
  readonly mca: string;
  readonly mocp: string;
}
const NO_PLATES: Readonly<Record<string, Plate>> = {};

const NEW_CIRCUIT = z.object({
  name: z
    .string()
    .trim()
    .min(1, $localize`Say what the circuit is for.`),
  amps: z.number(),
  panelId: z.string(),
});

/** The circuits of the panels: number, name, breaker, protection. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-circuits-editor',
  imports: [DraftedLine, ToldPipe, WordsPipe, ReactiveFormsModule, Value, TallyMarks, TermPipe],
  template: `
    <form class="panel-form fields" [formGroup]="form" (ngSubmit)="add()">
      <label
        ><span i18n class="name">New circuit</span
        ><input
          class="form-control"
          maxlength="200"
          [placeholder]="'Kitchen counter' | words"
          formControlName="name"
      /></label>
      <label
        ><span class="name capital">{{ 'breaker' | term }}</span>
        <select class="form-select" formControlName="amps">
          @for (size of sizes(); track size) {
            <option [ngValue]="size">{{ size }} A</option>
          }
        </select></label
      >
      <label
        ><span class="name capital">{{ 'panel' | term }}</span>
        <select class="form-select" formControlName="panelId">
          <option value="">
            {{
              panels().length === 0
                ? ('set a panel box first' | words)
                : panels().length === 1
                  ? panels()[0]!.tag
                  : ('choose…' | words)
            }}
          </option>
          @for (panel of panels().length > 1 ? panels() : []; track panel.id) {
            <option [value]="panel.id">{{ panel.tag }}</option>
          }
        </select></label
      >
      <button i18n type="submit" class="btn btn-main" [disabled]="form.invalid || panels().length === 0">
        Add the circuit
      </button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    <div class="scroll-x">
      <table class="ledger">
        <thead>
          <tr>
            <th i18n>No.</th>
            <th i18n>Name</th>
            <th class="capital">{{ 'breaker' | term }}</th>
            <th i18n>Poles</th>
            <th i18n>Protection</th>
            <th i18n>Space</th>
            @if (hasRings()) {
              <th i18n>Ring</th>
            } @else {
              <th i18n class="capital">{{ 'neutral' | term }} with</th>
            }
            <th i18n>Plate MCA, MOCP</th>
            <th i18n>Runs in</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (entry of circuits(); track entry.circuit.id) {
            <tr>
              <td>
                <input
                  class="form-control num small"
                  inputmode="numeric"
                  [attr.aria-label]="'Number of {}' | words: entry.circuit.name"
                  [mtValue]="entry.circuit.number"
                  mtOnLeave
                  (mtValueChange)="set(entry.circuit, { number: number('' + $event) })"
                />
              </td>
              <td>
                <input
                  class="form-control wide"
                  maxlength="200"
                  [attr.aria-label]="'Name of circuit {}' | words: entry.circuit.number"
                  [mtValue]="entry.circuit.name"
                  mtOnLeave
                  (mtValueChange)="set(entry.circuit, { name: $event })"
                />
                @if (entry.circuit.drafted) {
                  <details>
                    <summary>{{ 'Why' | words }}</summary>
                    <mt-drafted-line [record]="entry.circuit" />
                  </details>
                }
              </td>
              <td>
                <select
                  class="form-select amps"
                  [attr.aria-label]="'Breaker of circuit {}' | words: entry.circuit.number"
                  [mtValue]="entry.circuit.breakerAmps"
                  (mtValueChange)="set(entry.circuit, { breakerAmps: $event })"
                >
                  @for (size of sizes(); track size) {
                    <option [value]="size">{{ size }} A</option>
                  }
                  @if (!sizes().includes(entry.circuit.breakerAmps)) {
                    <option [value]="entry.circuit.breakerAmps">{{ entry.circuit.breakerAmps }} A</option>
                  }
                </select>
              </td>
              <td>
                <select
                  class="form-select poles"
                  [attr.aria-label]="'Poles of circuit {}' | words: entry.circuit.number"
                  [mtValue]="entry.circuit.poles"
                  (mtValueChange)="set(entry.circuit, { poles: $event })"
                >
                  <option [value]="1">1</option>
                  <option [value]="2">2</option>
                </select>
              </td>
              <td>
                <select
                  class="form-select guard"
                  [attr.aria-label]="'Protection of circuit {}' | words: entry.circuit.number"
                  [mtValue]="entry.circuit.protection"
                  (mtValueChange)="set(entry.circuit, { protection: $event })"
                >
                  <option i18n value="none">plain</option>
                  <option value="afci">{{ 'AFCI' | term }}</option>
                  <option value="gfci">{{ 'GFCI' | term }}</option>
                  <option i18n value="dual">dual</option>
                </select>
              </td>
              <td>
                <input
                  class="form-control num small"
                  inputmode="numeric"
                  [attr.aria-label]="'Panel space of circuit {}' | words: entry.circuit.number"
                  [mtValue]="entry.circuit.spaces?.[0] ?? ''"
                  mtOnLeave
                  (mtValueChange)="setSpace(entry.circuit, '' + $event)"
                />
              </td>
              @if (hasRings()) {
                <td>
                  <input
                    type="checkbox"
                    class="form-check-input"
                    [attr.aria-label]="'Circuit {} is a ring' | words: entry.circuit.number"
                    [checked]="entry.circuit.ring ?? false"
                    (change)="set(entry.circuit, { ring: $any($event.target).checked || null })"
                  />
                </td>
              } @else {
                <td>
                  <input
                    class="form-control guard"
                    maxlength="60"
                    i18n-placeholder
                    placeholder="its own"
                    [attr.aria-label]="'Neutral group of circuit {}' | words: entry.circuit.number"
                    [mtValue]="entry.circuit.neutralGroup ?? ''"
                    mtOnLeave
                    (mtValueChange)="set(entry.circuit, { neutralGroup: $event.trim() || null })"
                  />
                </td>
              }
              <td class="plate">
                @for (part of plateParts; track part) {
                  <input
                    class="form-control num small"
                    inputmode="decimal"
                    placeholder="A"
                    [attr.aria-label]="
                      '{} on the nameplate of circuit {1}' | words: part.toUpperCase() : entry.circuit.number
                    "
                    [mtValue]="plate(entry.circuit)[part]"
                    mtOnLeave
                    (mtValueChange)="setPlate(entry.circuit, part, '' + $event)"
                  />
                }
              </td>
              <td><mt-tally [done]="entry.tally.in" [of]="entry.tally.runs" [atMost]="0" /></td>
              <td>
                <button
                  i18n
                  type="button"
                  class="btn btn-danger-line"
                  (click)="remove(entry.circuit)"
                  [attr.aria-label]="'Remove circuit {}' | words: entry.circuit.number"
                >
                  Remove
                </button>
              </td>
            </tr>
          } @empty {
            <tr>
              <td i18n colspan="10" class="soft">No circuit yet.</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styles: `
    .small {
      width: 3.3rem;
      padding-inline: 0.5rem;
    }
    input.guard {
      width: 6.4rem;
    }
    .wide {
      min-width: 13rem;
    }
    .amps {
      min-width: 5.2rem;
    }
    .poles {
      min-width: 3.9rem;
    }
    .guard {
      min-width: 5.6rem;
      padding-left: 0.5rem;
    }
    th,
    td {
      vertical-align: middle;
      padding-inline: 0.25rem;
    }
    .plate {
      white-space: nowrap;
    }
    .plate input {
      display: inline-block;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class CircuitsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly confirm = inject(Confirm);
  protected readonly plateParts = ['mca', 'mocp'] as const;
  protected readonly sizes = computed(() => this.derived.trade().breakers);
  /** Whether circuits may be rings where the house stands. */
  protected readonly hasRings = computed(() => this.derived.reader()?.rules().has('ring.spur') ?? false);
  protected readonly form = formOf({ name: '', amps: 15, panelId: '' }, NEW_CIRCUIT);
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly panels = computed(() => {
    const reader = this.derived.reader();
    return reader ? reader.all('boxes').filter((box) => boxFacts(reader, box).kind === 'panel') : [];
  });
  /** The only panel need not be chosen. */
  protected readonly circuits = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return [...reader.all('circuits')]
      .sort((a, b) => a.number - b.number)
      .map((circuit) => ({ circuit, tally: reader.derive(CIRCUIT_PULLS, circuit.id).tally }));
  });

  protected number(text: string): number {
    return Number(text);
  }

  protected add(): void {
    const read = NEW_CIRCUIT.safeParse(this.form.getRawValue());
    // Where there is one panel it is that.
    const panels = this.panels();
    const panelId = (read.success && read.data.panelId) || (panels.length === 1 ? panels[0]!.id : '');
    if (!read.success || !panelId)
      return this.problem.set(problemOf(this.form) ?? $localize`Say at which panel its breaker is.`);
    const number = Math.max(0, ...this.circuits().map(({ circuit }) => circuit.number)) + 1;
    const refusal = this.desk.make(
      adding('circuits', {
        id: crypto.randomUUID(),
        number,
        name: read.data.name,
        panelId,
        poles: 1,
        breakerAmps: read.data.amps,
        protection: 'none',
      }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) this.form.controls.name.reset();
  }

  protected set(circuit: Circuit, fields: Fields<'circuits'>): void {
    this.problem.set(this.desk.make(setting('circuits', circuit.id, fields))?.message);
  }

  /** A breaker of two poles takes the space below as well. */
  protected setSpace(circuit: Circuit, text: string): void {
    const space = Number(text);
    const spaces = circuit.poles === 2 ? [space, space + 2] : [space];
    this.set(circuit, { spaces: text.trim() ? spaces : null });
  }

  /** What is typed of a nameplate; it counts once both of its values are there. */
  private readonly plates = kept<Readonly<Record<string, Plate>>>(
    () => `plates.${this.derived.reader()?.houseId ?? ''}`,
    NO_PLATES,
  );

  protected plate({ id, nameplate }: Circuit): Plate {
    return (
      this.plates.value()[id] ?? {
        mca: nameplate ? String(nameplate.mca) : '',
        mocp: nameplate ? String(nameplate.mocp) : '',
      }
    );
  }

  /** Wire by the minimum circuit ampacity, breaker up to the largest that the nameplate allows. Both empty: by the breaker. */
  protected setPlate(circuit: Circuit, part: keyof Plate, text: string): void {
    const typed = { ...this.plate(circuit), [part]: text.trim() };
    const [mca, mocp] = [Number(typed.mca), Number(typed.mocp)];
    const { [circuit.id]: _done, ...others } = this.plates.value();
    if (Boolean(typed.mca) === Boolean(typed.mocp))
      this.set(circuit, { nameplate: typed.mca ? { mca, mocp } : null });
    else
      this.problem.set(
        Number.isNaN(mca) || Number.isNaN(mocp)
          ? $localize`“${typed.mca || typed.mocp}” is not a number of amperes.`
          : $localize`The nameplate of circuit ${circuit.number} counts once both MCA and MOCP are there.`,
      );
    // What is not taken stays as it was typed.
    if (this.problem()) this.plates.set({ ...others, [circuit.id]: typed });
    else this.plates.set(Object.keys(others).length ? others : NO_PLATES);
  }

  protected async remove(circuit: Circuit): Promise<void> {
    const { id, number } = circuit;
    // Runs lose the circuit and stay; that is worth a question too.
    const runs = this.circuits().find((entry) => entry.circuit.id === id)?.tally.runs ?? 0;
    const isSure =
      runs === 0 ||
      (await this.confirm.ask({
        message: $localize`Circuit ${number} has ${runs} runs. They stay, and belong to no circuit then.`,
        yes: $localize`Remove circuit ${number} with them`,
      }));
    if (isSure) this.problem.set(this.desk.make(removing('circuits', id, runs > 0))?.message);
  }
}

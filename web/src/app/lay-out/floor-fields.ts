import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import type { Fields, Storey } from '@mule-tally/core';
import { setting } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { Desk } from '../state/desk';

/** What is over and under a floor: ceiling, what holds it and which way that runs. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-floor-fields',
  imports: [ToldPipe, Value],
  template: `
    <details>
      <summary i18n>This floor: ceiling, overhead, below</summary>
      @if (problem(); as sentence) {
        <p role="alert" class="problem">{{ sentence | told }}</p>
      }
      <label
        ><span i18n class="name">Ceiling over the floor, in</span>
        <input
          class="form-control num"
          inputmode="decimal"
          [mtValue]="'' + (storey().ceilingIn ?? '')"
          mtOnLeave
          (mtValueChange)="setCeiling($event)"
      /></label>
      <label
        ><span i18n class="name">Overhead</span>
        <select
          class="form-select"
          [mtValue]="storey().overhead ?? ''"
          (mtValueChange)="set({ overhead: $any($event) || null })"
        >
          <option i18n value="">not said</option>
          <option i18n value="attic">attic</option>
          <option i18n value="storey">another floor</option>
          <option i18n value="roof">roof</option>
        </select></label
      >
      <label
        ><span i18n class="name">Below</span>
        <select
          class="form-select"
          [mtValue]="storey().below ?? ''"
          (mtValueChange)="set({ below: $any($event) || null })"
        >
          <option i18n value="">not said</option>
          <option i18n value="storey">another floor</option>
          <option i18n value="basement">basement</option>
          <option i18n value="crawl-space">crawl space</option>
          <option i18n value="slab">slab</option>
        </select></label
      >
      <label
        ><span i18n class="name">Its ceiling hangs on</span>
        <select
          class="form-select"
          [mtValue]="storey().framing ?? ''"
          (mtValueChange)="set({ framing: $any($event) || null })"
        >
          <option i18n value="">not said</option>
          <option i18n value="joists">joists</option>
          <option i18n value="i-joists">I-joists</option>
          <option i18n value="trusses">trusses</option>
        </select></label
      >
      <label
        ><span i18n class="name">Which run</span>
        <select
          class="form-select"
          [mtValue]="storey().framingRuns ?? ''"
          (mtValueChange)="set({ framingRuns: $any($event) || null })"
        >
          <option i18n value="">not said</option>
          <option i18n value="across">across the plan</option>
          <option i18n value="up">up the plan</option>
        </select></label
      >
    </details>
  `,
  styles: `
    summary {
      line-height: 44px;
      cursor: pointer;
      font-weight: 600;
    }
    label {
      display: block;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class FloorFields {
  private readonly desk = inject(Desk);
  readonly storey = input.required<Storey>();
  protected readonly problem = signal<string | undefined>(undefined);

  protected set(fields: Fields<'storeys'>): void {
    this.problem.set(this.desk.make(setting('storeys', this.storey().id, fields))?.message);
  }
  protected setCeiling(typed: string): void {
    const inches = Number(typed);
    if (typed.trim() === '') return this.set({ ceilingIn: null });
    if (!Number.isFinite(inches) || inches <= 0)
      return this.problem.set($localize`“${typed.slice(0, 20)}” is no number of inches.`);
    this.set({ ceilingIn: inches });
  }
}

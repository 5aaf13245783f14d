import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Fields, Storey } from '@mule-tally/core';
import { removing, setting } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { readShortField } from '../parts/short-field';

/** What is over and under a floor: ceiling, what holds it and which way that runs. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-floor-fields',
  imports: [ToldPipe, Value, WordsPipe],
  template: `
    <details>
      <summary i18n>This floor: ceiling, overhead, below</summary>
      @if (problem(); as sentence) {
        <p role="alert" class="problem">{{ sentence | told }}</p>
      }
      <label
        ><span i18n class="name">Ceiling over the floor, {{ units().shortUnit }}</span>
        <input
          class="form-control num"
          inputmode="decimal"
          [mtValue]="ceiling()"
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
          <option value="attic">{{ 'attic' | words }}</option>
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
          <option value="crawl-space">{{ 'crawl space' | words }}</option>
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
      <label
        ><span i18n class="name">Floors over the first one (below it: −1)</span>
        <input
          class="form-control num"
          inputmode="numeric"
          [mtValue]="'' + (storey().level ?? '')"
          mtOnLeave
          (mtValueChange)="setLevel($event)"
      /></label>
      @if (storey().framing === 'trusses' || storey().framing === 'i-joists') {
        <label
          ><span i18n class="name">Who permits cable to cross them (maker’s chart, engineer’s letter)</span>
          <input
            class="form-control"
            [mtValue]="storey().boring ?? ''"
            mtOnLeave
            (mtValueChange)="set({ boring: $event.trim() || null })"
        /></label>
        <p i18n class="soft">Trusses are never cut, notched or bored: cable goes between their webs.</p>
      }
      <h3 i18n>Beams in its ceiling</h3>
      @for (beam of beams(); track beam.id) {
        <div class="beam">
          <span class="num">{{ beam.name }}</span>
          <label
            ><span i18n class="name">Who permits that it is bored</span>
            <input
              class="form-control"
              [mtValue]="beam.boring"
              mtOnLeave
              (mtValueChange)="permit(beam.id, $event)"
          /></label>
          <button
            type="button"
            class="btn btn-line"
            [attr.aria-label]="'Remove {}' | words: beam.name"
            (click)="remove(beam.id)"
          >
            {{ 'Remove' | words }}
          </button>
        </div>
      }
      <button type="button" class="btn btn-line" [attr.aria-pressed]="isDrawing()" (click)="beam.emit()">
        {{ 'Draw a beam' | words }}
      </button>
      <p i18n class="soft">No cable crosses a beam, unless you say who permits it.</p>
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
    .beam {
      border-top: 1px solid var(--rule);
      padding: 0.3rem 0;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class FloorFields {
  private readonly desk = inject(Desk);
  private readonly derived = inject(Derived);
  protected readonly units = this.derived.units;
  readonly storey = input.required<Storey>();
  /** A beam is being drawn. */
  readonly isDrawing = input(false);
  readonly beam = output();
  protected readonly beams = computed(() =>
    (this.derived.reader()?.mentioning('beams', this.storey().id) ?? []).map(({ id, a, b, boring }, at) => ({
      id,
      boring: boring ?? '',
      name: $localize`Beam ${at + 1}, ${this.derived.units().long(Math.hypot(a.xIn - b.xIn, a.yIn - b.yIn))}`,
    })),
  );
  protected readonly problem = signal<string | undefined>(undefined);

  protected set(fields: Fields<'storeys'>): void {
    this.problem.set(this.desk.make(setting('storeys', this.storey().id, fields))?.message);
  }
  protected permit(id: string, by: string): void {
    this.problem.set(this.desk.make(setting('beams', id, { boring: by.trim() || null }))?.message);
  }
  protected remove(id: string): void {
    this.problem.set(this.desk.make(removing('beams', id))?.message);
  }
  protected setLevel(typed: string): void {
    const level = Number(typed.replace('−', '-'));
    if (typed.trim() === '') return this.set({ level: null });
    if (!Number.isInteger(level) || level < -9 || level > 99)
      return this.problem.set($localize`“${typed.slice(0, 20)}” is no number of floors.`);
    this.set({ level });
  }
  protected readonly ceiling = computed(() => {
    const { ceilingIn } = this.storey();
    return ceilingIn === undefined ? '' : this.units().shortNumber(ceilingIn);
  });
  protected setCeiling(typed: string): void {
    if (typed.trim() === '') return this.set({ ceilingIn: null });
    const read = readShortField(typed, this.units());
    if ('problem' in read) return this.problem.set(read.problem);
    this.set({ ceilingIn: read.inches });
  }
}

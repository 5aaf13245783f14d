import type { Signal } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Heard } from '../work/commands';

/** How far a search for a plan has come, and its cost as it falls. It hears of it by itself, so that nothing else is drawn anew. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-search',
  template: `
    @if (told()(); as told) {
      <div class="search" role="status">
        <p>
          @if (told.cost !== undefined && told.before && told.cost < 100000) {
            <span i18n
              >The best so far: <strong class="num">{{ told.cost.toFixed(0) }}</strong></span
            >
          } @else {
            <span i18n>Looking for a first plan…</span>
          }
        </p>
        <progress
          [value]="told.done"
          [max]="told.of"
          i18n-aria-label
          aria-label="How far the search is"
        ></progress>
        <svg viewBox="0 0 100 40" preserveAspectRatio="none" aria-hidden="true">
          <polyline [attr.points]="line()" />
        </svg>
      </div>
    }
  `,
  styles: `
    /* What moves here is drawn by itself: nothing around it is laid out or painted again. */
    :host {
      display: block;
      contain: content;
      will-change: transform;
    }
    .search {
      border: 1.5px solid var(--ink);
      background: var(--paper-raised);
      padding: 0.6rem 1rem;
    }
    p {
      margin: 0;
      font-size: 1.2rem;
    }
    progress {
      width: 100%;
      height: 0.6rem;
      accent-color: var(--chalk);
    }
    svg {
      width: 100%;
      height: 5rem;
    }
    polyline {
      fill: none;
      stroke: var(--chalk);
      stroke-width: 2;
      vector-effect: non-scaling-stroke;
    }
  `,
})
export class PlanSearch {
  /** What was heard last, and all of it. */
  readonly told = input.required<Signal<Heard | undefined>>();
  readonly curve = input.required<Signal<readonly Heard[]>>();

  /** What the search has come to, as a line that falls: from 0,0 to 100,40. */
  protected readonly line = computed(() => {
    const costs = this.curve()().flatMap(({ cost, done, of, before }) =>
      cost !== undefined && before && isFinite(cost) ? [{ at: (done / of) * 100, cost }] : [],
    );
    // Before all circuits are gone through once there is no sum yet; and what cannot be weighs more than any cable.
    const last = costs.at(-1);
    if (!last) return '';
    const sane = costs.filter(({ cost }) => cost < last.cost * 3);
    const most = Math.max(...sane.map(({ cost }) => cost));
    const least = Math.min(...sane.map(({ cost }) => cost));
    return sane
      .map(
        ({ at, cost }) => `${at.toFixed(1)},${(38 - (36 * (cost - least)) / (most - least || 1)).toFixed(1)}`,
      )
      .join(' ');
  });
}

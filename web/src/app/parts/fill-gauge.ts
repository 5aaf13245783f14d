import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { BoxFill } from '@mule-tally/core/work';
import { Derived } from '../state/derived';

/** How full a box is: a bar against its volume, with what is left or over in words. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-fill-gauge',
  template: `
    <div class="bar" [class.over]="!fill().fits" role="img" [attr.aria-label]="words()">
      <div class="used" [style.width.%]="used()"></div>
      @if (!fill().fits) {
        <div class="limit" [style.left.%]="limit()"></div>
      }
    </div>
    <div class="words" [class.over]="!fill().fits">
      <span class="num">{{ figures() }}</span>
      <span class="verdict">{{ verdict() }}</span>
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 9rem;
    }
    .bar {
      position: relative;
      height: 0.9rem;
      border: 1.5px solid var(--ink);
      background: var(--paper-raised);
      border-radius: 2px;
      overflow: hidden;
    }
    .used {
      height: 100%;
      background: repeating-linear-gradient(60deg, var(--done) 0 6px, var(--done-light) 6px 9px);
    }
    .over .used {
      background: repeating-linear-gradient(60deg, var(--alert) 0 5px, var(--paper-raised) 5px 8px);
    }
    .limit {
      position: absolute;
      top: -2px;
      bottom: -2px;
      width: 3px;
      background: var(--ink);
    }
    .words {
      display: flex;
      justify-content: space-between;
      gap: 0.5rem;
      margin-top: 0.15rem;
    }
    .words.over .verdict {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class FillGauge {
  private readonly derived = inject(Derived);
  readonly fill = input.required<BoxFill>();
  private volume(in3: number): string {
    return this.derived.units().volume(in3);
  }
  private readonly scale = computed(() => Math.max(this.fill().totalIn3, this.fill().capacityIn3, 0.01));
  protected readonly used = computed(() => (100 * this.fill().totalIn3) / this.scale());
  protected readonly limit = computed(() => (100 * this.fill().capacityIn3) / this.scale());
  protected readonly figures = computed(
    () =>
      $localize`${this.volume(this.fill().totalIn3).replace(/\s.*$/, '')} of ${this.volume(this.fill().capacityIn3)}`,
  );
  protected readonly verdict = computed(() => {
    const { fits, leftIn3, depth } = this.fill();
    if (depth && depth.needsIn > depth.hasIn + 1e-6)
      return $localize`wants ${this.derived.units().short(depth.needsIn)} of depth`;
    if (depth && fits) return $localize`about ${this.volume(leftIn3)} free, no rule`;
    return fits ? $localize`${this.volume(leftIn3)} left` : $localize`${this.volume(-leftIn3)} over`;
  });
  protected readonly words = computed(() => `${this.figures()}, ${this.verdict()}`);
}

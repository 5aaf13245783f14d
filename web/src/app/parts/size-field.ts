import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Gauge, Size } from '@mule-tally/core';
import { GAUGES, gaugeOf, gaugeText, sizeOf } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { Value } from './value';

/** The size of a wire, of those in the system that the house's country sells by; the thinnest first. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-size-field',
  imports: [Value],
  template: `
    <label
      ><span class="name">{{ label() }}</span
      ><select class="form-select" [mtValue]="'' + gauge()" (mtValueChange)="tell($event)">
        @for (one of gauges(); track one) {
          <option [value]="'' + one">{{ text(one) }}</option>
        }
      </select></label
    >
  `,
})
export class SizeField {
  private readonly trade = inject(Derived).trade;
  readonly label = input.required<string>();
  readonly value = input.required<Size>();
  readonly chosen = output<Size>();

  protected readonly text = gaugeText;
  protected readonly gauge = computed(() => gaugeOf(this.value()));
  protected readonly gauges = computed((): readonly Gauge[] => {
    const { system } = sizeOf(this.trade().sizes[0]);
    const own = GAUGES.filter((gauge) => sizeOf(gauge).system === system).reverse();
    // One that came from elsewhere stays to be seen.
    return own.includes(this.gauge()) ? own : [this.gauge(), ...own];
  });

  protected tell(chosen: string): void {
    const gauge = this.gauges().find((one) => String(one) === chosen);
    if (gauge !== undefined) this.chosen.emit(sizeOf(gauge));
  }
}

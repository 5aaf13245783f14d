import { WordsPipe } from './words';
import { cableOf, gaugeNumber } from '@mule-tally/core';
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** A cable type on a stripe of its gauge's sheath colour (common practice: white 14, yellow 12, orange 10). */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-cable',
  imports: [WordsPipe],
  template: `<span class="chip" [attr.data-gauge]="gauge()"
    ><span class="num">{{ cable() ?? ('no cable' | words) }}</span></span
  >`,
  styles: `
    .chip {
      display: inline-block;
      padding: 0 0.45rem;
      border: 1.5px solid var(--ink);
      border-left-width: 0.7rem;
      border-radius: 2px;
      background: var(--paper-raised);
      white-space: nowrap;
    }
    .chip[data-gauge='14'] {
      border-left-color: #fffdf4;
      box-shadow:
        inset 1.5px 0 0 var(--ink),
        -1.5px 0 0 var(--ink);
    }
    .chip[data-gauge='12'] {
      border-left-color: #e0b81c;
    }
    .chip[data-gauge='10'] {
      border-left-color: #e07b1f;
    }
    .chip[data-gauge=''] {
      border-style: dashed;
      border-left-width: 1.5px;
      color: var(--alert);
    }
  `,
})
export class CableChip {
  readonly cable = input.required<string | undefined>();
  protected readonly gauge = computed(() => {
    const id = this.cable();
    return id ? gaugeNumber(cableOf(id).gauge) : '';
  });
}

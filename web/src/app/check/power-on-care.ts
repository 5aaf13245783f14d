import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { OpenHouse } from '../state/open-house';

/** The caution of what is done with the breaker on: nothing is open, no hand is in a box. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-power-on-care',
  imports: [WordsPipe],
  template: `
    <p>
      <strong>{{ state() }}.</strong>&ngsp;
      {{
        'Covers on and hands out of the boxes: power is on for this. What is no good is opened only with its breaker off and proven dead.'
          | words
      }}&ngsp;<span class="soft">{{ words().who }}</span>
    </p>
  `,
  styles: `
    p {
      border: 2px solid var(--attention);
      border-left-width: 0.6rem;
      background: var(--paper-raised);
      padding: 0.4rem 0.8rem;
      margin: 0;
    }
  `,
})
export class PowerOnCare {
  private readonly derived = inject(Derived);
  private readonly house = inject(OpenHouse).view;
  protected readonly words = this.derived.caution;
  protected readonly state = computed(() => this.words().power[this.house()?.head.power ?? 'not-said']);
}

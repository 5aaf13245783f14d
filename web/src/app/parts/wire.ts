import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Colour } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { WIRE_LOOKS } from './wire-colours';

/** A conductor: its colour, its letter code and its dashes, so that colour is never the only sign. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-wire',
  template: `
    <svg width="34" height="11" aria-hidden="true">
      <rect x="0.75" y="0.75" width="32.5" height="9.5" rx="4.7" [attr.fill]="look().fill" />
      @if (look().dash; as dash) {
        <line
          x1="3"
          y1="5.5"
          x2="31"
          y2="5.5"
          stroke-width="7"
          [attr.stroke]="dash.colour"
          [attr.stroke-dasharray]="dash.pattern"
        />
      }
    </svg>
    <span class="code">{{ code() }}</span><span class="visually-hidden">{{
      phrases().colours[colour()]
    }}</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 0.3rem;
      white-space: nowrap;
    }
    rect {
      stroke: var(--ink);
      stroke-width: 1.5;
    }
    .code {
      font-family: var(--figures);
      font-weight: 600;
    }
  `,
})
export class Wire {
  protected readonly phrases = inject(Derived).phrases;
  readonly colour = input.required<Colour>();
  protected readonly look = computed(() => WIRE_LOOKS[this.colour()]);
  protected readonly code = computed(() =>
    this.colour() === 'BARE' ? this.phrases().colours.BARE : this.colour(),
  );
}

import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Derived } from '../state/derived';
import { OpenHouse } from '../state/open-house';

/**
 * The usual cautions, on every screen that can lead a hand to a conductor, by the power of the house. Once read they fold to a
 * line that opens again with a touch.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-caution',
  imports: [RouterLink],
  template: `
    @if (isRead()) {
      <button type="button" class="line" aria-expanded="false" (click)="isRead.set(false)">
        <strong>{{ state() }}</strong> · {{ short() }}
      </button>
    } @else {
      <div class="whole">
        <p>
          <strong>{{ state() }}.</strong> {{ words().atPanel(power(), names()) }} {{ words().proveDead }}
        </p>
        <p class="soft">
          {{ words().who }}
          <a i18n routerLink="../truck" [queryParams]="{ tab: 'house' }" queryParamsHandling="merge"
            >Power of the house</a
          >
        </p>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .whole,
    .line {
      display: block;
      width: 100%;
      padding: 0.4rem 0.8rem;
      border: 2px solid var(--attention);
      border-left-width: 0.6rem;
      background: var(--paper-raised);
      color: var(--ink);
      text-align: left;
    }
    .line {
      min-height: 44px;
    }
    p {
      margin: 0;
    }
    @media (max-width: 760px) {
      .line {
        min-height: 56px;
        line-height: 1.2;
      }
      a {
        display: flex;
        align-items: center;
        min-height: 56px;
      }
    }
  `,
})
export class Caution {
  private readonly derived = inject(Derived);
  private readonly house = inject(OpenHouse).view;
  readonly breakers = input<readonly { number: number; name: string; amps: number }[]>([]);
  readonly isRead = model(false);

  protected readonly power = computed(() => this.house()?.head.power);
  protected readonly words = this.derived.caution;
  protected readonly state = computed(() => this.words().power[this.power() ?? 'not-said']);
  protected readonly names = computed(() =>
    this.breakers().map(({ number, name, amps }) => this.derived.phrases().breaker(number, name, amps)),
  );
  protected readonly short = computed(() =>
    this.words().short(
      this.power(),
      this.breakers().map(({ number }) => number),
    ),
  );
}

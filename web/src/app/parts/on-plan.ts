import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { PlanView } from './plan-view';

/** Where on the plan it is: opened when it is asked for, and loaded then. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-on-plan',
  imports: [PlanView],
  template: `
    <details (toggle)="open.set($any($event.target).open)">
      <summary i18n>On the plan</summary>
      @if (open()) {
        @defer (on immediate) {
          <mt-plan-view
            [room]="room()"
            [marked]="marked()"
            [runs]="runs()"
            [lit]="lit()"
            [proposed]="proposed()"
            (picked)="picked.emit($event)"
          />
        } @placeholder {
          <p i18n class="soft">Drawing the plan…</p>
        } @error {
          <p i18n class="soft">The plan could not be loaded: look again when there is a network.</p>
        }
      }
    </details>
  `,
  styles: `
    summary {
      line-height: 44px;
      cursor: pointer;
      font-weight: 600;
    }
    @media (max-width: 760px) {
      :host {
        display: block;
        margin-top: 8px;
      }
      summary {
        line-height: 56px;
      }
    }
    @media print {
      :host {
        display: none;
      }
    }
  `,
})
export class OnPlan {
  /** The room whose floor is shown. */
  readonly room = input<string>();
  readonly marked = input<readonly string[]>([]);
  readonly runs = input<readonly string[]>([]);
  /** The two boxes of the run at hand. */
  readonly lit = input<readonly string[]>([]);
  /** Boxes between which runs are proposed. */
  readonly proposed = input<readonly (readonly [string, string])[]>([]);
  readonly picked = output<string>();
  protected readonly open = signal(false);
}

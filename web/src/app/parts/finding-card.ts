import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { Finding, Fix } from '@mule-tally/core';
import { Desk } from '../state/desk';

const MARK = { stop: 'Stop', mend: 'Mend', note: 'Note' } as const;

/** One finding: what is wrong, measured against allowed, where the rule stands, and the ways out. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-finding',
  template: `
    <span class="mark">{{ mark[finding().severity] }}</span>
    <div class="body">
      <p>{{ finding().message }}</p>
      @if (finding().measured || finding().source) {
        <p class="facts">
          @if (finding().measured) {
            <span class="num">{{ finding().measured }}</span>
            @if (finding().allowed) {
              against <span class="num">{{ finding().allowed }}</span>
            }
          }
          @if (finding().source) {
            <span class="source">{{ finding().source }}</span>
          }
        </p>
      }
      @if (finding().fixes?.length) {
        <div class="fixes">
          @for (fix of finding().fixes; track fix.label) {
            <button
              type="button"
              class="btn"
              [class.btn-main]="$first"
              [class.btn-line]="!$first"
              (click)="apply(fix)"
            >
              {{ fix.label }}
            </button>
          }
        </div>
      }
      <ng-content />
    </div>
  `,
  host: { '[attr.data-severity]': 'finding().severity' },
  styles: `
    :host {
      display: flex;
      gap: 0.75rem;
      padding: 0.7rem 0.2rem;
      border-bottom: 1px solid var(--rule);
    }
    .mark {
      flex: 0 0 3.4rem;
      font-family: var(--figures);
      font-weight: 700;
      text-transform: uppercase;
      letter-spacing: 0.04em;
    }
    :host([data-severity='stop']) .mark {
      color: var(--alert);
    }
    :host([data-severity='mend']) .mark {
      color: var(--attention);
    }
    :host([data-severity='note']) .mark {
      color: var(--ink-soft);
    }
    p {
      margin: 0;
    }
    .facts {
      color: var(--ink-soft);
    }
    .source {
      margin-left: 0.5rem;
      font-style: italic;
    }
    .fixes {
      display: flex;
      flex-wrap: wrap;
      gap: 0.5rem;
      margin-top: 0.5rem;
    }
  `,
})
export class FindingCard {
  private readonly desk = inject(Desk);
  readonly finding = input.required<Finding>();
  protected readonly mark = MARK;

  protected apply(fix: Fix): void {
    this.desk.make(fix.change);
  }
}

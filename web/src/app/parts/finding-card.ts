import { Rights } from '../state/rights';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Finding, Fix } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

const MARK = { stop: $localize`Stop`, fix: $localize`Fix`, note: $localize`Note` } as const;

/** One finding: what is wrong, measured against allowed, where the rule stands, and the ways out. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-finding',
  template: `
    <p class="top">
      <span class="mark">{{ mark[finding().severity] }}</span> <span class="place">{{ words().place }}</span>
    </p>
    <p class="told">{{ words().message }}</p>
    @if (words().measured || words().source) {
      <p class="facts">
        @if (words().measured) {
          <span class="num">{{ words().measured }}</span>
          @if (words().allowed) {
            &ngsp;<ng-container i18n
              >· allowed <span class="num">{{ words().allowed }}</span></ng-container
            >
          }
        }
        @if (words().source) {
          &ngsp;<span class="source">{{ words().source }}</span>
        }
      </p>
    }
    @if (words().more; as more) {
      <details class="more">
        <summary i18n>More</summary>
        <p>{{ more }}</p>
      </details>
    }
    @if (words().fixes.length && rights.isLead()) {
      <div class="fixes">
        @for (entry of words().fixes; track $index) {
          <button
            type="button"
            class="btn"
            [class.btn-main]="$first"
            [class.btn-line]="!$first"
            (click)="apply(entry.fix, entry.label)"
          >
            {{ entry.label }}
          </button>
        }
      </div>
    }
    <ng-content />
  `,
  host: { '[attr.data-severity]': 'finding().severity' },
  styles: `
    :host {
      display: block;
      padding: 0.6rem 0.2rem;
      border-bottom: 1px solid var(--rule);
    }
    .mark {
      display: inline-block;
      min-width: 3.2rem;
      font-family: var(--figures);
      font-weight: 700;
      text-transform: uppercase;
      letter-spacing: 0.04em;
    }
    :host([data-severity='stop']) .mark {
      color: var(--alert);
    }
    :host([data-severity='fix']) .mark {
      color: var(--attention);
    }
    :host([data-severity='note']) .mark {
      color: var(--ink-soft);
    }
    p {
      margin: 0;
    }
    .place {
      color: var(--ink-soft);
    }
    .more summary {
      display: inline-flex;
      align-items: center;
      min-height: 44px;
      cursor: pointer;
      color: var(--chalk);
    }
    @media (max-width: 760px) {
      .more summary {
        min-height: 56px;
      }
    }
    .facts {
      color: var(--ink-soft);
    }
    .num + .source {
      margin-left: 0.5rem;
    }
    .source {
      font-style: italic;
    }
    .fixes {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-top: 0.5rem;
    }
  `,
})
export class FindingCard {
  protected readonly rights = inject(Rights);
  private readonly desk = inject(Desk);
  private readonly derived = inject(Derived);
  readonly finding = input.required<Finding>();
  protected readonly mark = MARK;

  /** The finding as it is read. */
  protected readonly words = computed(() => {
    const { measured, allowed, source, fixes = [] } = this.finding();
    const words = this.derived.words();
    return {
      message: words?.finding(this.finding()) ?? '',
      place: words?.place(this.finding().where) ?? '',
      more: words?.more(this.finding()),
      measured: measured && words?.measure(measured),
      allowed: allowed && words?.measure(allowed),
      source: source && words?.source(source),
      fixes: fixes.map((fix) => ({ fix, label: words?.fix(fix) ?? '' })),
    };
  });

  /** Takes a way out; in the log several changes as one are called what the button said. */
  protected apply({ change }: Fix, label: string): void {
    this.desk.make(change.kind === 'group' && label ? { title: label.slice(0, 200), ...change } : change);
  }
}

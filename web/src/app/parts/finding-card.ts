import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Finding, Fix } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

const MARK = { stop: 'Stop', fix: 'Fix', note: 'Note' } as const;

/** One finding: what is wrong, measured against allowed, where the rule stands, and the ways out. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-finding',
  template: `
    <span class="mark">{{ mark[finding().severity] }}</span>
    <div class="body">
      @let told = words();
      <p>{{ told.message }}</p>
      @if (told.measured || told.source) {
        <p class="facts">
          @if (told.measured) {
            <span class="num">{{ told.measured }}</span>
            @if (told.allowed) {
              against <span class="num">{{ told.allowed }}</span>
            }
          }
          @if (told.source) {
            <span class="source">{{ told.source }}</span>
          }
        </p>
      }
      @if (told.fixes.length) {
        <div class="fixes">
          @for (entry of told.fixes; track $index) {
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
    :host([data-severity='fix']) .mark {
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
  private readonly derived = inject(Derived);
  readonly finding = input.required<Finding>();
  protected readonly mark = MARK;

  /** The finding as it is read. */
  protected readonly words = computed(() => {
    const { measured, allowed, source, fixes = [] } = this.finding();
    const words = this.derived.words();
    return {
      message: words?.finding(this.finding()) ?? '',
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

import { Rights } from '../state/rights';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Finding, Fix } from '@mule-tally/core';
import { acceptanceOf, adding, findingPrint, leftBy, removing } from '@mule-tally/core';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { ToldPipe } from './term';
import { WordsPipe } from './words';

const MARK = { stop: $localize`Stop`, fix: $localize`Fix`, note: $localize`Note` } as const;

/** One finding: what is wrong, measured against allowed, where the rule stands, and the ways out. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-finding',
  imports: [DatePipe, ToldPipe, WordsPipe],
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
    @if (acceptance(); as record) {
      <p class="accepted">
        @if (record.accepted?.inspector; as inspector) {
          <ng-container i18n
            >Inspector allowed: {{ inspector.name }}, {{ inspector.on | date: 'd MMM y' }}. It stays a
            Stop.</ng-container
          >
        } @else {
          <ng-container i18n>Accepted: {{ record.note }}</ng-container>
        }
        <span class="soft">{{ crew.nameOf(record.by) }}, {{ record.at | date: 'd MMM' }}</span>
        @if (rights.isLead()) {
          <button type="button" class="btn btn-line" (click)="takeBack(record.id)">
            {{ 'Take back' | words }}
          </button>
        }
      </p>
    } @else if (isAcceptable() && rights.isLead() && by()) {
      <details class="more">
        <summary>
          @if (by() === 'lead') {
            <ng-container i18n>Leave it as it is, with a reason</ng-container>
          } @else {
            <ng-container i18n>Did the inspector allow it?</ng-container>
          }
        </summary>
        <form class="fields" (submit)="$event.preventDefault(); accept(why.value, on.value)">
          <label
            ><span class="name">
              @if (by() === 'lead') {
                <ng-container i18n>Why</ng-container>
              } @else {
                <ng-container i18n>Inspector</ng-container>
              }
            </span>
            <input #why class="form-control" maxlength="200" required
          /></label>
          <label [hidden]="by() === 'lead'"
            ><span i18n class="name">Day</span>
            <input #on type="date" class="form-control" [required]="by() === 'inspector'"
          /></label>
          <button i18n type="submit" class="btn btn-line">Keep it</button>
        </form>
        @if (problem(); as sentence) {
          <p role="alert" class="problem">{{ sentence | told }}</p>
        }
      </details>
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
    .accepted {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 0.8rem;
      font-weight: 600;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
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
  protected readonly crew = inject(Crew);
  private readonly session = inject(Session);
  readonly finding = input.required<Finding>();
  /** It may be left as it is, here. */
  readonly isAcceptable = input(false);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly by = computed(() => leftBy(this.finding()));
  protected readonly acceptance = computed(() => {
    const reader = this.derived.reader();
    return reader && acceptanceOf(reader, this.finding());
  });
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

  /** Leaves it as it is: with a reason, or as an inspector allowed it. */
  protected accept(words: string, on: string): void {
    const text = words.trim();
    const isInspector = this.by() === 'inspector';
    if (!text || (isInspector && !on)) return;
    const { boxId, roomId, runId, circuitId } = this.finding().where;
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'accepted',
          at: new Date().toISOString(),
          by: this.session.who().id,
          ...(boxId && { boxId }),
          ...(roomId && { roomId }),
          ...(runId && { runId }),
          ...(circuitId && { circuitId }),
          ...(!isInspector && { note: text }),
          accepted: {
            finding: findingPrint(this.finding()),
            ...(isInspector && { inspector: { name: text, on } }),
          },
        }),
      )?.message,
    );
  }
  protected takeBack(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }

  /** Takes a way out; in the log several changes as one are called what the button said. */
  protected apply({ change }: Fix, label: string): void {
    this.desk.make(change.kind === 'group' && label ? { title: label.slice(0, 200), ...change } : change);
  }
}

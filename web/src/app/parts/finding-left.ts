import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Finding } from '@mule-tally/core';
import { acceptanceOf, adding, findingPrint, leftBy, removing } from '@mule-tally/core';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { ToldPipe } from './term';
import { WordsPipe } from './words';

/** A finding that stays as it is: a Fix by a lead with a reason, a Stop as the inspector allowed it; and how to take that back. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-finding-left',
  imports: [DatePipe, ToldPipe, WordsPipe],
  template: `
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
    } @else if (rights.isLead() && by()) {
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
  `,
  styles: `
    p {
      margin: 0;
    }
    summary {
      display: inline-flex;
      align-items: center;
      min-height: 44px;
      cursor: pointer;
      color: var(--chalk);
    }
    @media (max-width: 760px) {
      summary {
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
  `,
})
export class FindingLeft {
  protected readonly rights = inject(Rights);
  private readonly desk = inject(Desk);
  private readonly derived = inject(Derived);
  protected readonly crew = inject(Crew);
  private readonly session = inject(Session);
  readonly finding = input.required<Finding>();
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly by = computed(() => leftBy(this.finding()));
  protected readonly acceptance = computed(() => {
    const reader = this.derived.reader();
    return reader && acceptanceOf(reader, this.finding());
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
}

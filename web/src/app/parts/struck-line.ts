import { TradePipe } from './trade';
import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  Injectable,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import { adding, setting, standingPull } from '@mule-tally/core';
import type { CUT_STEP } from '@mule-tally/core/work';
import { LOOKED_AT_STEP, MOVED_STEP, stillStruck } from '@mule-tally/core/work';
import { OnlyFor } from './only-for';
import { PhotosOf } from './photos-of';
import { ToldPipe } from './term';
import { WordsPipe } from './words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';

/** Writes down that another trade was at a run: one that is cut is to be pulled again, and what hung there is scrap. */
@Injectable({ providedIn: 'root' })
export class Strikes {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);

  /** Why it was not taken, in a sentence; nothing where it was. */
  strike(runId: string, step: typeof CUT_STEP | typeof MOVED_STEP): string | undefined {
    const reader = this.derived.reader();
    const pull = reader && standingPull(reader, runId);
    if (!reader || !pull) return undefined;
    const record = adding('records', {
      id: crypto.randomUUID(),
      kind: 'cut',
      step,
      at: new Date().toISOString(),
      by: this.session.who().id,
      runId,
    });
    if (step === MOVED_STEP) return this.desk.make(record)?.message;
    const note = $localize`Cut by another trade`;
    const scrapped = setting('pulls', pull.id, { state: 'scrapped', note });
    return this.desk.make({ kind: 'group', title: note, changes: [record, scrapped] })?.message;
  }
}

/** Trades that cut and move cable most. */
const TRADES = [
  $localize`plumber`,
  $localize`heating and air`,
  $localize`framer`,
  $localize`insulation`,
  $localize`drywall`,
];

/** What another trade did to a run, as long as nobody has seen to it: who saw it and when, which trade, a photo of it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-struck-line',
  imports: [DatePipe, OnlyFor, PhotosOf, ToldPipe, WordsPipe, TradePipe],
  template: `
    @if (struck(); as one) {
      <section>
        @if (problem(); as sentence) {
          <p role="alert" class="problem">{{ sentence | told }}</p>
        }
        <p>
          <strong>
            @if (one.isCut) {
              <ng-container i18n>Cut by another trade: pull it again.</ng-container>
            } @else {
              <ng-container i18n>Moved by another trade: look at it.</ng-container>
            }</strong
          >&ngsp;
          <span class="soft"
            >{{ crew.nameOf(one.record.by) }}, {{ one.record.at | date: 'd MMM, HH:mm'
            }}{{ one.record.note ? ' · ' + one.record.note : '' }}</span
          >
        </p>
        <fieldset mtOnlyFor="hand">
          <div class="acts adds">
            @if (!one.record.note) {
              @for (trade of trades; track trade) {
                <button type="button" class="btn btn-line" (click)="by(one.record.id, trade)">
                  {{ trade | trade }}
                </button>
              }
            }
            @if (!one.isCut) {
              <button type="button" class="btn btn-main" (click)="looked()">
                {{ 'Staples, edges and plates are right' | words }}
              </button>
            }
          </div>
        </fieldset>
        <mt-photos-of [runId]="runId()" />
      </section>
    }
  `,
  styles: `
    section {
      border-left: 0.5rem solid var(--attention);
      padding-left: 0.8rem;
      margin: 0.4rem 0;
    }
    p {
      margin: 0 0 0.3rem;
    }
    .acts {
      margin-bottom: 8px;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class StruckLine {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  protected readonly crew = inject(Crew);
  readonly runId = input.required<string>();
  protected readonly trades = TRADES;
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly struck = computed(() => {
    const reader = this.derived.reader();
    return reader && stillStruck(reader, this.runId());
  });

  protected by(recordId: string, note: string): void {
    this.problem.set(this.desk.make(setting('records', recordId, { note }))?.message);
  }
  protected looked(): void {
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          step: LOOKED_AT_STEP,
          at: new Date().toISOString(),
          by: this.session.who().id,
          runId: this.runId(),
        }),
      )?.message,
    );
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { LIMITS, megabytes } from '@mule-tally/core';
import type { ScheduleRead } from '@mule-tally/core/exchange';
import { FilePick } from '../parts/file-pick';
import { ToldPipe } from '../parts/term';
import { textOfFile } from '../parts/text-of-file';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** Bad rows that are listed at once. */
const LISTED = 100;
/** Changes in one step of the log. */
const STEP = 2000;

/** Boxes out of a table: every row that cannot be taken is named, the others are offered. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-schedule-in',
  imports: [FilePick, ToldPipe, WordsPipe],
  template: `
    <mt-file-pick accept=".csv,text/csv" (chosen)="choose($event)">
      <ng-container i18n>Choose a table of boxes (CSV)</ng-container>
    </mt-file-pick>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (done(); as sentence) {
      <p role="status" class="done">{{ sentence }}</p>
    }
    @if (read(); as read) {
      <div class="panel-form">
        <p>
          <strong>{{ fileName() }}</strong>
        </p>
        <p>
          {{
            '{} rows add a box, {1} change one, {2} say what is there already.'
              | words: adds() : changes() : same()
          }}
        </p>
        @if (read.unread.length) {
          <p class="soft">{{ 'Columns that are not read: {}' | words: read.unread.join(', ') }}</p>
        }
        @if (read.bad.length) {
          <section role="alert">
            <p>
              <strong>{{
                (read.bad.length === 1
                  ? '1 row cannot be taken. The others can.'
                  : '{} rows cannot be taken. The others can.'
                ) | words: read.bad.length
              }}</strong>
            </p>
            <ul class="bad">
              @for (row of listed(); track row.row) {
                <li>
                  <span class="num">{{ 'Row {}' | words: row.row }}</span> {{ row.message | told }}
                </li>
              }
            </ul>
            <div class="actions">
              @if (read.bad.length > listed().length) {
                <button type="button" class="btn btn-line" (click)="shown.set(shown() + more)">
                  {{ 'Show {} more' | words: left() }}
                </button>
              }
              <button i18n type="button" class="btn btn-line" (click)="saveBad()">
                Save the list of bad rows
              </button>
            </div>
          </section>
        }
        <div class="actions">
          <button type="button" class="btn btn-main" [disabled]="adds() + changes() === 0" (click)="take()">
            {{ 'Take the {} good rows' | words: adds() + changes() }}
          </button>
          <button i18n type="button" class="btn btn-line" (click)="leave()">Leave it</button>
        </div>
      </div>
    }
  `,
  styles: `
    .actions {
      margin-top: 0.6rem;
    }
    .bad {
      max-height: 20rem;
      overflow: auto;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .done {
      font-weight: 700;
    }
  `,
})
export class ScheduleIn {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  protected readonly more = LISTED;
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly done = signal<string | undefined>(undefined);
  protected readonly fileName = signal('');
  protected readonly shown = signal(LISTED);
  protected readonly read = signal<Extract<ScheduleRead, { ok: true }> | undefined>(undefined);

  private readonly count = (does: string) =>
    computed(() => this.read()?.good.filter((row) => row.does === does).length ?? 0);
  protected readonly adds = this.count('adds');
  protected readonly changes = this.count('changes');
  protected readonly same = this.count('nothing');
  protected readonly listed = computed(() => this.read()?.bad.slice(0, this.shown()) ?? []);
  protected readonly left = computed(() => (this.read()?.bad.length ?? 0) - this.listed().length);

  protected async choose(file: File): Promise<void> {
    const reader = this.derived.reader();
    if (!reader) return;
    this.leave();
    this.fileName.set(file.name);
    if (file.size > LIMITS.fileBytes)
      return this.problem.set(
        $localize`This table has more than ${megabytes(LIMITS.fileBytes)}\: that is no list of boxes.`,
      );
    const { readBoxSchedule } = await import('@mule-tally/core/exchange');
    const read = readBoxSchedule(reader, await textOfFile(file), () => crypto.randomUUID());
    if (read.ok) this.read.set(read);
    else this.problem.set(read.message);
  }

  /** Takes the good rows, in steps: each of them can be taken back. */
  protected take(): void {
    const rows = this.read()?.good.filter(({ changes }) => changes.length) ?? [];
    let taken = 0;
    for (let at = 0; at < rows.length;) {
      const step = [];
      const from = at;
      while (at < rows.length && step.length + rows[at]!.changes.length <= STEP)
        step.push(...rows[at++]!.changes);
      const title = $localize`${at - from} boxes of ${this.fileName()}`.slice(0, 200);
      const refusal = this.desk.make({ kind: 'group', title, changes: step });
      if (refusal) {
        this.problem.set($localize`${taken} rows were taken, then\: ${refusal.message}`);
        return;
      }
      taken += at - from;
    }
    this.leave();
    this.done.set($localize`${taken} rows were taken.`);
  }
  protected async saveBad(): Promise<void> {
    const [{ csvOf }, { saveText }] = await Promise.all([
      import('@mule-tally/core/exchange'),
      import('../parts/save-text'),
    ]);
    const rows = this.read()?.bad.map(({ row, message }) => [row, this.derived.told(message)]) ?? [];
    saveText(`bad rows of ${this.fileName()}`, csvOf([['Row', 'Why'], ...rows]), 'text/csv');
  }
  protected leave(): void {
    this.read.set(undefined);
    this.problem.set(undefined);
    this.done.set(undefined);
    this.shown.set(LISTED);
  }
}

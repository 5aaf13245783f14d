import { WordsPipe } from './words';
import { DatePipe, formatDate } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  LOCALE_ID,
  inject,
  input,
  output,
  resource,
  signal,
} from '@angular/core';
import { Crew } from '../state/crew';
import { Identity } from '../state/identity';
import { Api } from '../sync/api';
import type { Entry } from '../sync/transport';

/** Entries of a journal on one page. */
const PAGE = 50;
/** From when on it is said that an entry came in later than it was made. Milliseconds. */
const LATE = 10 * 60_000;

/** The journal of a document, newest first, page by page. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-journal',
  imports: [WordsPipe, DatePipe],
  template: `
    <p class="soft">
      <ng-container i18n>Everything that was changed, newest first.</ng-container>&ngsp;
      @if (identity.standing() === 'local') {
        <ng-container i18n>Names are picked, not proven, until people sign in.</ng-container>
      } @else {
        <ng-container i18n>Where nothing else is said, whoever made it was signed in.</ng-container>
      }
    </p>
    @if (journal.error()) {
      <p i18n role="alert">The log is on the server, which is away.</p>
    } @else if (journal.hasValue()) {
      <table class="ledger">
        <thead>
          <tr>
            <th i18n>No.</th>
            <th i18n>When</th>
            <th i18n>Who</th>
            <th i18n>What</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (entry of journal.value().entries; track entry.seq) {
            <tr>
              <td class="num">{{ entry.seq }}</td>
              <td>
                {{ entry.at | date: 'd MMM HH:mm' }}
                @if (made(entry); as time) {
                  <br /><span class="soft">{{ time }}</span>
                }
              </td>
              <td>
                {{ crew.nameOf(entry.actorId) }}
                @if (proof(entry); as how) {
                  <br /><span class="soft">{{ how }}</span>
                }
              </td>
              <td>{{ said(entry) }}</td>
              <td>
                <button
                  i18n
                  type="button"
                  class="btn btn-line"
                  (click)="undone.emit(entry.changeId)"
                  [attr.aria-label]="'Undo entry {}' | words: entry.seq"
                >
                  Undo
                </button>
              </td>
            </tr>
          } @empty {
            <tr>
              <td i18n colspan="5" class="soft">Nothing has been changed yet.</td>
            </tr>
          }
        </tbody>
      </table>
      <div class="actions">
        @if (before() !== undefined) {
          <button i18n type="button" class="btn btn-line" (click)="before.set(undefined)">Newest</button>
        }
        @if (journal.value().more) {
          <button
            i18n
            type="button"
            class="btn btn-line"
            (click)="before.set(journal.value().entries.at(-1)!.seq)"
          >
            Older
          </button>
        }
      </div>
    } @else {
      <p i18n role="status">Reading the log…</p>
    }
  `,
})
export class JournalList {
  private readonly api = inject(Api);
  protected readonly crew = inject(Crew);
  protected readonly identity = inject(Identity);
  private readonly locale = inject(LOCALE_ID);
  readonly documentId = input.required<string>();
  /** Number of the last entry. */
  readonly seq = input.required<number>();
  /** What a change is in words. */
  readonly text = input.required<(body: unknown) => string>();
  readonly undone = output<string>();

  protected readonly before = signal<number | undefined>(undefined);
  protected readonly journal = resource({
    params: () => ({ documentId: this.documentId(), before: this.before() ?? this.seq() + 1 }),
    loader: ({ params }) => this.api.journal(params.documentId, { before: params.before, limit: PAGE }),
  });

  /** How it is known who made an entry, where they were not simply signed in. */
  protected proof({ proof }: Entry): string | undefined {
    if (this.identity.standing() === 'local') return undefined;
    return {
      verified: '',
      pin: $localize`by PIN`,
      imported: $localize`brought by a lead`,
      none: $localize`not proven`,
    }[proof ?? 'none'];
  }

  /** When it was made by the device's clock set right, where it came in much later; and by how much that clock was off. */
  protected made({ at, madeAt, clockOffsetMs = 0 }: Entry): string | undefined {
    if (!madeAt) return undefined;
    const made = Date.parse(madeAt) - clockOffsetMs;
    const minutes = Math.round(Math.abs(clockOffsetMs) / 60_000);
    return [
      Date.parse(at) - made > LATE ? $localize`made ${formatDate(made, 'd MMM HH:mm', this.locale)}` : '',
      minutes >= 2 ? $localize`clock off by ${minutes} min` : '',
    ]
      .filter(Boolean)
      .join(', ');
  }

  /** What an entry says; one that this program cannot read is named, and stops nothing. */
  protected said(entry: Entry): string {
    try {
      return this.text()(entry.change?.body);
    } catch {
      return $localize`A change that this program cannot read`;
    }
  }
}

import { WordsPipe } from './words';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, resource, signal } from '@angular/core';
import { Crew } from '../state/crew';
import { Api } from '../sync/api';
import type { Entry } from '../sync/transport';

/** Entries of a journal on one page. */
const PAGE = 50;

/** The journal of a document, newest first, page by page. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-journal',
  imports: [WordsPipe, DatePipe],
  template: `
    <p i18n class="soft">
      Everything that was changed, newest first. Names are picked, not proven, until people sign in.
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
              <td>{{ entry.at | date: 'd MMM HH:mm' }}</td>
              <td>{{ crew.nameOf(entry.actorId) }}</td>
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

  /** What an entry says; one that this program cannot read is named, and stops nothing. */
  protected said(entry: Entry): string {
    try {
      return this.text()(entry.change?.body);
    } catch {
      return $localize`A change that this program cannot read`;
    }
  }
}

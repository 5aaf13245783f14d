import { ToldPipe } from './term';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { Crew } from '../state/crew';
import type { OutboxItem } from '../sync/outbox';

/** What has not been sent of a document, and what the server has not taken: for a person to decide. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-outbox',
  imports: [ToldPipe],
  template: `
    @for (item of items(); track item.change.id) {
      <div class="panel-form">
        <p>
          <strong>{{ text()(item.change.body) }}</strong>
          <span i18n class="soft"> by {{ crew.nameOf(item.actorId) }}</span>
        </p>
        @if (item.refusal; as refusal) {
          <p role="alert">
            {{ refusal.message | told }} <code>{{ refusal.code }}</code>
          </p>
          <div class="actions">
            <button i18n type="button" class="btn btn-line" (click)="retried.emit(item.change.id)">
              Try again
            </button>
            <button i18n type="button" class="btn btn-danger-line" (click)="dropped.emit(item.change.id)">
              Throw it away
            </button>
          </div>
        } @else {
          <p i18n class="soft">Waits for the server.</p>
        }
      </div>
    } @empty {
      <p i18n>Everything has been sent.</p>
    }
  `,
})
export class OutboxList {
  protected readonly crew = inject(Crew);
  readonly items = input.required<readonly OutboxItem[]>();
  /** What a change is in words. */
  readonly text = input.required<(body: unknown) => string>();
  readonly retried = output<string>();
  readonly dropped = output<string>();
}

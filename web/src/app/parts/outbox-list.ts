import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { Crew } from '../state/crew';
import type { OutboxItem } from '../sync/outbox';
import { UnsentEnd } from './unsent-end';

/** What has not been sent of a document, and what the server has not taken: for a person to decide. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-outbox',
  imports: [UnsentEnd],
  template: `
    @for (item of items(); track item.change.id) {
      <div class="panel-form">
        <p>
          <strong>{{ text()(item.change.body) }}</strong>
          <span i18n class="soft"> by {{ crew.nameOf(item.actorId) }}</span>
        </p>
        <mt-unsent-end
          [refusal]="item.refusal"
          (retried)="retried.emit(item.change.id)"
          (dropped)="dropped.emit(item.change.id)"
        />
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

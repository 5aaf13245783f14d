import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { ToldPipe } from './term';

/** How it stands with something that has not been sent: it waits, or the server has not taken it and a person decides. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-unsent-end',
  imports: [ToldPipe],
  template: `
    @if (refusal(); as refusal) {
      <p role="alert">
        {{ refusal.message | told }} <code>{{ refusal.code }}</code>
      </p>
      <div class="actions">
        <button i18n type="button" class="btn btn-line" (click)="retried.emit()">Try again</button>
        <button i18n type="button" class="btn btn-danger-line" (click)="dropped.emit()">Throw it away</button>
      </div>
    } @else {
      <p i18n class="soft">Waits for the server.</p>
    }
  `,
})
export class UnsentEnd {
  readonly refusal = input<{ readonly code: string; readonly message: string } | undefined>();
  readonly retried = output();
  readonly dropped = output();
}

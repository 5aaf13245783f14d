import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { FigurePad } from '../parts/figure-pad';
import { Crew } from '../state/crew';
import { hasPin, isPin } from '../state/pins';

/** Asks for the PIN of whoever takes their turn on a shared device: on the device alone, with a network or without. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-pin-sheet',
  imports: [FigurePad],
  template: `
    <div class="modal-body">
      <h2 id="pin" i18n>PIN of {{ name() }}</h2>
      @if (isSet()) {
        <mt-figure-pad [(value)]="pin" [most]="8" hides i18n-label label="PIN" (entered)="enter()" />
        @if (problem(); as sentence) {
          <p role="alert">{{ sentence }}</p>
        }
        <div class="actions">
          <button i18n type="button" class="btn btn-line" (click)="modal.dismiss()">Stay</button>
          <button
            i18n
            type="button"
            class="btn btn-main"
            [disabled]="pin().length < 4 || busy()"
            (click)="enter()"
          >
            Take the turn
          </button>
        </div>
      } @else {
        <p i18n>
          {{ name() }} has no PIN on this device yet. They sign in on it once, or a lead lets them in, and set
          one in the crew book.
        </p>
        <button i18n type="button" class="btn btn-line" (click)="modal.dismiss()">Stay</button>
      }
    </div>
  `,
  styles: `
    .actions {
      margin-top: 0.8rem;
    }
  `,
})
export class PinSheet {
  protected readonly modal = inject(NgbActiveModal);
  private readonly crew = inject(Crew);
  readonly personId = signal('');
  protected readonly name = computed(() => this.crew.nameOf(this.personId()));
  protected readonly isSet = computed(() => hasPin(this.personId()));
  protected readonly pin = signal('');
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);

  protected async enter(): Promise<void> {
    this.busy.set(true);
    const answer = await isPin(this.personId(), this.pin());
    this.busy.set(false);
    if (answer === true) return this.modal.close(true);
    this.pin.set('');
    this.problem.set(
      answer === 'wait'
        ? $localize`Too many wrong ones: wait half a minute, or longer.`
        : $localize`That is not it.`,
    );
  }
}

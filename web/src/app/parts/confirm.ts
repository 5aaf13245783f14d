import { ToldPipe } from './term';
import { ChangeDetectionStrategy, Component, Injectable, inject, signal } from '@angular/core';
import { NgbActiveModal, NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';

/** A question before something is done that takes more with it. */
export interface Asked {
  /** What goes with it, in a sentence. */
  readonly message: string;
  /** What the button that does it says. */
  readonly yes: string;
}

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-confirm',
  imports: [ToldPipe],
  template: `
    <div class="modal-body">
      <p id="asked" class="asked">{{ asked()?.message | told }}</p>
      <div class="actions">
        <button i18n type="button" class="btn btn-line" ngbAutofocus (click)="modal.close(false)">
          Keep it
        </button>
        <button type="button" class="btn btn-danger-line" (click)="modal.close(true)">
          {{ asked()?.yes }}
        </button>
      </div>
    </div>
  `,
  styles: `
    .asked {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class ConfirmSheet {
  protected readonly modal = inject(NgbActiveModal);
  readonly asked = signal<Asked | undefined>(undefined);
}

/** Asks in a sheet of its own that holds the focus; Escape and a touch beside it keep things as they are. */
@Injectable({ providedIn: 'root' })
export class Confirm {
  private readonly modal = inject(NgbModal);

  async ask(asked: Asked): Promise<boolean> {
    const opened = this.modal.open(ConfirmSheet, {
      centered: true,
      role: 'alertdialog',
      ariaDescribedBy: 'asked',
      ariaLabelledBy: 'asked',
    });
    (opened.componentInstance as ConfirmSheet).asked.set(asked);
    return (await opened.result.catch(() => false)) === true;
  }
}

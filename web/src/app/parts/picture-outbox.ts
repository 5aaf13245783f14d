import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Pictures } from '../state/pictures';
import { ToldPipe } from './term';
import { WordsPipe } from './words';

/** Pictures that have not been sent, and those that the server has not taken: for a person to decide. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-picture-outbox',
  imports: [ToldPipe, WordsPipe],
  template: `
    @for (picture of pictures.waiting(); track picture.sha256) {
      <div class="panel-form">
        <p>
          <strong>{{ 'A picture, {} kB' | words: kilobytes(picture.bytes) }}</strong>
        </p>
        @if (picture.refusal; as refusal) {
          <p role="alert">
            {{ refusal.message | told }} <code>{{ refusal.code }}</code>
          </p>
          <div class="actions">
            <button i18n type="button" class="btn btn-line" (click)="pictures.sendAgain(picture.sha256)">
              Try again
            </button>
            <button
              i18n
              type="button"
              class="btn btn-danger-line"
              (click)="pictures.throwAway(picture.sha256)"
            >
              Throw it away
            </button>
          </div>
        } @else {
          <p i18n class="soft">Waits for the server.</p>
        }
      </div>
    }
  `,
})
export class PictureOutbox {
  protected readonly pictures = inject(Pictures);
  protected kilobytes(bytes: ArrayBuffer): number {
    return Math.ceil(bytes.byteLength / 1024);
  }
}

import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Pictures } from '../state/pictures';
import { UnsentEnd } from './unsent-end';
import { WordsPipe } from './words';

/** Pictures that have not been sent, and those that the server has not taken: for a person to decide. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-picture-outbox',
  imports: [UnsentEnd, WordsPipe],
  template: `
    @for (picture of pictures.waiting(); track picture.sha256) {
      <div class="panel-form">
        <p>
          <strong>{{ 'A picture, {} kB' | words: kilobytes(picture.bytes) }}</strong>
        </p>
        <mt-unsent-end
          [refusal]="picture.refusal"
          (retried)="pictures.sendAgain(picture.sha256)"
          (dropped)="pictures.throwAway(picture.sha256)"
        />
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

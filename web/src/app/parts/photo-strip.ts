import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import type { Photo } from '@mule-tally/core';
import { Crew } from '../state/crew';
import { Pictures } from '../state/pictures';
import { WordsPipe } from './words';

/** Photos, small, each with who took it and when; touched, it is asked for large. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-photo-strip',
  imports: [DatePipe, WordsPipe],
  template: `
    <ul>
      @for (photo of photos(); track photo.id) {
        <li>
          <button
            type="button"
            [class.chosen]="photo.id === chosen()"
            [attr.aria-pressed]="photo.id === chosen()"
            [attr.aria-label]="
              'Photo by {}, {1}' | words: crew.nameOf(photo.by) : (photo.at | date: 'd MMM, HH:mm')
            "
            (click)="picked.emit(photo)"
          >
            @let small = pictures.of(photo.thumb)();
            @if (small.is === 'here') {
              <img [src]="small.url" alt="" />
            } @else {
              <span class="coming">{{
                (small.is === 'coming' ? 'coming…' : 'still on its way') | words
              }}</span>
            }
            <span class="soft num">{{ photo.at | date: 'd MMM, HH:mm' }} · {{ crew.nameOf(photo.by) }}</span>
            @if (photo.boarded) {
              <span i18n class="soft">after the board</span>
            }
          </button>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      padding: 0;
      margin: 0.4rem 0;
    }
    button {
      display: grid;
      gap: 0.1rem;
      width: 9.5rem;
      padding: 4px;
      border: 1.5px solid var(--rule);
      background: var(--paper-raised);
      text-align: left;
      font-size: 0.85rem;
    }
    button.chosen {
      border-color: var(--chalk);
      border-width: 3px;
      padding: 2.5px;
    }
    img,
    .coming {
      display: grid;
      place-content: center;
      width: 100%;
      height: 6.4rem;
      object-fit: cover;
      background: var(--paper);
    }
  `,
})
export class PhotoStrip {
  protected readonly pictures = inject(Pictures);
  protected readonly crew = inject(Crew);
  readonly photos = input.required<readonly Photo[]>();
  readonly chosen = input<string>();
  readonly picked = output<Photo>();
}

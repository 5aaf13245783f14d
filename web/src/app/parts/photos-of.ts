import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Photo } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { FilePick } from './file-pick';
import { OnlyFor } from './only-for';
import { PhotoStrip } from './photo-strip';
import type { PhotoOf } from './photo-taking';
import { PhotoTaking } from './photo-taking';
import { PhotoView } from './photo-view';
import { ToldPipe } from './term';
import { WordsPipe } from './words';

/** Photos of a box, a run, a write-up or the yes to an extra, with one more taken by camera or from a file. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-photos-of',
  imports: [FilePick, OnlyFor, PhotoStrip, PhotoView, ToldPipe, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (shown(); as photo) {
      <mt-photo-view [photo]="photo" (closed)="open.set(undefined)" />
    }
    @if (photos().length) {
      <mt-photo-strip [photos]="photos()" [chosen]="open()" (picked)="look($event)" />
    }
    <fieldset mtOnlyFor="hand">
      <mt-file-pick accept="image/*" [disabled]="busy()" (chosen)="take($event)">{{
        act() ?? ('Take a photo of it' | words)
      }}</mt-file-pick>
    </fieldset>
  `,
  styles: `
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class PhotosOf {
  private readonly derived = inject(Derived);
  private readonly taking = inject(PhotoTaking);
  readonly boxId = input<string>();
  readonly runId = input<string>();
  readonly writeUpId = input<string>();
  readonly extraId = input<string>();
  /** What stands on its button. */
  readonly act = input<string>();
  /** What the photo is of, as it is kept with it. */
  private readonly of = computed((): PhotoOf => {
    const [boxId, runId, writeUpId, extraId] = [this.boxId(), this.runId(), this.writeUpId(), this.extraId()];
    return {
      ...(boxId && { boxId }),
      ...(runId && { runId }),
      ...(writeUpId && { writeUpId }),
      ...(extraId && { extraId }),
    };
  });
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly photos = computed((): readonly Photo[] => {
    const id = this.writeUpId() ?? this.extraId() ?? this.boxId() ?? this.runId();
    return (id && this.derived.reader()?.mentioning('photos', id).toReversed()) || [];
  });
  protected readonly shown = computed(() => this.photos().find(({ id }) => id === this.open()));

  protected look({ id }: Photo): void {
    this.open.set(this.open() === id ? undefined : id);
  }
  protected async take(file: File): Promise<void> {
    this.busy.set(true);
    try {
      this.problem.set(await this.taking.take(file, this.of()));
    } finally {
      this.busy.set(false);
    }
  }
}

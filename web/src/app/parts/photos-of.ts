import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Photo } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { FilePick } from './file-pick';
import { OnlyFor } from './only-for';
import { PhotoStrip } from './photo-strip';
import { PhotoTaking } from './photo-taking';
import { PhotoView } from './photo-view';
import { ToldPipe } from './term';

/** Photos of a box or a run, with one more taken by camera or from a file. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-photos-of',
  imports: [FilePick, OnlyFor, PhotoStrip, PhotoView, ToldPipe],
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
      <mt-file-pick accept="image/*" [disabled]="busy()" (chosen)="take($event)"
        ><ng-container i18n>Take a photo of it</ng-container></mt-file-pick
      >
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
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly photos = computed((): readonly Photo[] => {
    const id = this.boxId() ?? this.runId();
    return (id && this.derived.reader()?.mentioning('photos', id).toReversed()) || [];
  });
  protected readonly shown = computed(() => this.photos().find(({ id }) => id === this.open()));

  protected look({ id }: Photo): void {
    this.open.set(this.open() === id ? undefined : id);
  }
  protected async take(file: File): Promise<void> {
    this.busy.set(true);
    const [boxId, runId] = [this.boxId(), this.runId()];
    try {
      this.problem.set(await this.taking.take(file, { ...(boxId && { boxId }), ...(runId && { runId }) }));
    } finally {
      this.busy.set(false);
    }
  }
}

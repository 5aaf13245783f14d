import type { ElementRef, OnDestroy } from '@angular/core';
import { ChangeDetectionStrategy, Component, output, signal, viewChild } from '@angular/core';

/** The camera of this device, looked through: opened when somebody asks for it, closed with what shows it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-viewfinder',
  template: `
    @if (stream()) {
      <video
        #video
        autoplay
        muted
        playsinline
        [srcObject]="stream()"
        (loadeddata)="opened.emit(true)"
      ></video>
    } @else {
      <div class="closed">
        @if (problem(); as sentence) {
          <p role="alert">{{ sentence }}</p>
        }
        <button i18n type="button" class="btn btn-line" (click)="open()">Open the camera</button>
      </div>
    }
  `,
  styles: `
    video,
    .closed {
      display: block;
      width: 100%;
      max-height: 42vh;
      aspect-ratio: 4 / 3;
      object-fit: contain;
      background: var(--ink);
    }
    .closed {
      display: grid;
      place-content: center;
      gap: 0.6rem;
      padding: 1rem;
      text-align: center;
      background: var(--paper-raised);
      border: 1.5px dashed var(--ink-soft);
      aspect-ratio: auto;
      min-height: 8rem;
    }
    p {
      margin: 0;
      max-width: 26rem;
      font-weight: 600;
    }
  `,
})
export class Viewfinder implements OnDestroy {
  /** It shows what the camera sees, or does not. */
  readonly opened = output<boolean>();
  protected readonly stream = signal<MediaStream | null>(null);
  protected readonly problem = signal<string | undefined>(undefined);
  private readonly video = viewChild<ElementRef<HTMLVideoElement>>('video');
  private isGone = false;

  protected async open(): Promise<void> {
    this.problem.set(undefined);
    // Browsers lend no camera to pages that came without TLS: there it is as if there were none.
    const media = navigator.mediaDevices as MediaDevices | undefined;
    try {
      if (!media) throw new Error('no camera');
      const stream = await media.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: 1920 }, height: { ideal: 1440 } },
      });
      if (this.isGone) return stream.getTracks().forEach((track) => track.stop());
      this.stream.set(stream);
    } catch (error) {
      const isRefused = error instanceof DOMException && error.name === 'NotAllowedError';
      this.problem.set(
        isRefused
          ? $localize`The camera was not allowed to this page. Allow it in the browser, or choose a picture.`
          : $localize`No camera can be looked through here. Choose a picture instead\: a phone offers its own camera there.`,
      );
    }
  }

  /** What it shows now; nothing where it shows nothing yet. */
  async shot(): Promise<ImageBitmap | undefined> {
    const video = this.video()?.nativeElement;
    return video?.videoWidth ? createImageBitmap(video) : undefined;
  }

  ngOnDestroy(): void {
    this.isGone = true;
    this.stream()
      ?.getTracks()
      .forEach((track) => track.stop());
  }
}

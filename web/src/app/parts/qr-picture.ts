import { ChangeDetectionStrategy, Component, effect, input, signal } from '@angular/core';

/** A link as a picture that a phone's camera reads: dark on white in every theme, so that it can. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-qr-picture',
  template: `
    @if (source(); as src) {
      <img [src]="src" [alt]="label()" width="240" height="240" />
    }
  `,
  styles: `
    :host {
      display: block;
      width: 240px;
      height: 240px;
      background: #ffffff;
    }
  `,
})
export class QrPicture {
  readonly text = input.required<string>();
  readonly label = input.required<string>();
  protected readonly source = signal<string | undefined>(undefined);

  constructor() {
    effect(() => void this.draw(this.text()));
  }

  private async draw(text: string): Promise<void> {
    const { default: code } = await import('qrcode');
    const svg = await code.toString(text, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    if (text === this.text()) this.source.set(`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`);
  }
}

import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  HostListener,
  input,
  model,
  output,
} from '@angular/core';

/** Figures to touch, with gloves on; a keyboard does as well. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-figure-pad',
  template: `
    <p class="code" [attr.aria-label]="label()" role="status">
      {{ hides() ? '●'.repeat(value().length) : value() || '–' }}
    </p>
    <div class="pad">
      @for (figure of figures; track figure) {
        <button type="button" class="btn btn-line" (click)="add(figure)">{{ figure }}</button>
      }
      <button i18n type="button" class="btn btn-line" (click)="value.set('')">Clear</button>
      <button type="button" class="btn btn-line" (click)="add('0')">0</button>
      <button i18n type="button" class="btn btn-line" (click)="back()">Back</button>
    </div>
  `,
  styles: `
    .code {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 3rem;
      letter-spacing: 0.25em;
      text-align: center;
      border-bottom: 3px double var(--ink);
      min-height: 4rem;
      margin: 0 0 0.6rem;
    }
    .pad {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 8px;
    }
    .pad .btn {
      min-height: 64px;
      font-size: 1.6rem;
      font-family: var(--figures);
    }
  `,
})
export class FigurePad {
  readonly label = input.required<string>();
  readonly hides = input(false, { transform: booleanAttribute });
  readonly most = input(6);
  readonly value = model('');
  /** Enter was pressed. */
  readonly entered = output<void>();
  protected readonly figures = ['1', '2', '3', '4', '5', '6', '7', '8', '9'];

  protected add(figure: string): void {
    if (this.value().length < this.most()) this.value.update((value) => value + figure);
  }
  protected back(): void {
    this.value.update((value) => value.slice(0, -1));
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    const isInField = event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement;
    if (isInField || event.ctrlKey || event.metaKey || event.altKey) return;
    if (/^\d$/.test(event.key)) this.add(event.key);
    else if (event.key === 'Backspace') this.back();
    else if (event.key === 'Enter' && !(event.target instanceof HTMLButtonElement)) this.entered.emit();
  }
}

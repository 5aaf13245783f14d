import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';

/** Keys of a size: feet, inches, by, and what an L is made of. */
const KEYS = ['1', '2', '3', "'", '4', '5', '6', 'x', '7', '8', '9', 'L', '.', '0', '⌫', 'less'] as const;

/** A large pad for a size: "12'6 x 10" with a glove on, in a metric house "3.6 x 4.2". */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-feet-pad',
  template: `
    @for (key of keys(); track key) {
      <button
        type="button"
        class="btn btn-line num"
        [attr.aria-label]="names[key] ?? key"
        (click)="press(key)"
      >
        {{ names[key] ?? key }}
      </button>
    }
    <button i18n type="button" class="btn btn-main whole" (click)="entered.emit(typed())">Take it</button>
  `,
  styles: `
    :host {
      display: none;
      grid-template-columns: repeat(4, 1fr);
      gap: 8px;
      margin: 0.4rem 0;
    }
    .btn {
      min-height: 56px;
    }
    .whole {
      grid-column: 1 / -1;
    }
    @media (pointer: coarse), (max-width: 700px) {
      :host {
        display: grid;
      }
    }
  `,
})
export class FeetPad {
  readonly typed = model.required<string>();
  /** The unit of a bare number: in meters no key parts feet and inches. */
  readonly unit = input<'ft' | 'm'>('ft');
  readonly entered = output<string>();
  protected readonly keys = computed(() => KEYS.filter((key) => key !== "'" || this.unit() === 'ft'));
  protected readonly names: Readonly<Partial<Record<string, string>>> = {
    "'": $localize`ft`,
    x: '×',
  };

  protected press(key: (typeof KEYS)[number]): void {
    const typed = this.typed();
    if (key === '⌫') return this.typed.set(typed.replace(/(\s*(less|x)\s*|.)$/, ''));
    this.typed.set(
      key === 'x' || key === 'less' ? `${typed.trimEnd()} ${key} ` : key === 'L' ? 'L ' : typed + key,
    );
  }
}

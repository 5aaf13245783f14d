import {
  Directive,
  ElementRef,
  afterRenderEffect,
  booleanAttribute,
  inject,
  input,
  output,
} from '@angular/core';

type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

/**
 * Shows a value in a native field and tells what a person makes of it: what is changed where it stands, one field at a time.
 * (What is entered together and checked together is a form.) A field keeps what was typed until the value itself changes.
 * Numbers and booleans of a `<select>` come back as such, a number field gives null for nothing.
 */
@Directive({
  selector: 'input[mtValue], select[mtValue], textarea[mtValue]',
  host: { '(input)': 'typed()', '(change)': 'left()' },
})
export class Value<T> {
  readonly mtValue = input.required<T>();
  /** Told when the field is left, not with each key. */
  readonly mtOnLeave = input(false, { transform: booleanAttribute });
  readonly mtValueChange = output<T>();

  private readonly field = inject<ElementRef<Field>>(ElementRef).nativeElement;

  constructor() {
    // After the options of a select have been drawn.
    afterRenderEffect({ write: () => this.show(this.mtValue()) });
  }

  private show(value: T): void {
    if (this.field instanceof HTMLInputElement && this.field.type === 'checkbox')
      this.field.checked = value === true;
    else {
      const text = value === undefined || value === null ? '' : String(value);
      if (this.field.value !== text) this.field.value = text;
    }
  }

  private get isText(): boolean {
    return !(this.field instanceof HTMLSelectElement) && this.field.type !== 'checkbox';
  }

  protected typed(): void {
    if (this.isText && !this.mtOnLeave()) this.tell();
  }

  protected left(): void {
    if (!this.isText || this.mtOnLeave()) this.tell();
  }

  private tell(): void {
    this.mtValueChange.emit(this.read() as T);
  }

  private read(): unknown {
    if (this.field instanceof HTMLInputElement) {
      if (this.field.type === 'checkbox') return this.field.checked;
      if (this.field.type === 'number') return this.field.value === '' ? null : this.field.valueAsNumber;
      return this.field.value;
    }
    const now = this.mtValue();
    const text = this.field.value;
    return typeof now === 'number' ? Number(text) : typeof now === 'boolean' ? text === 'true' : text;
  }
}

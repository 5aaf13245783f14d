import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** A button that a file is chosen with; what stands in it is its name. The same file can be chosen again. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-file-pick',
  template: `
    <label class="btn" [class.btn-main]="isMain()" [class.btn-line]="!isMain()">
      <ng-content />
      <input type="file" [accept]="accept()" [disabled]="disabled()" (change)="choose($event)" />
    </label>
  `,
  styles: `
    label {
      position: relative;
    }
    /* The whole button is the field, its border too: it takes a touch and a file that is dropped. */
    input {
      position: absolute;
      top: -1px;
      left: -1px;
      width: calc(100% + 2px);
      height: calc(100% + 2px);
      cursor: pointer;
      opacity: 0;
    }
    label:focus-within {
      outline: 3px solid var(--chalk);
      outline-offset: 2px;
    }
  `,
})
export class FilePick {
  readonly accept = input.required<string>();
  readonly disabled = input(false);
  /** It is the act of its screen. */
  readonly isMain = input(false);
  readonly chosen = output<File>();

  protected choose(event: Event): void {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (file) this.chosen.emit(file);
  }
}

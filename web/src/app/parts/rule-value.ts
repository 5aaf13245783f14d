import { ToldPipe } from './term';
import { WordsPipe } from './words';
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Rule, RuleOverride, RuleValueType } from '@mule-tally/core';
import { valueText } from '@mule-tally/core';
import { Value } from './value';

/** A value as a change carries it. */
export const valueOf = (value: RuleValueType): RuleOverride['value'] =>
  typeof value === 'object' ? [...value] : (value as number | string | boolean);

/** The value of a rule, to be changed as its kind asks: ticks, one of a list, yes or no, a number. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-rule-value',
  imports: [ToldPipe, WordsPipe, Value],
  template: `
    @if (isList()) {
      <details>
        <summary>{{ (shown() | told) || ('none' | words) }}</summary>
        @for (option of rule().options; track option.code) {
          <label class="tick"
            ><input type="checkbox" [checked]="has(option.code)" (change)="toggle(option.code)" />
            {{ option.text | told }}</label
          >
        }
      </details>
    } @else if (rule().options; as options) {
      <select
        class="form-select"
        [attr.aria-label]="rule().title | told"
        [mtValue]="value()"
        (mtValueChange)="tell($event)"
      >
        @for (option of options; track option.code) {
          <option [value]="option.code">{{ option.text | told }}</option>
        }
      </select>
    } @else if (isFlag()) {
      <button
        type="button"
        class="btn btn-line"
        role="switch"
        [attr.aria-label]="rule().title | told"
        [attr.aria-checked]="value()"
        (click)="tell(!value())"
      >
        {{ (value() ? 'Yes' : 'No') | words }}
      </button>
    } @else {
      <span class="number"
        ><input
          class="form-control num"
          inputmode="decimal"
          [attr.aria-label]="rule().title | told"
          [mtValue]="value()"
          mtOnLeave
          (mtValueChange)="number('' + $event)"
        />
        {{ rule().unit | told }}</span
      >
    }
    @if (wrong() ?? problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
  `,
  styles: `
    .tick {
      display: flex;
      gap: 0.4rem;
      align-items: center;
      min-height: 44px;
    }
    .number {
      display: flex;
      gap: 0.4rem;
      align-items: center;
    }
    .number input {
      width: 5.5rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
      margin: 0.3rem 0 0;
    }
  `,
})
export class RuleValue {
  readonly rule = input.required<Rule>();
  readonly value = input.required<RuleValueType>();
  /** Why it was not taken. */
  readonly problem = input<string>();
  readonly chosen = output<RuleOverride['value']>();

  protected readonly wrong = signal<string | undefined>(undefined);
  protected readonly isList = computed(() => typeof this.value() === 'object');
  protected readonly isFlag = computed(() => typeof this.value() === 'boolean');
  protected readonly shown = computed(() => valueText(this.rule(), this.value()));

  private codes(): readonly string[] {
    const value = this.value();
    return typeof value === 'object' ? value : [];
  }
  protected has(code: string): boolean {
    return this.codes().includes(code);
  }
  protected toggle(code: string): void {
    const now = this.codes();
    this.tell(now.includes(code) ? now.filter((one) => one !== code) : [...now, code]);
  }
  protected number(text: string): void {
    const value = Number(text);
    if (text.trim() === '' || !Number.isFinite(value)) this.wrong.set($localize`A number is expected.`);
    else if (value !== this.value()) this.tell(value);
  }
  protected tell(value: RuleValueType): void {
    this.wrong.set(undefined);
    this.chosen.emit(valueOf(value));
  }
}

import { roomName } from '@mule-tally/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  effect,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { NgbTypeahead } from '@ng-bootstrap/ng-bootstrap/typeahead';
import type { NgbTypeaheadSelectItemEvent } from '@ng-bootstrap/ng-bootstrap/typeahead';
import type { Observable } from 'rxjs';
import { Subject, map, merge, tap } from 'rxjs';
import { Derived } from '../state/derived';

export interface Choice {
  readonly id: string;
  readonly label: string;
}

/** Picks one of many by typing a part of its name; the id is given only once something is picked. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-pick-field',
  imports: [ReactiveFormsModule, NgbTypeahead],
  template: `
    <label>
      <span class="name">{{ label() }}</span>
      <input
        class="form-control"
        type="text"
        autocomplete="off"
        [ngbTypeahead]="search"
        [focusFirst]="typing()"
        [inputFormatter]="format"
        [resultFormatter]="format"
        [editable]="true"
        [formControl]="typed"
        (selectItem)="picked($event)"
        (focus)="focused($event)"
        (click)="opened($event)"
        [placeholder]="placeholder()"
      />
    </label>
  `,
})
export class PickField {
  readonly label = input.required<string>();
  readonly placeholder = input($localize`type a part of it`);
  readonly choices = input.required<readonly Choice[]>();
  readonly value = input<string | undefined>();
  readonly chosen = output<string | undefined>();

  private readonly known = computed<Choice | string>(
    () => this.choices().find((choice) => choice.id === this.value()) ?? '',
  );
  protected readonly typed = new FormControl<Choice | string>('', { nonNullable: true });

  constructor() {
    effect(() => this.typed.setValue(this.known(), { emitEvent: false }));
    this.typed.valueChanges.pipe(takeUntilDestroyed()).subscribe((value) => this.typedIn(value));
  }

  protected readonly format = (choice: Choice | string): string =>
    typeof choice === 'string' ? choice : choice.label;
  /** An empty field shows what there is when it is touched, so that nothing has to be typed. */
  private readonly touched$ = new Subject<string>();
  /** Enter takes the first only of what was typed for. */
  protected readonly typing = signal(true);
  protected readonly search = (text$: Observable<string>): Observable<readonly Choice[]> =>
    merge(text$.pipe(tap(() => this.typing.set(true))), this.touched$).pipe(
      map((text) => this.matching(text)),
    );

  private matching(text: string): readonly Choice[] {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const found = this.choices().filter(({ label }) =>
      words.every((word) => label.toLowerCase().includes(word)),
    );
    // What starts with the words comes first.
    return found
      .sort(
        (a, b) =>
          Number(b.label.toLowerCase().startsWith(text.toLowerCase())) -
          Number(a.label.toLowerCase().startsWith(text.toLowerCase())),
      )
      .slice(0, 8);
  }

  protected picked({ item }: NgbTypeaheadSelectItemEvent<Choice>): void {
    this.chosen.emit(item.id);
  }

  protected typedIn(value: Choice | string): void {
    if (typeof value !== 'string') return;
    const exact = this.choices().filter(
      ({ label }) => label.split(' · ')[0]!.toLowerCase() === value.trim().toLowerCase(),
    );
    this.chosen.emit(exact.length === 1 ? exact[0]!.id : undefined);
  }

  protected focused(event: FocusEvent): void {
    (event.target as HTMLInputElement).select();
  }

  protected opened(event: MouseEvent): void {
    if ((event.target as HTMLInputElement).value) return;
    this.typing.set(false);
    // Once the list has been told that nothing of it is to be taken by Enter.
    setTimeout(() => this.touched$.next(''));
  }
}

/** Picks a box of the house by its tag or room. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-box-field',
  imports: [PickField],
  template: `<mt-pick-field
    [label]="label()"
    i18n-placeholder
    placeholder="tag or room"
    [choices]="boxes()"
    [value]="value()"
    (chosen)="chosen.emit($event)"
  />`,
})
export class BoxField {
  private readonly derived = inject(Derived);
  readonly label = input.required<string>();
  readonly value = input<string | undefined>();
  readonly chosen = output<string | undefined>();
  protected readonly boxes = computed((): Choice[] => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return reader
      .all('boxes')
      .map((box) => ({ id: box.id, label: `${box.tag} · ${roomName(reader, box.id)}` }));
  });
}

import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Derived } from '../state/derived';
import { LiveSheet } from './live-sheet';
import { TestSheet } from './test-sheet';
import { TrimSheet } from './trim-sheet';

/** The rough-in test: which routine, and the sheet of it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-test-rounds',
  imports: [LiveSheet, RouterLink, TestSheet, TrimSheet],
  template: `
    <nav i18n-aria-label aria-label="Which routine">
      @for (one of rounds(); track one.id) {
        <a
          class="btn btn-line"
          [routerLink]="[]"
          [queryParams]="{ round: one.id || null }"
          queryParamsHandling="merge"
          [attr.aria-current]="shown() === one.id ? 'true' : null"
          [class.active]="shown() === one.id"
          >{{ one.name }}</a
        >
      }
    </nav>
    @switch (shown()) {
      @case ('live') {
        <mt-live-sheet [circuit]="circuit()" />
      }
      @case ('trim') {
        <mt-trim-sheet [circuit]="circuit()" />
      }
      @default {
        <mt-test-sheet [circuit]="circuit()" [isBoarded]="shown() === 'boarded'" />
      }
    }
  `,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-bottom: 0.6rem;
    }
  `,
})
export class TestRounds {
  readonly circuit = input<string>();
  readonly round = input<string>();
  private readonly derived = inject(Derived);
  /** Where dead tests come first there is no live one of a rough-in. */
  protected readonly rounds = computed(() => {
    const isDead = this.derived.trade().testing === 'dead-tests';
    return [
      { id: '', name: isDead ? $localize`Dead tests` : $localize`Ring out` },
      { id: 'boarded', name: $localize`Board up` },
      ...(isDead ? [] : [{ id: 'live', name: $localize`Live` }]),
      { id: 'trim', name: isDead ? $localize`Second fix` : $localize`Trim` },
    ];
  });
  protected readonly shown = computed(() => this.rounds().find(({ id }) => id === this.round())?.id ?? '');
}

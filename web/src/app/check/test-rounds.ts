import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
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
      @for (one of rounds; track one.id) {
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
  protected readonly rounds = [
    { id: '', name: $localize`Ring out` },
    { id: 'boarded', name: $localize`Board up` },
    { id: 'live', name: $localize`Live` },
    { id: 'trim', name: $localize`Trim` },
  ];
  protected readonly shown = computed(() => this.rounds.find(({ id }) => id === this.round())?.id ?? '');
}

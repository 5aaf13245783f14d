import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ReadySheet } from './ready-sheet';
import { WriteUps } from './write-ups';

/** What has to do with the inspector: what stands between the house and a passed rough-in, and what was written up. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-inspection-sheet',
  imports: [ReadySheet, RouterLink, WriteUps],
  template: `
    <nav class="no-print" i18n-aria-label aria-label="Before and after the inspector">
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
    @if (shown() === 'write-ups') {
      <mt-write-ups [room]="room()" [box]="box()" />
    } @else {
      <mt-ready-sheet />
    }
  `,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin: 0.5rem 0 0.6rem;
    }
  `,
})
export class InspectionSheet {
  readonly room = input<string>();
  readonly round = input<string>();
  readonly box = input<string>();
  protected readonly rounds = [
    { id: '', name: $localize`What still stands` },
    { id: 'write-ups', name: $localize`Write-ups` },
  ];
  protected readonly shown = computed(() => (this.round() === 'write-ups' ? 'write-ups' : ''));
}

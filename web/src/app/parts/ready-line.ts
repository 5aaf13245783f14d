import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import type { HouseSummary } from '@mule-tally/core';
import { Identity } from '../state/identity';
import { Readiness } from '../state/readiness';
import { WordsPipe } from './words';

/** Whether this device may go where there is no signal, or why not: said to whoever has just joined, and each time after. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-ready',
  imports: [WordsPipe],
  template: `
    @switch (ready()?.kind) {
      @case ('getting') {
        <p i18n class="strip note" role="status">
          Getting ready for no signal: fetching the app and the houses…
        </p>
      }
      @case ('ready') {
        <p class="strip note" role="status">
          <strong i18n>Ready with no signal.</strong>&ngsp;
          {{
            (count() === 1
              ? 'The app and one house are on this device.'
              : 'The app and {} houses are on this device.'
            ) | words: count()
          }}
        </p>
      }
      @case ('not') {
        <div class="strip refused" role="status">
          <strong i18n>Not ready with no signal.</strong>
          @for (reason of why(); track reason) {
            <p>{{ reason }}</p>
          }
          <button i18n type="button" class="btn btn-line" (click)="look()">Look again</button>
        </div>
      }
    }
  `,
  styles: `
    .strip {
      margin: 0.6rem 0;
    }
    .strip p {
      margin: 0.2rem 0;
    }
  `,
})
export class ReadyLine {
  private readonly readiness = inject(Readiness);
  private readonly identity = inject(Identity);
  readonly houses = input.required<readonly HouseSummary[]>();
  protected readonly ready = this.readiness.ready;

  constructor() {
    effect(() => {
      this.houses();
      untracked(() => this.look());
    });
  }

  protected count(): number {
    const ready = this.ready();
    return ready?.kind === 'ready' ? ready.houses : 0;
  }

  protected why(): readonly string[] {
    const ready = this.ready();
    return ready?.kind === 'not' ? ready.why : [];
  }

  protected look(): void {
    // Whoever sits at the machine of the server needs no signal.
    if (this.identity.standing() === 'person') void this.readiness.get(this.houses());
  }
}

import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import type { HeldChange } from '@mule-tally/core';
import { changeText } from '../parts/change-text';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { Crew } from '../state/crew';
import { Api } from '../sync/api';

/** What hands did and the plan could not take: one sentence and two buttons each, for a lead. Nothing is dropped by itself. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-held-list',
  imports: [DatePipe, ToldPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    @for (one of held(); track one.changeId) {
      <div class="panel-form">
        <p>
          <strong>{{ crew.nameOf(one.actorId) }}</strong>&ngsp;<span class="soft num">{{
            one.madeAt ?? one.at | date: 'd MMM, HH:mm'
          }}</span
          ><br />{{ text(one) }}<br />
          <span class="needs">{{ one.message | told }}</span>
        </p>
        <div class="actions">
          <button i18n type="button" class="btn btn-main" (click)="decide(one, true)">Take it</button>
          <button i18n type="button" class="btn btn-danger-line" (click)="decide(one, false)">
            Leave it out
          </button>
        </div>
      </div>
    } @empty {
      @if (isRead()) {
        <p i18n>Nothing waits for you: whatever the hands sent is in the house.</p>
      } @else if (!problem()) {
        <p i18n role="status">Reading what waits…</p>
      }
    }
  `,
  styles: `
    .needs {
      color: var(--alert);
    }
  `,
})
export class HeldList {
  private readonly api = inject(Api);
  protected readonly crew = inject(Crew);
  readonly houseId = input.required<string>();
  protected readonly held = signal<readonly HeldChange[]>([]);
  protected readonly isRead = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    effect(() => {
      this.houseId();
      void this.doing(() => Promise.resolve());
    });
  }

  protected text({ body }: HeldChange): string {
    return changeText(body as never);
  }

  protected decide({ changeId }: HeldChange, take: boolean): void {
    void this.doing(() => this.api.decide(this.houseId(), changeId, take));
  }

  private async doing(work: () => Promise<string | undefined | void>): Promise<void> {
    try {
      this.problem.set((await work()) ?? undefined);
      this.held.set(await this.api.held(this.houseId()));
      this.isRead.set(true);
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }
}

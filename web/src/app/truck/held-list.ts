import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import type { HeldChange } from '@mule-tally/core';
import { changeText } from '../parts/change-text';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Waiting } from '../state/waiting';

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
          <span class="needs">{{ named(one.message | told) }}</span>
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
  private readonly waiting = inject(Waiting);
  private readonly derived = inject(Derived);
  protected readonly crew = inject(Crew);
  readonly houseId = input.required<string>();
  protected readonly isRead = computed(() => this.waiting.of()?.houseId === this.houseId());
  protected readonly held = computed(() => (this.isRead() ? this.waiting.of()!.changes : []));
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    effect(() => {
      const houseId = this.houseId();
      untracked(() => void this.doing(() => this.waiting.look(houseId)));
    });
  }

  protected text({ body }: HeldChange): string {
    return changeText(body as never, this.derived.words()?.say);
  }

  /** A sentence for people: what it names by its id is called by its name, or by nothing where it is gone. */
  protected named(sentence: string): string {
    const reader = this.derived.reader();
    return sentence.replace(/ ?\(?([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})\)?/g, (_all, id: string) => {
      const name = reader?.get('boxes', id)?.tag ?? reader?.get('rooms', id)?.name;
      return name ? ` ${name}` : '';
    });
  }

  protected decide({ changeId }: HeldChange, take: boolean): void {
    void this.doing(() => this.waiting.decide(this.houseId(), changeId, take));
  }

  private async doing(work: () => Promise<string | undefined | void>): Promise<void> {
    try {
      this.problem.set((await work()) ?? undefined);
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }
}

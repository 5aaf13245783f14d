import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { adding, removing, standingPull } from '@mule-tally/core';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { WordsPipe } from '../parts/words';

/** Code of the tick for cable that is secured, and plated where it has to be. */
const STEP = 'stapled-and-plated';

/** Cable of a room stapled and plated: one touch for the room, or one for each run, as the house has it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-stapled',
  imports: [DatePipe, WordsPipe],
  template: `
    <h2>{{ 'Stapled and plated' | words }}</h2>
    @for (entry of entries(); track entry.id) {
      <p>
        {{ entry.name }}
        @if (entry.ticked; as ticked) {
          <strong class="made">✓</strong>
          <span class="soft">{{ crew.nameOf(ticked.by) }}, {{ ticked.at | date: 'd MMM, HH:mm' }}</span>
          @if (!rights.isViewer()) {
            <button i18n type="button" class="btn btn-line" (click)="take(ticked.id)">Not yet</button>
          }
        } @else if (!rights.isViewer()) {
          @if (entry.left) {
            <span class="soft">{{
              (entry.left === 1 ? 'one run is not in yet' : '{} runs are not in yet') | words: entry.left
            }}</span>
          }
          <button type="button" class="btn btn-line" (click)="tick(entry.id)">
            {{ 'Stapled and plated: {}' | words: entry.name }}
          </button>
        }
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 0.7rem;
      margin: 0 0 8px;
    }
    .made {
      color: var(--done);
    }
  `,
})
export class Stapled {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  protected readonly crew = inject(Crew);
  protected readonly rights = inject(Rights);
  readonly roomId = input.required<string>();
  readonly runIds = input.required<readonly string[]>();

  protected readonly entries = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const ticked = (id: string) =>
      reader.mentioning('records', id).findLast(({ kind, step }) => kind === 'tick' && step === STEP);
    const isIn = (id: string): boolean => standingPull(reader, id)?.state === 'in';
    if (reader.rules().text('pull.stapled') === 'run')
      return this.runIds()
        .filter(isIn)
        .map((id) => ({ id, name: this.derived.words()?.say.run(id) ?? '', left: 0, ticked: ticked(id) }));
    const id = this.roomId();
    return [
      {
        id,
        name: reader.get('rooms', id)?.name ?? '',
        left: this.runIds().filter((run) => !isIn(run)).length,
        ticked: ticked(id),
      },
    ];
  });

  protected tick(id: string): void {
    this.desk.make(
      adding('records', {
        id: crypto.randomUUID(),
        kind: 'tick',
        at: new Date().toISOString(),
        by: this.session.who().id,
        step: STEP,
        ...(id === this.roomId() ? { roomId: id } : { runId: id }),
      }),
    );
  }

  protected take(recordId: string): void {
    this.desk.make(removing('records', recordId));
  }
}

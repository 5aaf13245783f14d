import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { adding, boxName, roomName } from '@mule-tally/core';
import type { CableCount, CableRole, SeenCount, WalkScope } from '@mule-tally/core/work';
import { boxWalk, countOf, sentence } from '@mule-tally/core/work';
import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { DatePipe } from '@angular/common';
import { countText } from './count-text';

/** One box on a walk: what is to come in, large; all there with one touch, or what is seen instead. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-box-count',
  imports: [DatePipe, TermPipe, WordsPipe],
  template: `
    @if (shown(); as box) {
      <p class="of">
        <span class="cut">{{ box.circuits }}</span>
        <strong i18n class="num">{{ number() }} of {{ of() }}</strong>
      </p>
      <h2 class="box">
        <strong>{{ box.tag }}</strong> <span class="soft">{{ box.room }}</span>
      </h2>
      <p class="expected" role="status">{{ box.expected }}</p>
      @for (circuit of box.endOf; track circuit) {
        <p class="end"><span aria-hidden="true">⊣ </span>{{ 'The end of {}' | words: circuit }}</p>
      }
      @if (!rights.isViewer()) {
        @if (differs()) {
          <div class="counts" role="group" i18n-aria-label aria-label="What is there">
            @for (role of roles(); track role) {
              <div class="stepper">
                <button
                  type="button"
                  class="btn btn-line"
                  [disabled]="seen()[role] === 0"
                  [attr.aria-label]="'One {} less' | words: (role === 'power' ? 'power' : ('leg' | words))"
                  (click)="step(role, -1)"
                >
                  −
                </button>
                <span class="num"
                  ><b>{{ seen()[role] }}</b> {{ role === 'power' ? ('power' | words) : ('leg' | term) }}</span
                >
                <button
                  type="button"
                  class="btn btn-line"
                  [attr.aria-label]="'One {} more' | words: (role === 'power' ? 'power' : ('leg' | words))"
                  (click)="step(role, 1)"
                >
                  +
                </button>
              </div>
            }
          </div>
        }
        <div class="act-bar shown">
          @if (differs()) {
            <button i18n type="button" class="btn btn-line" (click)="differs.set(false)">Back</button>
            <button type="button" class="btn btn-main" (click)="record(seen())">
              {{ 'I see {}' | words: seenText() }}
            </button>
          } @else {
            <button i18n type="button" class="btn btn-line" (click)="later.emit()">Later</button>
            <button i18n type="button" class="btn btn-line" (click)="differs.set(true)">It differs</button>
            <button i18n type="button" class="btn btn-main" (click)="record(box.count)">
              All here, next
            </button>
          }
        </div>
      }
      <ul class="from">
        @for (cable of box.cables; track cable.runId) {
          <li>
            {{ (cable.role === 'power' ? 'power' : 'leg') | words }}
            <span>{{ 'to {}, {1}' | words: cable.far : cable.room }}</span>
            @if (!cable.isLogged) {
              <span i18n class="soft"> · not in the log</span>
            }
          </li>
        }
      </ul>
      @if (box.state !== 'open' && box.last; as last) {
        <p class="last" [class.needs]="box.state !== 'right'">
          {{ 'Seen: {}' | words: last.seen }}
          <span class="soft">· {{ last.by }}, {{ last.at | date: 'd MMM, HH:mm' }}</span>
          @if (box.since) {
            <br /><strong>{{
              (box.since === 'plan'
                ? 'The plan is not what it was then: count again.'
                : 'A cable was pulled or scrapped since: count again.'
              ) | words
            }}</strong>
          }
        </p>
      }
    }
  `,
  styles: `
    p {
      margin: 0;
    }
    .of {
      display: flex;
      justify-content: space-between;
      gap: 0.6rem;
      font-family: var(--figures);
      font-weight: 600;
      font-size: 1.2rem;
      border-bottom: 1.5px solid var(--ink);
      padding-bottom: 0.2rem;
    }
    .of strong {
      white-space: nowrap;
    }
    .cut {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .box {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 0.7rem;
      margin: 0.5rem 0 0;
      font-size: 1.2rem;
    }
    .box strong {
      font-family: var(--figures);
      font-size: 32px;
      overflow-wrap: anywhere;
    }
    .expected {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 46px;
      line-height: 1.15;
    }
    .end {
      font-weight: 700;
      font-size: 1.1rem;
    }
    .from {
      list-style: none;
      margin: 0.3rem 0 0;
      padding: 0;
      font-size: 1.1rem;
      line-height: 1.5;
      columns: 17rem auto;
      column-gap: 1.6rem;
    }
    .from li {
      break-inside: avoid;
    }
    .last {
      margin-top: 0.4rem;
    }
    .needs {
      color: var(--alert);
    }
    .counts {
      display: grid;
      gap: 8px;
      margin-top: 0.6rem;
      max-width: 30rem;
    }
    .stepper {
      display: grid;
      grid-template-columns: 72px 1fr 72px;
      gap: 8px;
      align-items: center;
      text-align: center;
      font-size: 1.3rem;
    }
    .stepper .btn {
      min-height: 56px;
      font-size: 1.6rem;
    }
    .stepper b {
      font-size: 2rem;
    }
  `,
})
export class BoxCount {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly crew = inject(Crew);
  protected readonly rights = inject(Rights);
  readonly boxId = input.required<string>();
  /** What is walked. */
  readonly scope = input<WalkScope>({});
  /** Which one it is on the way, and how many there are. */
  readonly number = input.required<number>();
  readonly of = input.required<number>();
  readonly recorded = output();
  readonly later = output();
  protected readonly roles = computed((): readonly CableRole[] =>
    this.scope().powerOnly ? ['power'] : ['power', 'leg'],
  );
  /** What is there is being counted, because it is not what is planned. */
  protected readonly differs = linkedSignal({
    source: () => [this.boxId(), this.scope()],
    computation: () => false,
  });

  protected readonly shown = computed(() => {
    const reader = this.derived.reader();
    const boxId = this.boxId();
    if (!reader?.get('boxes', boxId)) return undefined;
    const { expected, runs, last, since, state, endOf } = boxWalk(reader, boxId, this.scope());
    const say = this.derived.words()?.say;
    const text = (count: SeenCount): string => countText(count, this.derived.glossary());
    const numberOf = (id: string): number => reader.get('circuits', id)?.number ?? 0;
    const circuits = [
      ...new Set(runs.flatMap(({ runId }) => reader.get('runs', runId)?.circuitIds ?? [])),
    ].sort((a, b) => numberOf(a) - numberOf(b));
    const [, ...place] = say?.place({ boxId }).split(' · ') ?? [];
    return {
      tag: boxName(reader, boxId),
      room: place.join(' · ') || roomName(reader, boxId),
      circuits: circuits.length && say ? sentence(say.circuits(circuits)) : $localize`No circuit yet`,
      count: expected,
      expected: text(expected),
      endOf: endOf.map((id) => say?.circuit(id) ?? ''),
      cables: runs
        .map((run) => ({
          ...run,
          far: boxName(reader, run.farBoxId),
          room: roomName(reader, run.farBoxId),
        }))
        .sort((a, b) => (a.role === b.role ? 0 : a.role === 'power' ? -1 : 1)),
      state,
      since,
      last: last && {
        seen: text(last.counted.seen),
        by: this.crew.nameOf(last.by),
        at: last.at,
      },
    };
  });
  /** Begins with what is planned: one touch takes away what is missing. */
  protected readonly seen = linkedSignal<unknown, CableCount>({
    source: () => [this.boxId(), this.scope()],
    computation: () => this.shown()?.count ?? { power: 0, leg: 0 },
  });
  protected readonly seenText = computed(() => countText(this.seen(), this.derived.glossary()));

  protected step(role: CableRole, by: number): void {
    this.seen.update((seen) => ({ ...seen, [role]: Math.min(99, Math.max(0, seen[role] + by)) }));
  }

  protected record(seen: CableCount): void {
    const reader = this.derived.reader();
    if (!reader) return;
    const boxId = this.boxId();
    const { circuitId } = this.scope();
    const refusal = this.desk.make(
      adding('records', {
        id: crypto.randomUUID(),
        kind: 'walk',
        at: new Date().toISOString(),
        by: this.session.who().id,
        boxId,
        ...(circuitId !== undefined && { circuitId }),
        counted: countOf(reader, boxId, seen, this.scope()),
      }),
    );
    if (refusal) return;
    this.differs.set(false);
    this.recorded.emit();
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { SharedOut } from '@mule-tally/core/work';
import { reelUses, sharedOut } from '@mule-tally/core/work';
import { CableChip } from '../parts/cable-chip';
import { ReelQuestions } from '../parts/reel-questions';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Reels } from '../state/reels';
import { Rights } from '../state/rights';
import { markText } from './mark-text';

/** A mark as it is printed on a sheath: feet or meters, perhaps with a half. */
const MARK = /^\d{1,5}([.,]\d)?$/;

/** Marks on the sheath of the reels that this house takes from: when a reel is changed, or the day ends. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-reel-marks',
  imports: [CableChip, ReelQuestions, WordsPipe],
  template: `
    @if (uses().length) {
      <h2 i18n>Reels</h2>
      <p i18n class="soft">
        Read the mark on the sheath, in {{ units().typed }}, when a reel is changed, or when the day ends:
        what came off is shared out over the runs since.
      </p>
      <ul>
        @for (use of uses(); track use.id) {
          <li>
            <span class="what"
              ><strong>{{ use.name }}</strong> <mt-cable [cable]="use.cable" />
              <span class="num">{{ 'about {} left' | words: use.left }}</span></span
            >
            <span class="soft">
              @if (use.mark !== undefined) {
                {{ 'last mark {}' | words: use.mark }} ·
              }
              {{ (use.since === 1 ? 'one run since' : '{} runs since') | words: use.since }}
            </span>
            @if (use.since && !rights.isViewer()) {
              <form (submit)="read($event, use.id)">
                <label
                  ><span class="visually-hidden">{{ 'Mark now, {}' | words: use.name }}</span>
                  <input
                    #mark
                    class="form-control num"
                    inputmode="decimal"
                    i18n-placeholder
                    placeholder="mark now"
                /></label>
                <button i18n type="submit" class="btn btn-line">Read</button>
              </form>
            }
            <mt-reel-questions [reelId]="use.id" />
            @if (asked(); as asked) {
              @if (asked.reelId === use.id) {
                <div class="asked" role="alert">
                  @for (sentence of asked.sentences; track sentence) {
                    <p>{{ sentence }}</p>
                  }
                  @if (asked.change) {
                    <div class="actions">
                      <button i18n type="button" class="btn btn-line" (click)="take()">
                        It is right: take it
                      </button>
                      <button i18n type="button" class="btn btn-main" (click)="asked$.set(undefined)">
                        Read it again
                      </button>
                    </div>
                  }
                </div>
              }
            }
          </li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 1rem;
      border-bottom: 1px solid var(--rule);
      padding: 0.3rem 0;
    }
    .what {
      display: inline-flex;
      align-items: center;
      gap: 0.6rem;
      flex-wrap: wrap;
    }
    form {
      display: flex;
      gap: 8px;
      margin-left: auto;
    }
    form .form-control {
      width: 8rem;
    }
    mt-reel-questions {
      flex-basis: 100%;
    }
    .asked {
      flex-basis: 100%;
      border-left: 0.4rem solid var(--alert);
      padding: 0.2rem 0.8rem;
    }
    .asked p {
      margin: 0 0 0.4rem;
      font-weight: 600;
    }
  `,
})
export class ReelMarks {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly reels = inject(Reels);
  protected readonly rights = inject(Rights);
  protected readonly units = this.derived.units;
  protected readonly asked$ = signal<
    | {
        readonly reelId: string;
        readonly sentences: readonly string[];
        readonly change: SharedOut['change'];
        readonly field?: HTMLInputElement;
      }
    | undefined
  >(undefined);
  protected readonly asked = this.asked$.asReadonly();

  protected readonly uses = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return reelUses(reader, this.reels.before()).map(({ reel, leftIn, mark, since }) => ({
      id: reel.id,
      name: reel.name,
      cable: reel.cable,
      left: this.units().long(Math.max(0, leftIn)),
      mark: mark === undefined ? undefined : this.units().mark(mark),
      since: since.length,
    }));
  });

  constructor() {
    this.reels.want();
  }

  protected read(event: Event, reelId: string): void {
    event.preventDefault();
    this.asked$.set(undefined);
    const field = (event.target as HTMLFormElement).querySelector('input')!;
    const typed = field.value.trim();
    const reader = this.derived.reader();
    if (!reader) return;
    if (!MARK.test(typed)) {
      this.asked$.set({
        reelId,
        sentences: [$localize`A mark is a number as it is printed on the sheath: 182 or 182.5.`],
        change: undefined,
      });
      return;
    }
    const mark = this.units().ofMark(Number(typed.replace(',', '.')));
    const name = reader.get('reels', reelId)?.name ?? '';
    const { questions, change } = sharedOut(
      reader,
      reelId,
      mark,
      crypto.randomUUID(),
      $localize`Mark ${typed} on ${name}`,
      this.reels.before(),
    );
    if (questions.length) {
      this.asked$.set({
        reelId,
        sentences: questions.map((one) => markText(one, this.units())),
        change,
        field,
      });
      return;
    }
    if (change && !this.desk.make(change)) field.value = '';
  }

  protected take(): void {
    const asked = this.asked$();
    if (asked?.change && !this.desk.make(asked.change) && asked.field) asked.field.value = '';
    this.asked$.set(undefined);
  }
}

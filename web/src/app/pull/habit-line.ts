import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Factor, RunKind } from '@mule-tally/core/work';
import { habitOf } from '@mule-tally/core/work';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { WordsPipe } from '../parts/words';

const KINDS: Readonly<Record<RunKind, string>> = {
  'home-run': $localize`Home runs`,
  power: $localize`Power, box to box`,
  leg: $localize`Legs and travelers`,
};
/** The value of the rulebook that lengths are made with. */
const RULE = 'cut.habit';
/** Under so many lengths nothing is offered. */
const OFFERED_FROM = 5;

const percent = ({ factor }: Factor): number => Math.round(factor * 100);

/** How much more this crew pulls than was planned, with how many lengths it rests on; taken into lengths with one touch. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-habit-line',
  imports: [WordsPipe],
  template: `
    @if (habit(); as habit) {
      <h2 i18n>Pulled over planned</h2>
      <p>
        {{
          (habit.lengths === 1 ? 'This crew: {} %, from one length.' : 'This crew: {} %, from {1} lengths.')
            | words: habit.percent : habit.lengths
        }}
        @if (habit.isUsed) {
          <strong>{{ 'Lengths are planned with {} %.' | words: habit.used }}</strong>
        }
      </p>
      @if (rights.isLead()) {
        <div class="actions">
          @if (habit.isOffered) {
            <button type="button" class="btn btn-line" (click)="use(habit.offered)">
              {{ 'Plan lengths with {} %' | words: habit.offered }}
            </button>
          }
          @if (habit.isUsed) {
            <button i18n type="button" class="btn btn-line" (click)="use(undefined)">
              As measured, 100 %
            </button>
          }
        </div>
      }
      <details>
        <summary i18n>By person, cable and kind of run</summary>
        <table class="ledger">
          <tbody>
            @for (line of habit.lines; track line.name) {
              <tr>
                <td>{{ line.name }}</td>
                <td class="right num">{{ line.percent }} %</td>
                <td class="right soft">
                  {{ (line.lengths === 1 ? 'one length' : '{} lengths') | words: line.lengths }}
                </td>
                <td class="right">
                  @if (line.offered !== undefined && rights.isLead()) {
                    <button
                      type="button"
                      class="btn btn-line"
                      [attr.aria-label]="'Plan lengths as {} pulls' | words: line.name"
                      (click)="use(line.offered)"
                    >
                      {{ 'Plan with {} %' | words: line.offered }}
                    </button>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
      </details>
    }
  `,
  styles: `
    table {
      max-width: 40rem;
    }
    p {
      margin: 0 0 0.4rem;
    }
  `,
})
export class HabitLine {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly crew = inject(Crew);
  protected readonly rights = inject(Rights);

  protected readonly habit = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return undefined;
    const { crew, byPerson, byCable, byKind } = habitOf(reader);
    if (crew.lengths === 0) return undefined;
    const line = (
      name: string,
      factor: Factor,
    ): { name: string; percent: number; lengths: number; offered?: number } => ({
      name,
      percent: percent(factor),
      lengths: factor.lengths,
    });
    const used = reader.rules().number(RULE);
    // Planned lengths that were logged may have been made with what is used already.
    const offeredOf = (factor: Factor): number => Math.round((percent(factor) * used) / 100);
    const offered = offeredOf(crew);
    const person = (id: string, factor: Factor) => ({
      ...line(this.crew.nameOf(id), factor),
      // Where one hand pulls the house, their own habit is the better one.
      ...(factor.lengths >= OFFERED_FROM &&
        offeredOf(factor) !== used &&
        offeredOf(factor) !== offered && { offered: offeredOf(factor) }),
    });
    return {
      percent: percent(crew),
      lengths: crew.lengths,
      used,
      isUsed: used !== 100,
      offered,
      isOffered: crew.lengths >= OFFERED_FROM && offered !== used,
      lines: [
        ...[...byPerson].map(([id, factor]) => person(id, factor)),
        ...[...byCable].map(([cable, factor]) => line(cable, factor)),
        ...[...byKind].map(([kind, factor]) => line(this.derived.inTrade(KINDS[kind]), factor)),
      ],
    };
  });

  protected use(value: number | undefined): void {
    this.desk.make({ kind: 'rule.set', key: RULE, override: value === undefined ? null : { value } });
  }
}

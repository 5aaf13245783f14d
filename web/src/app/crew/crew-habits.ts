import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Habit, RuleOverride } from '@mule-tally/core';
import {
  CREW_CHANGES,
  editionName,
  editionValue,
  habitIn,
  habitOf,
  knownRule,
  overrideProblem,
  valueText,
} from '@mule-tally/core';
import { RuleValue } from '../parts/rule-value';
import { Value } from '../parts/value';
import { CrewDesk } from '../state/desk';
import { SPOKEN } from '../state/spoken';
import { OpenCrew } from '../state/open-crew';
import { CrewRules } from './crew-rules';

/** Rulebook values that this crew's houses start with. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-habits',
  imports: [ToldPipe, WordsPipe, Value, RuleValue],
  styles: `
    .reason {
      display: block;
      margin-top: 0.4rem;
    }
  `,
  template: `
    <div class="panel-form">
      <label
        ><span i18n class="name">A habit for</span>
        <select class="form-select" [mtValue]="''" (mtValueChange)="add($event)">
          <option i18n value="">choose a value of the rulebook</option>
          @for (rule of open(); track rule.key) {
            <option [value]="rule.key">{{ rule.title | told }}</option>
          }
        </select></label
      >
    </div>
    @if (unkept(); as what) {
      <p i18n role="alert">
        This value of “{{ what }}” is of this country alone and cannot be a habit; a house can have it.
      </p>
    }
    <p i18n class="soft">
      A new house starts with these; in its own rulebook they stand as house values and can be changed there.
      Houses that are there already stay as they are. Values are compared with {{ edition() }}.
    </p>
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Rule</th>
          <th i18n>Where from</th>
          <th i18n>This crew</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (entry of habits(); track entry.habit.id) {
          <tr>
            <td>
              {{ (entry.title | told) || entry.habit.key }}
              @if (entry.rule; as rule) {
                <br /><span i18n class="soft"
                  >The edition has {{ text(rule, entry.edition!) | told }} {{ rule.unit | told }}</span
                >
              }
            </td>
            <td class="soft">{{ entry.source }}</td>
            <td>
              @if (entry.rule; as rule) {
                <mt-rule-value
                  [rule]="rule"
                  [value]="entry.value!"
                  [problem]="problem()?.id === entry.habit.id ? problem()?.message : undefined"
                  (chosen)="set(entry.habit, $event)"
                />
                <label class="reason"
                  ><span i18n class="name">Reason</span
                  ><input
                    class="form-control"
                    maxlength="2000"
                    [mtValue]="entry.habit.override.reason ?? ''"
                    mtOnLeave
                    (mtValueChange)="setReason(entry.habit, $event)"
                /></label>
              } @else {
                <span i18n class="soft">no value of this edition</span>
              }
            </td>
            <td>
              <button
                i18n
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Take out the habit {}' | words: (entry.title | told) || entry.habit.key"
                (click)="remove(entry.habit.id)"
              >
                Take it out
              </button>
            </td>
          </tr>
        } @empty {
          <tr>
            <td i18n colspan="4" class="soft">
              No habit yet: new houses start with the edition’s own values.
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
})
export class CrewHabits {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  private readonly crewRules = inject(CrewRules);
  private readonly spoken = inject(SPOKEN);
  protected readonly edition = computed(() => editionName(this.crewRules.base()));
  protected readonly text = valueText;
  /** A value that the crew book cannot keep, because where it is kept by it is another thing. */
  protected readonly unkept = signal<string | undefined>(undefined);
  protected readonly problem = signal<{ id: string; message: string } | undefined>(undefined);

  private readonly rules = computed(() => this.crewRules.trade().rules);
  protected readonly habits = computed(() => {
    return this.book.records('habits').map((habit) => {
      const base = this.crewRules.base();
      const override = habitIn(base, habit.key, habit.override);
      // A value that this edition does not allow is none of it.
      const rule = override && this.rules().find(({ key }) => key === habit.key);
      const section = rule?.section && `${rule.publication ?? this.crewRules.trade().code} ${rule.section}, `;
      return {
        habit,
        rule,
        value: override?.value,
        // One of another country has its name too.
        title: knownRule(this.crewRules.trade(), habit.key)?.title,
        edition: rule && editionValue(rule, base),
        source: rule ? `${section ?? ''}${this.spoken.told(rule.provenance)}` : '',
      };
    });
  });
  /** Values for which there is none yet. */
  protected readonly open = computed(() => {
    const taken = new Set(this.habits().map(({ habit }) => habit.key));
    return this.rules().filter(({ key }) => !taken.has(key));
  });

  protected add(key: string): void {
    const rule = this.rules().find((one) => one.key === key);
    if (!rule) return;
    const value = editionValue(rule, this.crewRules.base());
    const own = typeof value === 'object' ? [...value] : (value as string | number | boolean);
    const override = habitOf(this.crewRules.base(), key, { value: own });
    if (override) this.desk.make(CREW_CHANGES.adding('habits', { id: crypto.randomUUID(), key, override }));
    else this.unkept.set(this.spoken.told(rule.title));
  }

  protected set(habit: Habit, value: RuleOverride['value']): void {
    const { base } = this.crewRules;
    const typed = { ...habit.override, value };
    const wrong = overrideProblem(base(), habit.key, typed);
    this.problem.set(wrong && { id: habit.id, message: wrong.message });
    const override = wrong ? undefined : habitOf(base(), habit.key, typed);
    if (override) this.desk.make(CREW_CHANGES.setting('habits', habit.id, { override }));
    else if (!wrong) this.unkept.set(habit.key);
  }

  /** Why the crew does it so: a looser value needs it in every house. */
  protected setReason(habit: Habit, typed: string): void {
    const reason = typed.trim();
    if (reason === (habit.override.reason ?? '')) return;
    const { value } = habit.override;
    const override = { value, ...(reason && { reason }) };
    this.desk.make(CREW_CHANGES.setting('habits', habit.id, { override }));
  }

  protected remove(id: string): void {
    this.desk.make(CREW_CHANGES.removing('habits', id));
  }
}

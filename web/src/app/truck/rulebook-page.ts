import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { RuleOverride, RuleValueType, RulebookBase, StandingRule } from '@mule-tally/core';
import { EDITIONS, RULE_FINDINGS, USUAL_EDITION, bundleText, sameJson, valueText } from '@mule-tally/core';
import { RuleValue } from '../parts/rule-value';
import { TermPipe } from '../parts/term';
import { Value } from '../parts/value';
import { FindingCard } from '../parts/finding-card';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** A value as a change carries it. */
const valueOf = (value: RuleValueType): RuleOverride['value'] =>
  typeof value === 'object' ? [...value] : (value as number | string | boolean);

/** Every value of the house's rulebook: what it is, where it comes from, what the house made of it and why. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-rulebook',
  imports: [Value, FindingCard, RuleValue, TermPipe],
  template: `
    <div class="fields">
      <label
        ><span class="name">Code edition of this house</span>
        <select class="form-select" [mtValue]="base()" (mtValueChange)="setBase($event)">
          @for (edition of editions; track edition.id) {
            <option [value]="edition.id">{{ edition.name }}</option>
          }
        </select></label
      >
    </div>
    <p class="soft">
      Published values were written from memory: check them against the adopted code. Some may only be made
      stricter; loosening the others needs a written reason, which stays visible.
    </p>
    @for (finding of findings(); track $index) {
      <mt-finding [finding]="finding" />
    }
    <div class="scroll-x">
      <table class="ledger">
        <thead>
          <tr>
            <th>Rule</th>
            <th>Where from</th>
            <th>Value</th>
          </tr>
        </thead>
        <tbody>
          @for (entry of rules(); track entry.rule.key) {
            <tr [class.own]="entry.override">
              <td>
                {{ entry.rule.title }}
                @if (entry.rule.note) {
                  <br /><span class="soft">{{ entry.rule.note }}</span>
                }
                @if (entry.override) {
                  <br /><label
                    ><span class="name"
                      >House value; the edition has {{ shown(entry.rule, entry.editionValue) }}. Reason:</span
                    >
                    <input
                      class="form-control"
                      maxlength="2000"
                      [mtValue]="entry.override.reason ?? ''"
                      mtOnLeave
                      (mtValueChange)="setReason(entry, $event)"
                  /></label>
                  <button type="button" class="btn btn-line" (click)="reset(entry)">
                    Back to the edition’s value
                  </button>
                }
              </td>
              <td>
                <span class="soft"
                  >{{ entry.rule.section ? jurisdiction()?.code + ' ' + entry.rule.section + ', ' : ''
                  }}{{ entry.rule.provenance }}
                  @if (entry.rule.adjust === 'stricter-only') {
                    · only stricter
                  }
                </span>
              </td>
              <td class="value">
                <mt-rule-value
                  [rule]="entry.rule"
                  [value]="entry.value"
                  [problem]="problem()?.key === entry.rule.key ? problem()?.message : undefined"
                  (chosen)="set(entry, $event)"
                />
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    <h2>Connectors</h2>
    <p class="soft">
      Common practice, from memory; makers differ. What is printed on the package in hand decides.
    </p>
    <table class="ledger">
      <thead>
        <tr>
          <th>Connector</th>
          <th>Takes, from</th>
          <th>up to</th>
        </tr>
      </thead>
      <tbody>
        @for (connector of connectors(); track connector.id) {
          <tr>
            <td>{{ connector.name }}</td>
            <td class="num">{{ list(connector.from) }}</td>
            <td class="num">{{ list(connector.upTo) }}</td>
          </tr>
        }
      </tbody>
    </table>
    <h2>Boxes</h2>
    <p class="soft">Generic sizes. The volume that is marked in the box at hand decides.</p>
    <table class="ledger">
      <thead>
        <tr>
          <th>Box</th>
          <th class="right">{{ units().volumeUnit }}</th>
          <th>Clamps</th>
          <th>Where from</th>
        </tr>
      </thead>
      <tbody>
        @for (type of boxes(); track type.id) {
          <tr>
            <td>{{ type.name }}</td>
            <td class="right num">
              {{ type.volumeIn3 === undefined ? '' : units().volumeNumber(type.volumeIn3) }}
            </td>
            <td>{{ type.clamps }}</td>
            <td class="soft">
              {{ type.section ? jurisdiction()?.code + ' ' + type.section + ', ' : '' }}{{ type.provenance }}
            </td>
          </tr>
        }
        @for (type of fittings(); track type.id) {
          <tr>
            <td>{{ type.name }}</td>
            <td class="right num">
              {{ type.volumeIn3 === undefined ? '' : units().volumeNumber(type.volumeIn3) }}
            </td>
            <td></td>
            <td class="soft">common practice, from memory</td>
          </tr>
        }
      </tbody>
    </table>
    <h2>Rules without a number</h2>
    <table class="ledger">
      <tbody>
        @for (rule of sections(); track rule.section) {
          <tr>
            <td>{{ rule.says }}</td>
            <td class="soft">{{ jurisdiction()?.code }} {{ rule.section }}, published, from memory</td>
          </tr>
        }
      </tbody>
    </table>
    <h2>
      <span class="capital">{{ 'neutral' | term }}</span> at the switch
    </h2>
    <p>
      Rooms in which lights’ switches are asked to have one ({{ neutralRule() }}, published, from memory;
      which rooms are habitable is the local code’s to say): {{ neutralRooms() }}. Reasons for which a box may
      go without: {{ neutralExceptions() }}.
    </p>
    <h2>Loads</h2>
    <p>
      Watts taken where none are stated (common practice, for pictures and comparisons only):
      {{ watts() }}.
    </p>
  `,
  styles: `
    .own {
      background: var(--paper-raised);
    }
    .value {
      min-width: 11rem;
    }
  `,
})
export class RulebookPage {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  protected readonly units = this.derived.units;
  protected readonly connectors = computed(() => this.derived.trade().connectors);
  protected readonly boxes = computed(() =>
    this.derived.trade().boxes.filter(({ volumeIn3 }) => volumeIn3 !== undefined),
  );
  protected readonly fittings = computed(() => this.derived.trade().fittings);
  protected readonly editions = EDITIONS;
  protected readonly jurisdiction = computed(() => this.derived.reader()?.rules().jurisdiction);
  protected readonly sections = computed(() => Object.values(this.jurisdiction()?.sections ?? {}));
  protected readonly neutralRule = computed(
    () => this.derived.reader()?.rules().cite('neutral.atSwitch') ?? '',
  );
  protected readonly neutralRooms = computed(() =>
    (this.jurisdiction()?.neutralRooms ?? []).map((kind) => kind.replace('-', ' ')).join(', '),
  );
  protected readonly neutralExceptions = computed(() =>
    (this.jurisdiction()?.neutralExceptions ?? []).map(({ text }) => text).join('; '),
  );
  protected readonly watts = computed(() =>
    Object.entries(this.derived.trade().watts)
      .filter(([, watts]) => watts > 0)
      .map(([role, watts]) => `${role} ${watts} W`)
      .join(', '),
  );
  protected readonly rules = computed(() => this.derived.reader()?.rules().standing ?? []);
  protected readonly base = computed(() => this.derived.reader()?.rules().base ?? USUAL_EDITION);
  protected readonly findings = computed(() => this.derived.reader()?.derive(RULE_FINDINGS, '') ?? []);
  protected readonly problem = signal<{ key: string; message: string } | undefined>(undefined);

  protected list(bundles: readonly Parameters<typeof bundleText>[0][]): string {
    return bundles.map((bundle) => bundleText(bundle)).join(' or ');
  }
  protected readonly shown = valueText;

  protected setBase(base: RulebookBase): void {
    this.desk.make({ kind: 'house.set', base });
  }
  protected set(entry: StandingRule, value: RuleValueType): void {
    const same = sameJson(value, entry.editionValue) && !entry.override?.reason;
    const refusal = this.desk.make({
      kind: 'rule.set',
      key: entry.rule.key,
      override: same
        ? null
        : { value: valueOf(value), ...(entry.override?.reason && { reason: entry.override.reason }) },
    });
    this.problem.set(refusal && { key: entry.rule.key, message: refusal.message });
  }
  protected setReason(entry: StandingRule, reason: string): void {
    if (reason.trim() === (entry.override?.reason ?? '')) return;
    this.desk.make({
      kind: 'rule.set',
      key: entry.rule.key,
      override: { value: valueOf(entry.value), ...(reason.trim() && { reason: reason.trim() }) },
    });
  }
  protected reset(entry: StandingRule): void {
    this.desk.make({ kind: 'rule.set', key: entry.rule.key, override: null });
  }
}

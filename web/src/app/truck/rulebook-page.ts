import { OnlyFor } from '../parts/only-for';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PointRole, Rule, RuleValueType, RulebookBase, StandingRule } from '@mule-tally/core';
import {
  EDITIONS,
  USUAL_EDITION,
  bundleText,
  editionName,
  jurisdictionOf,
  sameJson,
  valueText,
} from '@mule-tally/core';
import { RULE_FINDINGS, codeFileOf, readCodeFile, toAnotherCode } from '@mule-tally/core/work';
import { FilePick } from '../parts/file-pick';
import { saveText } from '../parts/save-text';
import { RuleValue, valueOf } from '../parts/rule-value';
import { TermPipe, ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { FindingCard } from '../parts/finding-card';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

type Asked = ReturnType<typeof toAnotherCode> & { readonly base: RulebookBase; readonly name: string };

/** Every value of the house's rulebook: what it is, where it comes from, what the house made of it and why. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-rulebook',
  imports: [OnlyFor, Value, FilePick, FindingCard, RouterLink, RuleValue, TermPipe, ToldPipe, WordsPipe],
  template: `
    <fieldset mtOnlyFor="lead">
      <div class="fields">
        <label class="edition"
          ><span i18n class="name">Code edition of this house</span>
          <select class="form-select" [mtValue]="asked()?.base ?? base()" (mtValueChange)="setBase($event)">
            @for (edition of editions; track edition.id) {
              <option [value]="edition.id">{{ edition.name }}, {{ countryOf(edition.id) | told }}</option>
            }
          </select></label
        >
      </div>
      <p class="acts">
        <button type="button" class="btn btn-line" (click)="saveCode()">
          {{ 'Save these rules as a file' | words }}
        </button>
        <mt-file-pick accept=".json,application/json" (chosen)="takeCode($event)">
          {{ 'Rules from a file' | words }}
        </mt-file-pick>
        @if (ownCode(); as own) {
          <span>{{ 'Goes by {}, {1}: a file of its own.' | words: own.edition : own.name }}</span>
        }
      </p>
      @if (codeProblems().length) {
        <div role="alert" class="problem">
          <p i18n>Nothing of this file was taken:</p>
          <ul>
            @for (one of codeProblems(); track $index) {
              <li>
                {{ one.message | told }} <span class="soft num">{{ one.path }}</span>
              </li>
            }
          </ul>
        </div>
      }
      @if (asked(); as other) {
        <section class="asked" role="status">
          <p>
            <strong i18n>Another code: {{ other.name }}.</strong>&ngsp;<ng-container i18n
              >Nothing has changed yet. Rules, words and units become its own; what is set here is kept in its
              units.</ng-container
            >
          </p>
          @if (isAllKept(other)) {
            <p i18n>Everything of this house has its counterpart there.</p>
          } @else {
            <ul>
              @for (title of other.unkept.rules; track title) {
                <li>{{ title | told }}: <ng-container i18n>this house’s own value is lost</ng-container></li>
              }
              @for (one of other.unkept.cables; track one.cable) {
                <li>
                  <span class="num">{{ one.cable }}</span>:
                  {{ 'runs: {}, not sold there; they stay as they are' | words: one.runs }}
                </li>
              }
              @for (one of other.unkept.boxes; track one.name) {
                <li>
                  {{ one.name | told }}:
                  {{ 'boxes: {}, not sold there; they stay as they are' | words: one.boxes }}
                </li>
              }
            </ul>
          }
          <div class="acts">
            <button type="button" class="btn btn-main" (click)="takeBase()">
              <ng-container i18n>Go by {{ other.name }}</ng-container>
            </button>
            <button i18n type="button" class="btn btn-line" (click)="asked.set(undefined)">Leave it</button>
          </div>
        </section>
      }
    </fieldset>
    <p i18n class="soft">
      Published values were written from memory: check them against the adopted code. Some may only be made
      stricter; loosening the others needs a written reason, which stays visible.
    </p>
    @for (finding of findings(); track $index) {
      <mt-finding [finding]="finding" />
    }
    <label class="search"
      ><span i18n class="name">Look for</span>
      <input
        class="form-control"
        type="search"
        autocomplete="off"
        [mtValue]="wanted()"
        (mtValueChange)="wanted.set('' + $event)"
    /></label>
    <nav class="chapters" i18n-aria-label aria-label="Chapters of the rulebook">
      @for (chapter of chapters(); track chapter.id) {
        <a [routerLink]="[]" [fragment]="'chapter-' + chapter.id" queryParamsHandling="merge"
          >{{ chapter.title | told }} <span class="num">{{ chapter.entries.length }}</span></a
        >
      }
    </nav>
    @for (chapter of chapters(); track chapter.id) {
      <section [id]="'chapter-' + chapter.id">
        <h2>{{ chapter.title | told }}</h2>
        <div class="rules">
          @for (entry of chapter.entries; track entry.rule.key) {
            <div class="rule" [class.own]="entry.override">
              <div class="what">
                {{ entry.rule.title | told }}
                @if (entry.rule.note) {
                  <br /><span class="soft">{{ entry.rule.note | told }}</span>
                }
                <br /><span class="soft from"
                  >{{
                    entry.rule.section
                      ? (entry.rule.publication ?? jurisdiction()?.code) + ' ' + entry.rule.section + ', '
                      : ''
                  }}{{ entry.rule.provenance | told }}
                  @if (entry.rule.adjust === 'stricter-only') {
                    &ngsp;<ng-container i18n>· only stricter</ng-container>
                  }
                </span>
                @if (entry.override) {
                  <fieldset mtOnlyFor="lead">
                    <label
                      ><span i18n class="name"
                        >House value; the edition has {{ shown(entry.rule, entry.editionValue) }}.
                        Reason:</span
                      >
                      <input
                        class="form-control"
                        maxlength="2000"
                        [mtValue]="entry.override.reason ?? ''"
                        mtOnLeave
                        (mtValueChange)="setReason(entry, $event)"
                    /></label>
                    <button i18n type="button" class="btn btn-line" (click)="reset(entry)">
                      Back to the edition’s value
                    </button>
                  </fieldset>
                }
              </div>
              <div class="value">
                <fieldset mtOnlyFor="lead">
                  <mt-rule-value
                    [rule]="entry.rule"
                    [value]="entry.value"
                    [problem]="problem()?.key === entry.rule.key ? problem()?.message : undefined"
                    (chosen)="set(entry, $event)"
                  />
                </fieldset>
              </div>
            </div>
          }
        </div>
      </section>
    } @empty {
      <p i18n class="soft">No rule has that in it. The tables below stay.</p>
    }
    <h2 i18n>Connectors</h2>
    <p i18n class="soft">
      Common practice, from memory; makers differ. What is printed on the package in hand decides.
    </p>
    <table class="ledger">
      <thead>
        <tr>
          <th i18n>Connector</th>
          <th i18n>Takes, from</th>
          <th i18n>up to</th>
        </tr>
      </thead>
      <tbody>
        @for (connector of connectors(); track connector.id) {
          <tr>
            <td>{{ connector.name | told }}</td>
            <td class="num">{{ list(connector.from) }}</td>
            <td class="num">{{ list(connector.upTo) }}</td>
          </tr>
        }
      </tbody>
    </table>
    <h2 i18n>Boxes</h2>
    <p i18n class="soft">Generic sizes. The volume that is marked in the box at hand decides.</p>
    <table class="ledger">
      <thead>
        <tr>
          <th i18n>Box</th>
          <th class="right">{{ units().volumeUnit }}</th>
          <th i18n>Clamps</th>
          <th i18n>Where from</th>
        </tr>
      </thead>
      <tbody>
        @for (type of boxes(); track type.id) {
          <tr>
            <td>{{ type.name | told }}</td>
            <td class="right num">
              {{ type.volumeIn3 === undefined ? '' : units().volumeNumber(type.volumeIn3) }}
            </td>
            <td>{{ type.clamps | told }}</td>
            <td class="soft">
              {{ type.section ? jurisdiction()?.code + ' ' + type.section + ', ' : ''
              }}{{ type.provenance | told }}
            </td>
          </tr>
        }
        @for (type of fittings(); track type.id) {
          <tr>
            <td>{{ type.name | told }}</td>
            <td class="right num">
              {{ type.volumeIn3 === undefined ? '' : units().volumeNumber(type.volumeIn3) }}
            </td>
            <td></td>
            <td i18n class="soft">common practice, from memory</td>
          </tr>
        }
      </tbody>
    </table>
    <h2 i18n>Rules without a number</h2>
    <table class="ledger">
      <tbody>
        @for (rule of sections(); track rule.section) {
          <tr>
            <td>{{ rule.says | told }}</td>
            <td i18n class="soft">{{ jurisdiction()?.code }} {{ rule.section }}, published, from memory</td>
          </tr>
        }
      </tbody>
    </table>
    <h2 i18n>
      <span class="capital">{{ 'neutral' | term }}</span> at the switch
    </h2>
    <p i18n>
      Rooms in which lights’ switches are asked to have one ({{ neutralRule() }}, published, from memory;
      which rooms are habitable is the local code’s to say): {{ neutralRooms() }}. Reasons for which a box may
      go without: {{ neutralExceptions() }}.
    </p>
    <h2 i18n>What draws how much</h2>
    <p i18n>
      Watts taken where none are stated (common practice, for pictures and comparisons only):
      {{ watts() }}.
    </p>
  `,
  styles: `
    .edition {
      min-width: 17rem;
    }
    .asked {
      margin: 0.8rem 0;
      padding-left: 0.8rem;
      border-left: 0.5rem solid var(--attention);
    }
    .asked p {
      margin: 0 0 0.3rem;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-top: 0.8rem;
    }
    .search {
      display: block;
      max-width: 30rem;
    }
    .chapters {
      display: flex;
      flex-wrap: wrap;
      gap: 0 1.2rem;
      margin-top: 0.4rem;
    }
    .chapters a {
      display: inline-flex;
      align-items: center;
      gap: 0.3rem;
      min-height: 44px;
    }
    .rule {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(11rem, 15rem);
      gap: 0.4rem 1.2rem;
      padding: 0.45rem 0.6rem;
      border-bottom: 1px solid var(--rule);
    }
    .own {
      background: var(--paper-raised);
      box-shadow: inset 0.3rem 0 0 var(--chalk);
    }
    section {
      scroll-margin-top: 7rem;
    }
    @media (max-width: 600px) {
      .rule {
        grid-template-columns: minmax(0, 1fr);
      }
    }
    @media (max-width: 760px) {
      .chapters {
        gap: 8px 1.2rem;
      }
      .chapters a {
        min-height: 56px;
      }
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
    (this.jurisdiction()?.neutralRooms ?? [])
      .map((kind) => this.derived.inTrade(this.derived.told(kind.replace('-', ' '))))
      .join(', '),
  );
  protected readonly neutralExceptions = computed(() =>
    (this.jurisdiction()?.neutralExceptions ?? []).map(({ text }) => this.derived.told(text)).join('; '),
  );
  protected readonly watts = computed(() =>
    Object.entries(this.derived.trade().watts)
      .filter(([, watts]) => watts > 0)
      .map(
        ([role, watts]) =>
          `${role === 'electronics' ? 'electronics' : this.derived.phrases().roles[role as PointRole]} ${watts} W`,
      )
      .join(', '),
  );
  protected readonly wanted = signal('');
  /** Rules that have what is looked for, by chapter; what the house changed stands first, as a chapter of its own. */
  protected readonly chapters = computed(() => {
    const standing = this.derived.reader()?.rules().standing ?? [];
    const words = this.wanted().toLowerCase().split(/\s+/).filter(Boolean);
    const has = ({ rule }: StandingRule): boolean => {
      const text = [
        ...[rule.title, rule.note ?? '', rule.provenance].map((one) => this.derived.told(one)),
        rule.section ?? '',
        rule.key,
        ...(rule.options ?? []).map((option) => this.derived.told(option.text)),
      ]
        .join(' ')
        .toLowerCase();
      return words.every((word) => text.includes(word));
    };
    const found = standing.filter(has);
    const changed = found.filter(({ override }) => override);
    const isOf = (id: string, { rule, override }: StandingRule): boolean =>
      !override && rule.key.split('.')[0] === id;
    return [
      { id: 'changed', title: 'Changed for this house', entries: changed },
      ...(this.jurisdiction()?.chapters ?? []).map((chapter) => ({
        ...chapter,
        entries: found.filter((one) => isOf(chapter.id, one)),
      })),
    ].filter(({ entries }) => entries.length > 0);
  });
  protected readonly base = computed(() => this.derived.reader()?.rules().base ?? USUAL_EDITION);
  /** The code of another country that was picked and not taken yet. */
  protected readonly asked = signal<Asked | undefined>(undefined);
  protected readonly findings = computed(() => this.derived.reader()?.derive(RULE_FINDINGS, '') ?? []);
  protected readonly problem = signal<{ key: string; message: string } | undefined>(undefined);

  protected list(bundles: readonly Parameters<typeof bundleText>[0][]): string {
    return bundles.map((bundle) => bundleText(bundle)).join($localize` or `);
  }
  protected shown(rule: Rule, value: RuleValueType): string {
    return this.derived.told(valueText(rule, value));
  }

  protected countryOf(base: RulebookBase): string {
    return jurisdictionOf(base).name;
  }
  protected isAllKept({ unkept }: Asked): boolean {
    return unkept.rules.length + unkept.cables.length + unkept.boxes.length === 0;
  }
  /** A code of its own that the house goes by. */
  protected readonly ownCode = computed(() => this.derived.reader()?.rules().code);
  protected readonly codeProblems = signal<readonly { message: string; path: string }[]>([]);
  protected saveCode(): void {
    const reader = this.derived.reader();
    if (!reader) return;
    const code = codeFileOf(reader);
    saveText(`${code.edition} rules.json`, JSON.stringify(code, null, 1), 'application/json');
  }
  /** Rules from a file: said first what they take, changed once that is told. */
  protected async takeCode(file: File): Promise<void> {
    const reader = this.derived.reader();
    if (!reader) return;
    this.asked.set(undefined);
    const read = readCodeFile(await file.text());
    this.codeProblems.set(read.ok ? [] : read.problems.slice(0, 12));
    if (!read.ok) return;
    const { code } = read;
    const moved = toAnotherCode(reader, code.basedOn, code);
    this.asked.set({ ...moved, base: code.basedOn, name: code.edition });
  }
  /** Another edition at once; the code of another country once it has been said what that takes. */
  protected setBase(base: RulebookBase): void {
    const reader = this.derived.reader();
    if (!reader) return;
    this.asked.set(undefined);
    if (base === this.base() && !this.ownCode()) return;
    const moved = toAnotherCode(reader, base);
    if (moved.change.kind !== 'group') this.desk.make(moved.change);
    else this.asked.set({ ...moved, base, name: editionName(base) });
  }
  protected takeBase(): void {
    const asked = this.asked();
    if (!asked) return;
    const title = $localize`Rules: ${asked.name}`;
    const refusal = this.desk.make(asked.change.kind === 'group' ? { ...asked.change, title } : asked.change);
    if (!refusal) this.asked.set(undefined);
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

import { TradePipe } from '../parts/trade';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { acceptanceOf, adding, boxName } from '@mule-tally/core';
import type { ReadyCode, ReadyLine, ReadyWho } from '@mule-tally/core/work';
import { HOME_RUN_STEP, SECURED_STEP, sentence } from '@mule-tally/core/work';
import { FindingCard } from '../parts/finding-card';
import { OnlyFor } from '../parts/only-for';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenHouse } from '../state/open-house';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { Workbench } from '../work/workbench';

const SAID: Readonly<Record<ReadyCode, string>> = {
  stops: $localize`Stops: not to be covered up`,
  fixes: $localize`Fixes: to be put right, or accepted with a reason`,
  runs: $localize`Runs that are not in`,
  walk: $localize`Circuits not walked`,
  boxes: $localize`Boxes not made up`,
  'ring-out': $localize`Circuits not rung out good`,
  drilled: $localize`Walls not ticked: bored in the middle, plates on`,
  sealed: $localize`Walls not ticked: holes through plates sealed`,
  secured: $localize`Rooms not ticked: cable secured`,
  'home-runs': $localize`Home runs without number and room at the panel`,
  photos: $localize`Walls without a photo`,
  joins: $localize`Joins of a live test left in`,
  nameplates: $localize`Nameplates nobody has read`,
  asks: $localize`Blocking not there yet`,
  'write-ups': $localize`Write-ups to fix`,
  'look-again': $localize`Fixed write-ups to be looked at again`,
  'stops-allowed': $localize`Stops that an inspector allowed`,
  'extras-asked': $localize`Extras without a yes`,
  'extras-to-do': $localize`Extras agreed on, not done`,
};

const WHO: Readonly<Record<ReadyWho, string>> = {
  hand: $localize`Any hand`,
  lead: $localize`A lead`,
  trade: $localize`Another trade`,
  inspector: $localize`The inspector`,
};
const ORDER: readonly ReadyWho[] = ['lead', 'hand', 'trade', 'inspector'];

/** Where a line is worked off: the stage beside this one, or a part of this one. */
const AT: Readonly<Record<ReadyCode, readonly [stage: string, query: Record<string, string | null>]>> = {
  stops: ['', { of: null }],
  fixes: ['', { of: null }],
  runs: ['../pull', {}],
  walk: ['../walk', {}],
  boxes: ['../make-up', {}],
  'ring-out': ['', { of: 'test', round: null }],
  drilled: ['../lay-out', { of: 'drill' }],
  sealed: ['../lay-out', { of: 'drill' }],
  secured: ['', {}],
  'home-runs': ['', {}],
  photos: ['', { of: 'walls' }],
  joins: ['', { of: 'test', round: 'live' }],
  nameplates: ['../lay-out', { of: 'asks' }],
  asks: ['../lay-out', { of: 'asks' }],
  'write-ups': ['', { round: 'write-ups' }],
  'look-again': ['', { round: 'write-ups' }],
  'stops-allowed': ['', { of: null }],
  'extras-asked': ['', { of: 'extras' }],
  'extras-to-do': ['', { of: 'extras' }],
};

/** As many places of a line as are named. */
const NAMED = 8;
/** Ticks that are on this sheet. */
const TICKED: Partial<Record<ReadyCode, { step: string; on: 'runId' | 'roomId'; act: string; how: string }>> =
  {
    'home-runs': {
      step: HOME_RUN_STEP,
      on: 'runId',
      act: $localize`Written`,
      how: $localize`Number and room stand on the sheath at the panel.`,
    },
    secured: {
      step: SECURED_STEP,
      on: 'roomId',
      act: $localize`Secured`,
      how: $localize`Held near every box and on the way, flat, never on edge, no sheath dented.`,
    },
  };

/** One sheet of what stands between the house and a passed rough-in, by who can do it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-ready-sheet',
  imports: [DatePipe, FindingCard, OnlyFor, RouterLink, ToldPipe, WordsPipe, TradePipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (groups(); as all) {
      <p class="verdict" [class.some]="open()">
        @if (open(); as count) {
          <strong>{{
            (count === 1 ? 'Not yet: one point is open.' : 'Not yet: {} points are open.') | words: count
          }}</strong>&ngsp;
        } @else {
          <strong i18n>Nothing that is known here stands in the way.</strong>&ngsp;
        }
        <span i18n class="soft"
          >Advice, of {{ house() }}: it approves nothing. Local code, the inspector and a licensed electrician
          decide.</span
        >
      </p>
      @if (!isNow()) {
        <p i18n role="status" class="soft no-print">Looking again…</p>
      }
      @for (group of all; track group.name) {
        <h2>
          {{ group.name }} <span class="num">{{ group.open || '' }}</span>
        </h2>
        <ul class="rows">
          @for (row of group.rows; track $index) {
            <li [attr.data-code]="row.code" [class.done]="!row.open">
              <span class="count num" [class.bad]="row.isStop">{{ row.count }}</span>
              <span class="what">
                {{ row.name }}
                @if (row.open && row.source) {
                  <span class="soft source">{{ row.source }}</span>
                }
                @if (row.places) {
                  <span class="soft places">{{ row.places }}</span>
                }
              </span>
              @if (row.tick; as tick) {
                <fieldset mtOnlyFor="hand">
                  <details class="adds no-print">
                    <summary i18n>Tick</summary>
                    <p>{{ tick.how | trade }}</p>
                    @if (tick.rule) {
                      <p class="soft">{{ tick.rule }}</p>
                    }
                    <div class="ticks">
                      @for (one of tick.each; track one.id) {
                        <button
                          type="button"
                          class="btn btn-line"
                          [attr.aria-label]="'{}: {1}' | words: one.name : tick.act"
                          (click)="tickOff(tick, [one.id])"
                        >
                          {{ one.name }}
                        </button>
                      }
                      @if (tick.each.length > 1) {
                        <button type="button" class="btn btn-main" (click)="tickOff(tick, tick.all)">
                          {{ 'All {}: {1}' | words: tick.all.length : tick.act }}
                        </button>
                      }
                    </div>
                  </details>
                </fieldset>
              } @else if (row.open) {
                <a
                  class="go no-print"
                  [routerLink]="row.stage ? row.stage : []"
                  [queryParams]="row.query"
                  queryParamsHandling="merge"
                  >{{ 'Go there' | words }}<span class="visually-hidden">: {{ row.name }}</span></a
                >
              }
            </li>
          }
        </ul>
      }
      @if (allowed().length) {
        <h2 i18n>Stops that an inspector allowed</h2>
        @for (one of allowed(); track $index) {
          <mt-finding [finding]="one.finding">
            <p class="bad">
              <strong i18n
                >Inspector allowed: {{ one.inspector.name }}, {{ one.inspector.on | date: 'd MMM y' }}. It
                stays a Stop.</strong
              >
            </p>
          </mt-finding>
        }
      }
      <button i18n type="button" class="btn btn-line no-print" (click)="print()">Print</button>
    } @else {
      <p i18n role="status" class="soft">Looking through the house…</p>
    }
  `,
  styleUrl: './paper-sheet.scss',
})
export class ReadySheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly crew = inject(Crew);
  private readonly view = inject(OpenHouse).view;
  private readonly workbench = inject(Workbench);
  protected readonly problem = signal<string | undefined>(undefined);
  private readonly look = answerTo<'ready'>(() => ({ about: 'ready' }));
  protected readonly isNow = this.look.isNow;
  protected readonly house = computed(() => this.view()?.head.name ?? '');

  private readonly lines = computed(() => (this.look.value() ?? []).filter(({ of }) => of > 0));
  /** What is to be looked at by the inspector stands in nobody's way here. */
  protected readonly open = computed(
    () =>
      this.lines()
        .filter(({ who }) => who !== 'inspector')
        .filter(({ open }) => open > 0).length,
  );
  protected readonly groups = computed(() => {
    if (!this.look.value()) return undefined;
    const groups = new Map<string, { name: string; rank: number; lines: ReadyLine[] }>();
    for (const one of this.lines()) {
      const key = one.personId ?? one.who;
      const name = one.personId ? this.crew.nameOf(one.personId) : WHO[one.who];
      const group = groups.get(key) ?? { name, rank: one.personId ? 1.5 : ORDER.indexOf(one.who), lines: [] };
      group.lines.push(one);
      groups.set(key, group);
    }
    return [...groups.values()]
      .sort((a, b) => a.rank - b.rank)
      .map(({ name, lines }) => ({
        name,
        open: lines.reduce((sum, { open }) => sum + open, 0),
        // What is done stands last.
        rows: lines
          .map((one) => this.row(one))
          .toSorted((a, b) => Number(a.open === 0) - Number(b.open === 0)),
      }));
  });

  /** What stays red though somebody allowed it: it stands on the sheet, and prints. */
  protected readonly allowed = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return (this.workbench.look()?.causes ?? []).flatMap(({ finding }) => {
      const inspector =
        finding.severity === 'stop' ? acceptanceOf(reader, finding)?.accepted?.inspector : undefined;
      return inspector ? [{ finding, inspector }] : [];
    });
  });

  private row(one: ReadyLine) {
    const { code, open, of, ids, source } = one;
    const [stage, query] = AT[code];
    const words = this.derived.words();
    const tick = open ? TICKED[code] : undefined;
    const named = ids
      .slice(0, NAMED)
      .map((id) => this.nameOf(id))
      .filter(Boolean);
    const more = ids.length - NAMED;
    return {
      code,
      open,
      name: this.derived.inTrade(SAID[code]),
      isStop: code === 'stops' || code === 'stops-allowed',
      count: open ? (open === of ? `${open}` : $localize`${open} of ${of}`) : '✓',
      source: source && words ? words.source(source) : undefined,
      places: tick
        ? undefined
        : more > 0
          ? $localize`${named.join(', ')} and ${more} more`
          : named.join(', '),
      stage,
      query: { ...query, ...this.first(code, ids) },
      tick: tick && {
        ...tick,
        all: ids,
        rule: code === 'secured' ? this.securing() : undefined,
        each: ids.map((id) => ({ id, name: this.nameOf(id) })),
      },
    };
  }

  /** How near and how often cable is held, by the rules of this house. */
  private securing(): string {
    const reader = this.derived.reader();
    if (!reader) return '';
    const [rules, units] = [reader.rules(), this.derived.units()];
    const at = (key: string): string => units.short(rules.number(key));
    return $localize`Within ${at('secure.fromBox')} of a box, ${at('secure.fromPlainBox')} of a single-gang one without a clamp, then every ${at('secure.every')} (${rules.cite('secure.fromBox')}).`;
  }

  /** To the first place in which it is open. */
  private first(code: ReadyCode, [id]: readonly string[]): Record<string, string> {
    const reader = this.derived.reader();
    if (!reader || !id) return {};
    if (reader.get('rooms', id)) return { room: id };
    if (reader.get('circuits', id)) return { circuit: id };
    const box = reader.get('boxes', id);
    if (code === 'boxes' && box) return { box: id, ...(box.roomId && { room: box.roomId }) };
    const run = code === 'runs' ? reader.get('runs', id) : undefined;
    const room = run && reader.get('boxes', run.to.boxId)?.roomId;
    return room ? { room } : {};
  }

  private nameOf(id: string): string {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    if (!reader || !say) return '';
    if (reader.get('boxes', id)) return boxName(reader, id);
    if (reader.get('circuits', id)) return sentence(say.circuit(id));
    const run = reader.get('runs', id);
    if (run) return `${boxName(reader, run.from.boxId)} → ${boxName(reader, run.to.boxId)}`;
    const asked = reader.get('asks', id);
    return (
      reader.get('rooms', id)?.name ??
      reader.get('writeUps', id)?.words.slice(0, 60) ??
      reader.get('extras', id)?.what ??
      (asked?.roomId && reader.get('rooms', asked.roomId)?.name) ??
      asked?.note ??
      ''
    );
  }

  protected tickOff(
    { step, on, act }: { step: string; on: string; act: string },
    ids: readonly string[],
  ): void {
    const at = new Date().toISOString();
    const by = this.session.who().id;
    const changes = ids.map((id) =>
      adding('records', { id: crypto.randomUUID(), kind: 'tick', at, by, step, [on]: id }),
    );
    this.problem.set(
      this.desk.make(
        changes.length === 1
          ? changes[0]!
          : { kind: 'group', title: $localize`${act}\: ${changes.length}`, changes },
      )?.message,
    );
  }

  protected print(): void {
    window.print();
  }
}

import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { Finding, HouseReader } from '@mule-tally/core';
import { SEVERITY_RANK, acceptanceOf, roomOf } from '@mule-tally/core';
import { sentence } from '@mule-tally/core/work';
import { OnPlan } from '../parts/on-plan';
import { FindingCard } from '../parts/finding-card';
import { FindingLeft } from '../parts/finding-left';
import { Screen } from '../parts/screen';
import { firstOf, soon } from '../parts/soon';
import { StruckLine } from '../parts/struck-line';
import { Tabs } from '../parts/tabs';
import { Value } from '../parts/value';
import { Derived } from '../state/derived';
import { Workbench } from '../work/workbench';
import { BoardSheet } from './board-sheet';
import { ExtrasSheet } from './extras-sheet';
import { InspectionSheet } from './inspection-sheet';
import { FindSheet } from './find-sheet';
import { FlipSwitches } from './flip-switches';
import { TestRounds } from './test-rounds';
import { WallsSheet } from './walls-sheet';

const roomIdOf = (reader: HouseReader, { where }: Finding): string | undefined => {
  const run = where.runId ? reader.get('runs', where.runId) : undefined;
  const boxId = where.boxId ?? run?.to.boxId;
  return where.roomId ?? (boxId ? roomOf(reader, boxId)?.id : undefined);
};

/** The circuit that a finding is about: the one it names, or that of its run. */
const circuitIdOf = (reader: HouseReader, { where }: Finding): string | undefined =>
  where.circuitId ?? (where.runId ? reader.get('runs', where.runId)?.circuitIds[0] : undefined);

/** Causes that are drawn at once. */
const FIRST = 3;

interface Entry {
  readonly finding: Finding;
  readonly follows: readonly Finding[];
  readonly boxId: string | undefined;
  readonly roomId: string | undefined;
  readonly circuitId: string | undefined;
  readonly rooms: ReadonlySet<string | undefined>;
  readonly tag: string | undefined;
  /** A lead has accepted it as it is. */
  readonly isAccepted: boolean;
}

/** By severity; what is accepted is counted apart, a Stop stays one. */
function countsOf(entries: readonly Entry[]): Record<Finding['severity'], number> {
  const counts = { stop: 0, fix: 0, note: 0 };
  for (const { finding, isAccepted } of entries) if (!isAccepted) counts[finding.severity]++;
  return counts;
}

/**
 * Everything found in the house by the mistake behind it, the gravest first, each with where it is, its ways out, and what shows
 * only because of it.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-check',
  imports: [
    WordsPipe,
    FindingCard,
    FindingLeft,
    OnPlan,
    RouterLink,
    StruckLine,
    Tabs,
    FlipSwitches,
    Value,
    WallsSheet,
    BoardSheet,
    TestRounds,
    FindSheet,
    InspectionSheet,
    ExtrasSheet,
  ],
  template: `
    <h1 i18n>Check</h1>
    <mt-tabs [tabs]="tabs" [shown]="shownPart()" param="of" i18n-label label="Parts of the check">
      @if (shownPart() === 'switching') {
        <mt-flip-switches [room]="room()" [wanted]="circuit()" />
      } @else if (shownPart() === 'ready') {
        <mt-inspection-sheet [room]="room()" [round]="round()" [box]="box()" />
      } @else if (shownPart() === 'extras') {
        <mt-extras-sheet [room]="room()" [box]="box()" />
      } @else if (shownPart() === 'test') {
        <mt-test-rounds [circuit]="circuit()" [round]="round()" />
      } @else if (shownPart() === 'find') {
        <mt-find-sheet [circuit]="circuit()" />
      } @else if (shownPart() === 'walls') {
        <mt-walls-sheet [room]="room()" [wall]="wall()" [photo]="photo()" [box]="box()" />
      } @else if (shownPart() === 'board') {
        <mt-board-sheet [room]="room()" [run]="run()" />
      } @else {
        <p class="counts">
          <strong i18n class="num stop">{{ counts().stop }} Stop</strong> ·
          <strong i18n class="num fix">{{ counts().fix }} Fix</strong> ·
          <strong i18n class="num">{{ counts().note }} Note</strong>
          @if (accepted(); as count) {
            ·
            <strong i18n class="num">{{ count }} accepted</strong>
          }
        </p>
        <div class="tabs">
          <button
            i18n
            type="button"
            class="btn btn-line"
            [class.active]="!onlyHere()"
            [attr.aria-pressed]="!onlyHere()"
            (click)="onlyHere.set(false)"
          >
            Whole house
          </button>
          <button
            type="button"
            class="btn btn-line"
            [class.active]="onlyHere()"
            [attr.aria-pressed]="onlyHere()"
            (click)="onlyHere.set(true)"
          >
            {{ roomName() }}
          </button>
          <label class="by"
            ><span i18n class="visually-hidden">Grouped by</span>
            <select class="form-select" [mtValue]="by()" (mtValueChange)="by.set($event)">
              <option i18n value="room">By room</option>
              <option i18n value="circuit">By circuit</option>
            </select></label
          >
        </div>
        @if (workbench.broken(); as reason) {
          <p role="alert" class="broken">
            <ng-container i18n>The house could not be looked through ({{ reason }}).</ng-container>&ngsp;
            <button i18n type="button" class="btn btn-line" (click)="workbench.again()">Look again</button>
          </p>
        } @else if (workbench.progress(); as progress) {
          <p role="status" class="soft">
            <ng-container i18n>Looking through the house…</ng-container>
            <progress
              [value]="progress.done"
              [max]="progress.of"
              i18n-aria-label
              aria-label="Looked through"
            ></progress>
          </p>
        }
        <mt-on-plan [room]="room()" [marked]="found()" (picked)="show($event)" />
        @for (group of drawn(); track group.name) {
          <h2 class="group">
            {{ group.name }} <span class="num">{{ group.counted }}</span>
          </h2>
          @for (entry of group.entries; track $index) {
            <mt-finding [finding]="entry.finding">
              <mt-finding-left [finding]="entry.finding" />
              @if (entry.finding.code === 'run.struck' && entry.finding.where.runId; as runId) {
                <mt-struck-line [runId]="runId" />
              }
              <div class="ways">
                @if (entry.finding.code === 'box.buried') {
                  <a
                    i18n
                    class="go"
                    [routerLink]="[]"
                    [queryParams]="{ of: 'board', room: entry.roomId }"
                    queryParamsHandling="merge"
                    >Find it, and tick that it shows</a
                  >
                }
                @if (entry.boxId) {
                  <a
                    i18n
                    class="go"
                    routerLink="../make-up"
                    [queryParams]="{ room: entry.roomId, box: entry.boxId }"
                    queryParamsHandling="merge"
                    >Open {{ entry.tag }}</a
                  >
                }
                @if (entry.finding.where.circuitId) {
                  <a
                    i18n
                    class="go"
                    routerLink="../pull"
                    [queryParams]="{ circuit: entry.finding.where.circuitId }"
                    queryParamsHandling="merge"
                    >Runs of the circuit</a
                  >
                  <a
                    i18n
                    class="go"
                    [routerLink]="[]"
                    [queryParams]="{ of: 'switching', circuit: entry.finding.where.circuitId }"
                    queryParamsHandling="merge"
                    >Flip its switches</a
                  >
                }
              </div>
              @if (entry.follows.length) {
                <details class="follows">
                  <summary>
                    {{
                      (entry.follows.length === 1 ? '1 follows from this' : '{} follow from this')
                        | words: entry.follows.length
                    }}
                  </summary>
                  @for (follow of entry.follows; track $index) {
                    <mt-finding [finding]="follow" />
                  }
                </details>
              }
            </mt-finding>
          }
        } @empty {
          @if (workbench.look() && !workbench.progress()) {
            <p i18n>Nothing found. That is not an approval.</p>
          }
        }
        <p i18n class="soft">
          Advice by the rules of the chosen edition as this product knows them. It approves nothing: local
          code, the inspector and a licensed electrician decide. Stop means: do not cover this up.
        </p>
        @if (screen.isPhone() && groups()[0]?.entries?.[0]; as first) {
          @if (first.boxId) {
            <div class="act-bar">
              <a
                i18n
                class="btn btn-main"
                routerLink="../make-up"
                [queryParams]="{ room: first.roomId, box: first.boxId }"
                queryParamsHandling="merge"
                >Go to {{ first.tag }}</a
              >
            </div>
          }
        }
      }
    </mt-tabs>
  `,
  styles: `
    .broken {
      color: var(--alert);
      font-weight: 700;
    }
    progress {
      width: 9rem;
      vertical-align: middle;
      accent-color: var(--chalk);
    }
    .counts {
      margin: 0 0 0.4rem;
      font-size: 1.2rem;
    }
    .counts .stop {
      color: var(--alert);
    }
    .counts .fix {
      color: var(--attention);
    }
    .group .num {
      font-size: 1.2rem;
      white-space: nowrap;
    }
    .group {
      display: flex;
      align-items: baseline;
      justify-content: space-between;
      gap: 0.6rem;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 1rem;
      margin-top: 8px;
    }
    .follows {
      margin-top: 0.4rem;
      border-left: 3px solid var(--rule);
      padding-left: 0.8rem;
    }
    .follows > summary {
      min-height: 44px;
      display: flex;
      align-items: center;
      cursor: pointer;
      font-weight: 600;
    }
    .follows > summary::before {
      content: '';
      width: 0.55rem;
      height: 0.55rem;
      margin-right: 0.6rem;
      border: solid currentColor;
      border-width: 0 2px 2px 0;
      transform: rotate(-45deg);
    }
    .follows[open] > summary::before {
      transform: rotate(45deg);
    }
    .go {
      display: inline-flex;
      align-items: center;
      min-height: 44px;
    }
    @media (max-width: 760px) {
      .go,
      .follows > summary {
        min-height: 56px;
      }
      .group {
        align-items: baseline;
      }
    }
  `,
})
export class CheckSheet {
  private readonly derived = inject(Derived);
  protected readonly workbench = inject(Workbench);
  readonly room = input<string>();
  readonly circuit = input<string>();
  readonly of = input<string>();
  readonly round = input<string>();
  readonly wall = input<string>();
  readonly photo = input<string>();
  readonly box = input<string>();
  readonly run = input<string>();
  protected readonly tabs = [
    { id: 'found', name: $localize`Punch list` },
    { id: 'ready', name: $localize`Ready for inspection?` },
    { id: 'extras', name: $localize`Extras` },
    { id: 'switching', name: $localize`Flip the switches` },
    { id: 'test', name: $localize`Test` },
    { id: 'find', name: $localize`Find the fault` },
    { id: 'walls', name: $localize`Open walls` },
    { id: 'board', name: $localize`After the board` },
  ];
  protected readonly shownPart = computed(() => this.tabs.find(({ id }) => id === this.of())?.id ?? 'found');
  protected readonly onlyHere = signal(false);
  protected readonly roomName = computed(
    () => this.derived.reader()?.get('rooms', this.room() ?? '')?.name ?? $localize`This room`,
  );
  protected readonly shown = computed((): readonly Entry[] => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return (this.workbench.look()?.causes ?? [])
      .map(({ finding, follows }) => {
        const boxId = finding.where.boxId;
        return {
          finding,
          follows,
          boxId,
          roomId: roomIdOf(reader, finding),
          circuitId: circuitIdOf(reader, finding),
          rooms: new Set([finding, ...follows].map((one) => roomIdOf(reader, one))),
          tag: boxId ? reader.get('boxes', boxId)?.tag : undefined,
          isAccepted: finding.severity === 'fix' && acceptanceOf(reader, finding) !== undefined,
        };
      })
      .filter((entry) => !this.onlyHere() || entry.rooms.has(this.room()));
  });
  /** Boxes in which something was found, as the plan marks them. */
  protected readonly found = computed(() => this.shown().flatMap(({ boxId }) => boxId ?? []));
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  /** The box that is touched on the plan is made up, or looked at. */
  protected show(boxId: string): void {
    const room = this.derived.reader()?.get('boxes', boxId)?.roomId;
    void this.router.navigate(['..', 'make-up'], {
      relativeTo: this.route,
      queryParams: { ...(room && { room }), box: boxId },
      queryParamsHandling: 'merge',
    });
  }
  /** What is below the first causes comes after these have been drawn. */
  private readonly isWhole = soon();
  protected readonly drawn = computed(() => {
    return this.isWhole() ? this.groups() : firstOf(this.groups(), 'entries', FIRST);
  });
  protected readonly screen = inject(Screen);
  protected readonly counts = computed(() => countsOf(this.shown()));
  protected readonly accepted = computed(() => this.shown().filter(({ isAccepted }) => isAccepted).length);
  protected readonly by = signal<'room' | 'circuit'>('room');
  /** Causes by room (in walking order) or by circuit; where the gravest is comes first. */
  protected readonly groups = computed(() => {
    const reader = this.derived.reader();
    const words = this.derived.words();
    if (!reader || !words) return [];
    const byRoom = this.by() === 'room';
    const groups = new Map<string, Entry[]>();
    for (const entry of this.shown()) {
      const id = byRoom ? entry.roomId : entry.circuitId;
      groups.set(id ?? '', [...(groups.get(id ?? '') ?? []), entry]);
    }
    const place = (id: string): number =>
      (byRoom ? reader.get('rooms', id)?.order : reader.get('circuits', id)?.number) ?? Infinity;
    const gravest = (entries: readonly Entry[]): number =>
      Math.min(
        ...entries.map(({ finding, isAccepted }) => SEVERITY_RANK[isAccepted ? 'note' : finding.severity]),
      );
    return [...groups]
      .sort(([a, as], [b, bs]) => gravest(as) - gravest(bs) || place(a) - place(b))
      .map(([id, entries]) => {
        const counts = countsOf(entries);
        return {
          name: id
            ? byRoom
              ? (reader.get('rooms', id)?.name ?? '')
              : sentence(words.say.circuit(id))
            : byRoom
              ? $localize`No one room`
              : $localize`No one circuit`,
          counted: [
            counts.stop && $localize`${counts.stop} Stop`,
            counts.fix && $localize`${counts.fix} Fix`,
            counts.note && $localize`${counts.note} Note`,
          ]
            .filter(Boolean)
            .join(' · '),
          // What is accepted stands last.
          entries: entries.toSorted((a, b) => Number(a.isAccepted) - Number(b.isAccepted)),
        };
      });
  });
}

import { ReelQuestions } from '../parts/reel-questions';
import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { ListedRun } from '@mule-tally/core/work';
import { boxFacts, roomName } from '@mule-tally/core';
import type { CutPart } from '@mule-tally/core/work';
import { CUT_STEP, cutOf, sentence } from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { noWayText, toWrite, waySteps, wayText } from '../parts/way-text';
import { CableChip } from '../parts/cable-chip';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Reels } from '../state/reels';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { loggedPull, withReel } from './log-pull';
import { TradePipe } from '../parts/trade';
import { Strikes, StruckLine } from '../parts/struck-line';
import { slotsOf } from './slots-of';

/** What the parts of a length are called. */
const PARTS: Readonly<Record<CutPart['part'], string>> = {
  across: $localize`along and across`,
  rise: $localize`up and down`,
  sheath: $localize`sheath in the boxes`,
  free: $localize`free conductor`,
  'tail-light': $localize`tail at the light`,
  'tail-panel': $localize`tail at the panel`,
  droop: $localize`droop`,
  habit: $localize`as this crew pulls`,
  round: $localize`rounded up`,
};

/** The next run to pull, in a glove: from where to where, which cable, how long; in with one touch. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-next-pull',
  imports: [ReelQuestions, StruckLine, TermPipe, TradePipe, WordsPipe, CableChip, Value],
  template: `
    @if (shown(); as run) {
      <p class="of">
        <span class="cut">{{ run.circuit }}</span>
        <strong i18n class="num">{{ number() }} of {{ of() }}</strong>
      </p>
      <div class="ends">
        <p>
          <strong>{{ run.from.tag }}</strong> <span class="soft">{{ run.from.room }}</span>
        </p>
        <p>
          <strong><span aria-hidden="true">→ </span>{{ run.to.tag }}</strong>
          <span class="soft">{{ run.to.room }}</span>
        </p>
      </div>
      <p class="cable">
        @if (run.cable) {
          <mt-cable [cable]="run.cable" />
        } @else {
          <span class="soft">{{ run.isRaceway ? ('raceway' | term) : ('cable not chosen' | words) }}</span>
        }
        @if (run.length) {
          <span class="num feet">{{ run.length }}</span>
          @if (run.isEstimate) {
            <span i18n class="soft small">estimated</span>
          }
        }
      </p>
      <mt-struck-line [runId]="listed().runId" />
      @if (listed().state === 'part') {
        <p i18n class="needs">Part of the way is in.</p>
      }
      @if (run.needs) {
        <p i18n class="needs">
          needs <span class="num">{{ run.needs }}</span>
        </p>
      }
      <p class="way">
        {{ (run.isPower ? 'Power: feed in and on.' : 'Leg or travelers, after power.') | words }}<br />
        {{ run.way }}
        <span class="soft">· {{ run.slots }}</span>
      </p>
      @if (run.write) {
        <p class="write">
          {{ (run.isHome ? 'Write on sheath and stud: {}' : 'Write on it: {}') | words: run.write }}
        </p>
      }
      @if (reels().length) {
        <label class="reel"
          ><span i18n>From reel</span>
          <select class="form-select" [mtValue]="reelId()" (mtValueChange)="picked.set($event)">
            <option i18n value="">not said</option>
            @for (reel of reels(); track reel.id) {
              <option [value]="reel.id">{{ reel.name }} ({{ reel.left }})</option>
            }
          </select></label
        >
        @if (isTooShort()) {
          <p i18n class="needs">Less than that is left on it.</p>
        }
        @if (reelId(); as id) {
          <mt-reel-questions [reelId]="id" />
        }
      }
      @if (longest(); as length) {
        <p class="needs">
          {{
            'Longer than any reel or new coil ({}): bring one that is long enough, no splice in the wall.'
              | words: length
          }}
        </p>
      }
      @if (run.parts.length) {
        <details class="parts">
          <summary i18n>What the length is made of</summary>
          <table class="ledger">
            <tbody>
              @for (part of run.parts; track part.part) {
                <tr>
                  <td>{{ partNames[part.part] | trade }}</td>
                  <td class="right num">{{ part.length }}</td>
                </tr>
              }
            </tbody>
          </table>
          @if (run.noWay; as sentence) {
            <p class="soft">{{ sentence }}</p>
          }
          @if (run.steps.length) {
            <h3 i18n>Its way, stretch by stretch</h3>
            <ol>
              @for (step of run.steps; track $index) {
                <li>{{ step }}</li>
              }
            </ol>
          }
        </details>
      }
      @if (isWrong()) {
        <div class="problem" role="group" i18n-aria-label aria-label="Problem">
          <button i18n type="button" class="btn btn-line" (click)="log('part')">
            Short: only part of the way
          </button>
          <button i18n type="button" class="btn btn-line" (click)="other.emit(); isWrong.set(false)">
            Other cable, marks or length
          </button>
          <button i18n type="button" class="btn btn-line" (click)="later.emit(); isWrong.set(false)">
            Later
          </button>
          @if (listed().state === 'part') {
            <button i18n type="button" class="btn btn-line" (click)="cutOff()">Cut by another trade</button>
          }
        </div>
      }
      @if (!rights.isViewer()) {
        <div class="act-bar shown">
          <button
            i18n
            type="button"
            class="btn btn-line"
            [attr.aria-expanded]="isWrong()"
            (click)="isWrong.set(!isWrong())"
          >
            Problem
          </button>
          <button i18n type="button" class="btn btn-main" (click)="log('in')">In</button>
        </div>
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
    .cut {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .of strong {
      white-space: nowrap;
    }
    .ends {
      margin: 0.6rem 0 0.4rem;
    }
    .ends p {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 0.7rem;
      line-height: 1.25;
    }
    .ends strong {
      font-family: var(--figures);
      font-size: 32px;
      overflow-wrap: anywhere;
    }
    .cable {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 0.2rem 1rem;
      font-size: 32px;
      line-height: 1.2;
    }
    .feet {
      font-size: 32px;
    }
    .needs {
      color: var(--alert);
      font-weight: 700;
    }
    .way {
      margin-top: 0.5rem;
    }
    .small {
      font-size: 1rem;
    }
    .write {
      font-weight: 700;
    }
    .reel {
      display: flex;
      align-items: center;
      gap: 0.6rem;
      margin: 8px 0;
      max-width: 26rem;
    }
    .reel select {
      flex: 1;
    }
    .parts table {
      max-width: 24rem;
    }
    @media (min-width: 761px) {
      :host {
        display: block;
        border-bottom: 1.5px solid var(--ink);
        padding-bottom: 0.8rem;
        margin-bottom: 0.6rem;
      }
      .ends {
        display: flex;
        gap: 1.6rem;
      }
    }
    .problem {
      display: flex;
      flex-direction: column;
      gap: 8px;
      margin-top: 0.6rem;
    }
  `,
})
export class NextPull {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly strikes = inject(Strikes);
  private readonly session = inject(Session);
  protected readonly rights = inject(Rights);
  protected readonly partNames = PARTS;
  readonly listed = input.required<ListedRun>();
  /** Which one it is, of how many, in its circuit. */
  readonly number = input.required<number>();
  readonly of = input.required<number>();
  readonly other = output();
  readonly later = output();
  private readonly known = inject(Reels);
  protected readonly isWrong = signal(false);

  constructor() {
    this.known.want();
  }

  protected readonly shown = computed(() => {
    const reader = this.derived.reader();
    const listed = this.listed();
    const run = reader?.get('runs', listed.runId);
    if (!reader || !run) return undefined;
    const phrases = this.derived.phrases();
    const circuit = listed.circuitId ? reader.get('circuits', listed.circuitId) : undefined;
    const end = (boxId: string) => ({
      tag: reader.get('boxes', boxId)?.tag ?? '',
      room: roomName(reader, boxId),
    });
    const cable = listed.planned ?? listed.needed;
    const units = this.derived.units();
    const cut = cutOf(reader, run);
    return {
      circuit: circuit ? sentence(phrases.circuit(circuit.number, circuit.name)) : $localize`No circuit yet`,
      from: end(run.from.boxId),
      to: end(run.to.boxId),
      cable,
      isRaceway: run.kind === 'raceway',
      isCable: run.kind === 'cable',
      needs: listed.needed && listed.needed !== cable ? listed.needed : undefined,
      length: listed.plannedIn === undefined ? undefined : units.long(listed.plannedIn),
      lengthIn: listed.plannedIn ?? 0,
      isEstimate: listed.isEstimate === true,
      way: this.derived.inTrade(wayText(reader, run, cut.way)),
      steps: waySteps(reader, units, cut.way).map((step) => this.derived.inTrade(step)),
      noWay: run.kind === 'raceway' ? undefined : noWayText(cut.way),
      parts: (run.kind === 'raceway' ? [] : cut.parts).map(({ part, lengthIn }) => ({
        part,
        length: units.short(lengthIn),
      })),
      write: toWrite(reader, run),
      isHome: [run.from.boxId, run.to.boxId].some(
        (id) => boxFacts(reader, reader.get('boxes', id)!).kind === 'panel',
      ),
      isPower: listed.role === 'power',
      slots: slotsOf(reader, phrases, this.derived.glossary(), run),
    };
  });

  /** The reel that was picked; until then the one that this cable came off last. */
  protected readonly picked = signal<string | undefined>(undefined);
  protected readonly reels = computed(() => {
    const run = this.shown();
    if (!run?.isCable || !run.cable) return [];
    return this.known
      .all()
      .filter(({ reel, isInStock }) => isInStock && reel.cable === run.cable)
      .map(({ reel, leftIn }) => ({
        ...reel,
        leftIn,
        left: this.derived.units().long(Math.max(0, leftIn)),
      }));
  });
  protected readonly reelId = computed(() => {
    const reels = this.reels();
    const isThere = (id: string | undefined): boolean => reels.some((reel) => reel.id === id);
    const picked = this.picked();
    if (picked === '' || isThere(picked)) return picked ?? '';
    const last = this.derived
      .reader()
      ?.all('pulls')
      .findLast(({ reelId }) => isThere(reelId));
    return last?.reelId ?? '';
  });
  protected readonly isTooShort = computed(() => {
    const reel = this.reels().find(({ id }) => id === this.reelId());
    return reel !== undefined && reel.leftIn < (this.shown()?.lengthIn ?? 0);
  });

  /** How long the longest is that it could come off, where this run is longer still. */
  protected readonly longest = computed(() => {
    const [reader, run] = [this.derived.reader(), this.shown()];
    if (!reader || !run?.isCable) return undefined;
    const longestIn = Math.max(
      reader.rules().number('reel.coil') * 12,
      ...this.reels().map(({ leftIn }) => leftIn),
    );
    return run.lengthIn > longestIn ? this.derived.units().long(longestIn) : undefined;
  });

  /** One touch: the cable that is planned, by whoever works here. Where no cable is known it has to be asked for. */
  protected log(state: 'in' | 'part'): void {
    const [reader, run] = [this.derived.reader(), this.shown()];
    if (!reader || !run) return;
    this.isWrong.set(false);
    if (run.isCable && !run.cable) return this.other.emit();
    const reel = this.known.byId().get(this.reelId())?.reel;
    const told = {
      runId: this.listed().runId,
      cable: run.isRaceway ? undefined : run.cable,
      state,
      by: this.session.who().id,
      reel,
    };
    this.desk.make(withReel(reader, reel, [loggedPull(reader, told)]));
  }

  /** What hung there is scrap. */
  protected cutOff(): void {
    this.isWrong.set(false);
    this.strikes.strike(this.listed().runId, CUT_STEP);
  }
}

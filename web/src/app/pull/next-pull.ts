import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { ListedRun } from '@mule-tally/core/work';
import { roomName } from '@mule-tally/core';
import { sentence } from '@mule-tally/core/work';
import { CableChip } from '../parts/cable-chip';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { loggedPull } from './log-pull';
import { slotsOf } from './slots-of';

/** The next run to pull, in a glove: from where to where, which cable, how long; in with one touch. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-next-pull',
  imports: [TermPipe, WordsPipe, CableChip],
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
        <span class="num feet">{{ run.length ?? ('not measured' | words) }}</span>
      </p>
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
        {{ run.slots }}
        @if (run.label) {
          · {{ run.label }}
        }
      </p>
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
        </div>
      }
      @if (!rights.isViewer()) {
        <div class="act-bar">
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
  private readonly session = inject(Session);
  protected readonly rights = inject(Rights);
  readonly listed = input.required<ListedRun>();
  /** Which one it is, of how many, in its circuit. */
  readonly number = input.required<number>();
  readonly of = input.required<number>();
  readonly other = output();
  readonly later = output();
  protected readonly isWrong = signal(false);

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
    return {
      circuit: circuit ? sentence(phrases.circuit(circuit.number, circuit.name)) : $localize`No circuit yet`,
      from: end(run.from.boxId),
      to: end(run.to.boxId),
      cable,
      isRaceway: run.kind === 'raceway',
      isCable: run.kind === 'cable',
      needs: listed.needed && listed.needed !== cable ? listed.needed : undefined,
      length: listed.plannedIn === undefined ? undefined : this.derived.units().long(listed.plannedIn),
      isPower: listed.role === 'power',
      slots: slotsOf(reader, phrases, this.derived.glossary(), run),
      label: run.label,
    };
  });

  /** One touch: the cable that is planned, by whoever works here. Where no cable is known it has to be asked for. */
  protected log(state: 'in' | 'part'): void {
    const run = this.shown();
    if (!run) return;
    this.isWrong.set(false);
    if (run.isCable && !run.cable) return this.other.emit();
    const told = {
      runId: this.listed().runId,
      cable: run.isRaceway ? undefined : run.cable,
      state,
      by: this.session.who().id,
    };
    this.desk.make(loggedPull(told));
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Finding, HouseReader } from '@mule-tally/core';
import { roomOf } from '@mule-tally/core';
import { FindingCard } from '../parts/finding-card';
import { Tabs } from '../parts/tabs';
import { Derived } from '../state/derived';
import { Workbench } from '../work/workbench';
import { ThrowLevers } from './throw-levers';

const roomIdOf = (reader: HouseReader, { where }: Finding): string | undefined => {
  const run = where.runId ? reader.get('runs', where.runId) : undefined;
  const boxId = where.boxId ?? run?.to.boxId;
  return where.roomId ?? (boxId ? roomOf(reader, boxId)?.id : undefined);
};

/**
 * Everything found in the house by the mistake behind it, the gravest first, each with where it is, its ways out, and what shows
 * only because of it.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-check',
  imports: [FindingCard, RouterLink, Tabs, ThrowLevers],
  template: `
    <h1>Check</h1>
    <p class="soft">
      Advice by the rules of the chosen edition as this product knows them. It approves nothing: local code,
      the inspector and a licensed electrician decide.
    </p>
    <mt-tabs
      [tabs]="tabs"
      [shown]="switching() ? 'switching' : 'found'"
      param="of"
      label="Parts of the check"
    >
      @if (switching()) {
        <mt-throw-levers [room]="room()" [wanted]="circuit()" />
      } @else {
        <div class="tabs">
          <button
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
          <span class="num tally"
            >{{ counts().stop }} stop · {{ counts().fix }} fix · {{ counts().note }} note</span
          >
        </div>
        @if (workbench.broken(); as reason) {
          <p role="alert" class="broken">
            The house could not be looked through ({{ reason }}).
            <button type="button" class="btn btn-line" (click)="workbench.again()">Look again</button>
          </p>
        } @else if (workbench.progress(); as progress) {
          <p role="status" class="soft">
            Looking through the house…
            <progress [value]="progress.done" [max]="progress.of" aria-label="Looked through"></progress>
          </p>
        }
        @for (entry of shown(); track $index) {
          <mt-finding [finding]="entry.finding">
            @if (entry.boxId) {
              <a
                class="go"
                routerLink="../make-up"
                [queryParams]="{ room: entry.roomId, box: entry.boxId }"
                queryParamsHandling="merge"
                >Open {{ entry.tag }}</a
              >
            }
            @if (entry.finding.where.circuitId) {
              <a
                class="go"
                routerLink="../pull"
                [queryParams]="{ circuit: entry.finding.where.circuitId }"
                queryParamsHandling="merge"
                >Runs of the circuit</a
              >
              <a
                class="go"
                [routerLink]="[]"
                [queryParams]="{ of: 'switching', circuit: entry.finding.where.circuitId }"
                queryParamsHandling="merge"
                >Throw its levers</a
              >
            }
            @if (entry.follows.length) {
              <details class="follows">
                <summary>
                  {{ entry.follows.length }} {{ entry.follows.length === 1 ? 'follows' : 'follow' }} from this
                </summary>
                @for (follow of entry.follows; track $index) {
                  <mt-finding [finding]="follow" />
                }
              </details>
            }
          </mt-finding>
        } @empty {
          @if (workbench.look() && !workbench.progress()) {
            <p>Nothing found. That is not an approval.</p>
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
    .tally {
      align-self: center;
      margin-left: 0.6rem;
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
      display: inline-block;
      padding: 0.6rem 1rem 0.3rem 0;
    }
  `,
})
export class CheckSheet {
  private readonly derived = inject(Derived);
  protected readonly workbench = inject(Workbench);
  readonly room = input<string>();
  readonly circuit = input<string>();
  readonly of = input<string>();
  protected readonly tabs = [
    { id: 'found', name: 'What was found' },
    { id: 'switching', name: 'Throw the levers' },
  ];
  protected readonly switching = computed(() => this.of() === 'switching');
  protected readonly onlyHere = signal(false);
  protected readonly roomName = computed(
    () => this.derived.reader()?.get('rooms', this.room() ?? '')?.name ?? 'This room',
  );
  protected readonly shown = computed(() => {
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
          rooms: new Set([finding, ...follows].map((one) => roomIdOf(reader, one))),
          tag: boxId ? reader.get('boxes', boxId)?.tag : undefined,
        };
      })
      .filter((entry) => !this.onlyHere() || entry.rooms.has(this.room()));
  });
  protected readonly counts = computed(() => {
    const counts = { stop: 0, fix: 0, note: 0 };
    for (const { finding } of this.shown()) counts[finding.severity]++;
    return counts;
  });
}

import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { runName, setting } from '@mule-tally/core';
import { wallNumber } from '@mule-tally/core/furnish';
import { routeRun, wallsOnWay } from '@mule-tally/core/work';
import { ToldPipe } from '../parts/term';
import { noWayText, waySteps } from '../parts/way-text';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';

/** The way of one run: stretch by stretch, what it takes, and what somebody wants of it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-way',
  imports: [ToldPipe, WordsPipe],
  template: `
    @if (shown(); as shown) {
      <section [attr.aria-label]="'Way of {}' | words: shown.name">
        <h2>
          {{ 'Way of {}' | words: shown.name }} <strong class="num">{{ shown.length }}</strong>
          <button i18n type="button" class="btn btn-line" (click)="closed.emit()">Close</button>
        </h2>
        @if (problem(); as sentence) {
          <p role="alert" class="problem">{{ sentence | told }}</p>
        }
        @for (sentence of shown.problems; track sentence) {
          <p class="problem">{{ sentence }}</p>
        }
        @if (shown.steps.length) {
          <ol>
            @for (step of shown.steps; track $index) {
              <li>{{ step }}</li>
            }
          </ol>
          <p class="soft">
            {{ (shown.holes === 1 ? '1 hole' : '{} holes') | words: shown.holes }}
            @if (shown.plates) {
              · {{ '{} to plate' | words: shown.plates }}
            }
            @if (shown.sealed) {
              · {{ '{} to seal' | words: shown.sealed }}
            }
            · {{ (shown.bends === 1 ? '1 bend' : '{} bends') | words: shown.bends }} ·
            {{ (shown.staples === 1 ? '1 staple' : '{} staples') | words: shown.staples }}
          </p>
        }
        @if (rights.isLead()) {
          @if (shown.steps.length) {
            <p i18n class="soft">Drag a dot of its line to force it through another place.</p>
          }
          @for (point of shown.points; track $index) {
            <p>
              <span i18n>Forced through a point {{ point }}</span>
              <button i18n type="button" class="btn btn-line" (click)="unforce($index)">Let go</button>
            </p>
          }
          @for (wall of shown.shut; track $index) {
            <p>
              <span i18n>Shut out: {{ wall }}</span>
              <button i18n type="button" class="btn btn-line" (click)="open($index)">Let in again</button>
            </p>
          }
          @if (shown.walls.length) {
            <p class="walls">
              <span i18n>Not through</span>
              @for (wall of shown.walls; track wall.key) {
                <button type="button" class="btn btn-line" (click)="shut(wall)">{{ wall.name }}</button>
              }
            </p>
          }
        }
      </section>
    }
  `,
  styles: `
    section {
      margin: 0 0 0.8rem;
    }
    h2 {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.2rem 0.8rem;
      margin: 0 0 0.3rem;
      font-size: 1.1rem;
    }
    h2 .btn {
      margin-left: auto;
    }
    ol {
      margin: 0 0 0.3rem;
      padding-left: 1.4rem;
    }
    p {
      margin: 0.2rem 0;
    }
    .walls {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class PlanWay {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  protected readonly rights = inject(Rights);
  readonly runId = input.required<string>();
  readonly closed = output();
  protected readonly problem = signal<string | undefined>(undefined);

  private readonly run = computed(() => this.derived.reader()?.get('runs', this.runId()));
  protected readonly shown = computed(() => {
    const [reader, run] = [this.derived.reader(), this.run()];
    if (!reader || !run) return undefined;
    const units = this.derived.units();
    const { cut, holes, plates, bends, staples } = routeRun(reader, run);
    const { way } = cut;
    const wallName = (roomId: string, corner: string): string => {
      const room = reader.get('rooms', roomId);
      return $localize`wall ${wallNumber(room, corner) ?? ''} of ${room?.name ?? ''}`;
    };
    const unreached = way.unreached ?? [];
    return {
      name: runName(reader, run),
      length: units.long(cut.lengthIn),
      steps: waySteps(reader, units, way).map((step) => this.derived.inTrade(step)),
      problems: [
        noWayText(way),
        cut.source === 'measured'
          ? $localize`Somebody measured it: that length wins over the way.`
          : undefined,
        way.isShut
          ? $localize`There is no way round what is shut out: it goes through all the same until another way is let in.`
          : undefined,
        unreached.length
          ? $localize`Cable cannot get to a point that it is forced through: what is there may not be bored, or is an opening. The way leaves it out, the point stays.`
          : undefined,
      ].filter((sentence) => sentence !== undefined),
      holes: holes.length,
      plates,
      sealed: holes.filter(({ isSealed }) => isSealed).length,
      bends,
      staples: staples.habit,
      points: (run.route ?? []).map((_point, at) =>
        unreached.includes(at) ? $localize`${at + 1} (left out)` : String(at + 1),
      ),
      shut: (run.shutOut ?? []).map(({ roomId, corner }) => wallName(roomId, corner)),
      walls: wallsOnWay(reader, run).map(({ roomId, corner }) => ({
        key: `${roomId} ${corner}`,
        roomId,
        corner,
        name: wallName(roomId, corner),
      })),
    };
  });

  private make(fields: { route?: unknown; shutOut?: unknown }): void {
    this.problem.set(this.desk.make(setting('runs', this.runId(), fields as never))?.message);
  }
  protected unforce(at: number): void {
    const route = (this.run()?.route ?? []).filter((_point, index) => index !== at);
    this.make({ route: route.length ? route : null });
  }
  protected open(at: number): void {
    const shutOut = (this.run()?.shutOut ?? []).filter((_wall, index) => index !== at);
    this.make({ shutOut: shutOut.length ? shutOut : null });
  }
  protected shut({ roomId, corner }: { roomId: string; corner: string }): void {
    this.make({ shutOut: [...(this.run()?.shutOut ?? []), { roomId, corner }] });
  }
}

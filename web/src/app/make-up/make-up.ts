import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterRenderEffect,
  computed,
  inject,
  input,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { RouterLink } from '@angular/router';
import { boxFacts, boxesInRoom, isLooseEnd } from '@mule-tally/core';
import { fillBox, makeUpBox } from '@mule-tally/core/work';
import { FillGauge } from '../parts/fill-gauge';
import { Screen } from '../parts/screen';
import { Derived } from '../state/derived';
import { Workbench } from '../work/workbench';
import { Bench } from './bench';

/** The boxes of a room, each with its fill, and the bench of the one that is open. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-make-up',
  imports: [NgTemplateOutlet, RouterLink, FillGauge, Bench],
  template: `
    <h1 [class.visually-hidden]="!!current()">{{ roomName() }}</h1>
    <div class="split" [class.open]="!!current()">
      <ng-template #line let-box>
        @let entry = entryOf(box);
        <a
          [routerLink]="[]"
          [queryParams]="{ box: entry.box.id }"
          queryParamsHandling="merge"
          [class.here]="entry.box.id === this.box()"
          [attr.aria-current]="entry.box.id === this.box() ? 'true' : null"
        >
          <span class="tag">{{ entry.box.tag }}</span>&ngsp;
          <span class="soft"
            >{{ entry.kind }}
            @if (!entry.complete) {
              · <em i18n>not all worked out</em>
            }
          </span>
          @if (entry.stops) {
            <span i18n class="stops">{{ entry.stops }} Stop</span>
          } @else if (entry.isMade) {
            <span i18n class="made">made ✓</span>
          }
          @if (entry.fill; as fill) {
            <mt-fill-gauge [fill]="fill" />
          } @else {
            <span i18n class="soft no-fill">no fill to count</span>
          }
        </a>
      </ng-template>
      <div class="list">
        <ul class="boxes" i18n-aria-label aria-label="Boxes of the room">
          @for (entry of left(); track entry.box.id) {
            <li>
              <ng-container [ngTemplateOutlet]="line" [ngTemplateOutletContext]="{ $implicit: entry }" />
            </li>
          }
          @if (!boxes().length) {
            <li i18n class="soft">No box in this room yet. Set boxes in Lay out.</li>
          }
        </ul>
        @if (done().length) {
          <details>
            <summary i18n>{{ done().length }} made up</summary>
            <ul class="boxes">
              @for (entry of done(); track entry.box.id) {
                <li>
                  <ng-container [ngTemplateOutlet]="line" [ngTemplateOutletContext]="{ $implicit: entry }" />
                </li>
              }
            </ul>
          </details>
        }
      </div>
      @if (current(); as id) {
        <section class="bench">
          <a i18n class="back" [routerLink]="[]" [queryParams]="{ box: null }" queryParamsHandling="merge"
            >‹ All boxes of the room</a
          >
          <mt-bench [boxId]="id" />
        </section>
      } @else if (boxes().length) {
        <p i18n class="soft hint">Pick a box to see how it is made up.</p>
      }
    </div>
  `,
  styles: `
    .split {
      display: grid;
      grid-template-columns: minmax(12rem, 15rem) minmax(0, 1fr);
      gap: 1.2rem;
      align-items: start;
    }
    .boxes {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .boxes a {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 0 0.6rem;
      align-items: baseline;
      padding: 0.5rem 0.6rem;
      min-height: 44px;
      color: var(--ink);
      text-decoration: none;
      border-bottom: 1px solid var(--rule);
      border-left: 0.4rem solid transparent;
    }
    .boxes a.here {
      border-left-color: var(--chalk);
      background: var(--paper-raised);
    }
    .boxes a:hover {
      background: var(--paper-raised);
    }
    .tag {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 1.3rem;
    }
    mt-fill-gauge,
    .stops {
      grid-column: 1 / 3;
    }
    .stops {
      color: var(--alert);
      font-weight: 700;
    }
    .made {
      color: var(--done);
      font-weight: 700;
    }
    summary {
      display: flex;
      align-items: center;
      cursor: pointer;
    }
    .back {
      display: none;
      min-height: 44px;
      align-items: center;
    }
    @media print {
      .split {
        display: block;
      }
      .boxes,
      .back {
        display: none !important;
      }
    }
    /* The picture of a box wants the width: the other boxes stand in a row above it. */
    @media (min-width: 1001px) and (max-width: 1600px) {
      .split.open {
        grid-template-columns: minmax(0, 1fr);
        gap: 0.6rem;
      }
      .split.open .boxes {
        display: flex;
        overflow-x: auto;
        border-bottom: 1.5px solid var(--rule);
      }
      .split.open .boxes li {
        flex: 0 0 auto;
        max-width: 15rem;
      }
      .split.open .boxes .stops {
        grid-column: auto;
      }
      .split.open .boxes mt-fill-gauge,
      .split.open .boxes .no-fill {
        display: none;
      }
      .split.open .boxes a {
        grid-template-columns: auto auto auto;
        height: 100%;
        align-content: center;
        border-bottom: 0;
        border-left: 0;
        border-top: 0.3rem solid transparent;
      }
      .split.open .boxes a.here {
        border-top-color: var(--chalk);
      }
    }
    @media (max-width: 1000px) {
      .split {
        grid-template-columns: minmax(0, 1fr);
      }
      .split.open .list,
      .split.open .hint {
        display: none;
      }
      .back {
        display: inline-flex;
      }
    }
    @media (max-width: 760px) {
      .back {
        display: none;
      }
    }
  `,
})
export class MakeUpSheet {
  private readonly derived = inject(Derived);
  private readonly workbench = inject(Workbench);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly room = input<string>();
  readonly box = input<string>();

  protected readonly roomName = computed(
    () => this.derived.reader()?.get('rooms', this.room() ?? '')?.name ?? '',
  );
  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    const roomId = this.room();
    if (!reader || !roomId) return [];
    const stops = this.workbench.look()?.stopsInBox;
    // At a loose end there is nothing to make up yet.
    const boxes = boxesInRoom(reader, roomId).filter(({ id }) => !isLooseEnd(reader, id));
    return boxes.map((box) => {
      const facts = boxFacts(reader, box);
      const made = makeUpBox(reader, box.id);
      return {
        box,
        kind: facts.gangs
          ? $localize`${facts.gangs} gang`
          : this.derived.inTrade(this.derived.told(facts.kind.replace('-', ' '))),
        fill: fillBox(reader, box.id),
        complete: made.complete,
        isMade: made.steps.length > 0 && made.steps.every((step) => step.made),
        stops: stops?.[box.id] ?? 0,
      };
    });
  });
  private readonly screen = inject(Screen);
  /** On a phone only what is left is listed; what is made up folds. */
  protected readonly left = computed(() =>
    this.screen.isPhone() ? this.boxes().filter(({ isMade }) => !isMade) : this.boxes(),
  );
  protected readonly done = computed(() =>
    this.screen.isPhone() ? this.boxes().filter(({ isMade }) => isMade) : [],
  );
  /** What a line is drawn from: a template does not know its types. */
  protected entryOf(entry: unknown): ReturnType<typeof this.boxes>[number] {
    return entry as ReturnType<typeof this.boxes>[number];
  }
  protected readonly current = computed(() => this.boxes().find(({ box }) => box.id === this.box())?.box.id);

  constructor() {
    // Where the boxes stand in a row, the open one may lie beyond its edge.
    afterRenderEffect(() => {
      if (!this.current()) return;
      const here = this.host.nativeElement.querySelector('.boxes .here');
      here?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  }
}

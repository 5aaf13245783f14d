import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterRenderEffect,
  computed,
  inject,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { storeyPlan } from '@mule-tally/core/furnish';
import { wayOnPlan } from '@mule-tally/core/work';
import { Derived } from '../state/derived';
import { PlanLines } from './plan-lines';
import { PlanRuns, drawnRuns } from './plan-ways';
import { SHOWN, pictureOf } from './plan-picture';
import { PlanZoom } from './plan-zoom';
import { WordsPipe } from './words';

/** The plan of a floor to look at: what matters where it is shown is marked, and nothing can be moved. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-view',
  imports: [PlanLines, PlanRuns, WordsPipe],
  template: `
    @if (picture(); as picture) {
      <svg #sheet role="group" [attr.aria-label]="'Plan of {}' | words: storeyName()">
        <g #layer>
          @for (room of picture.rooms; track room.id) {
            <polygon class="room" [class.chosen]="room.id === here()" [attr.points]="room.points" />
          }
          <svg:g mtPlanLines [picture]="picture"></svg:g>
          @for (points of litLines(); track $index) {
            <polyline class="lit" [attr.points]="points" />
          }
          <svg:g mtPlanRuns [runs]="runsShown()"></svg:g>
          @for (line of proposedShown(); track $index) {
            <line
              class="proposed"
              [attr.x1]="line.x1"
              [attr.y1]="line.y1"
              [attr.x2]="line.x2"
              [attr.y2]="line.y2"
            />
          }
          @for (box of picture.boxes; track box.id) {
            <g
              class="box"
              [class.marked]="marked().includes(box.id)"
              [class.dense]="box.isDense"
              [attr.transform]="box.transform"
              tabindex="0"
              role="button"
              [attr.aria-label]="box.label"
              (click)="picked.emit(box.id)"
              (keydown.enter)="picked.emit(box.id)"
            >
              @if (box.isRound) {
                <circle r="5" />
              } @else {
                <rect [attr.x]="-box.width / 2" y="-8" [attr.width]="box.width" height="8" />
              }
              @if (marked().includes(box.id)) {
                <text [attr.transform]="box.upright" [attr.x]="box.textX" [attr.y]="box.textY">
                  {{ box.text }}
                </text>
              }
            </g>
          }
        </g>
      </svg>
    } @else {
      <p i18n class="soft">This floor is not drawn: Lay out, Plan.</p>
    }
  `,
  styleUrl: './plan-view.scss',
})
export class PlanView {
  private readonly derived = inject(Derived);
  /** The room whose floor is shown. */
  readonly room = input<string>();
  readonly marked = input<readonly string[]>([]);
  /** Runs that are shown: those of the circuit in hand. */
  readonly runs = input<readonly string[]>([]);
  readonly picked = output<string>();
  protected readonly here = this.room;

  private readonly svg = viewChild<ElementRef<SVGSVGElement>>('sheet');
  private readonly layer = viewChild<ElementRef<SVGGElement>>('layer');
  private readonly zoom = new PlanZoom(() => this.layer()!.nativeElement);

  private readonly storeyId = computed(() => {
    const reader = this.derived.reader();
    return reader?.get('rooms', this.room() ?? '')?.storeyId ?? reader?.all('storeys')[0]?.id;
  });
  protected readonly storeyName = computed(
    () => this.derived.reader()?.get('storeys', this.storeyId() ?? '')?.name ?? '',
  );
  protected readonly picture = computed(() => {
    const [reader, id] = [this.derived.reader(), this.storeyId()];
    const plan = reader && id ? storeyPlan(reader, id) : undefined;
    return reader && id && plan?.rooms.length ? pictureOf(reader, id, SHOWN) : undefined;
  });
  /** The two boxes of the run at hand: the way between them is lit. */
  readonly lit = input<readonly string[]>([]);
  protected readonly litLines = computed(() => {
    const [reader, storeyId, [from, to]] = [this.derived.reader(), this.storeyId(), this.lit()];
    if (!reader || !storeyId || !from || !to) return [];
    return wayOnPlan(reader, from, to, storeyId).map((line) =>
      line.map(({ xIn, yIn }) => `${xIn},${-yIn}`).join(' '),
    );
  });
  /** Boxes between which runs are proposed. */
  readonly proposed = input<readonly (readonly [string, string])[]>([]);
  protected readonly proposedShown = computed(() =>
    this.proposed().flatMap(([a, b]) => this.picture()?.between(a, b) ?? []),
  );
  private readonly which = computed(() => new Set(this.runs()));
  protected readonly runsShown = drawnRuns(
    () => (this.runs().length ? this.storeyId() : undefined),
    () => this.picture(),
    () => this.which(),
  );

  constructor() {
    let shownFor: string | undefined;
    inject(DestroyRef).onDestroy(() => {
      const svg = this.svg();
      if (svg) this.zoom.forget(svg.nativeElement);
    });
    afterRenderEffect(() => {
      const [svg, picture, id] = [this.svg()?.nativeElement, this.picture(), this.storeyId()];
      if (!svg || !picture) return;
      untracked(() => {
        this.zoom.listen(svg);
        if (shownFor !== id && this.zoom.fit(svg, picture.frame)) shownFor = id;
      });
    });
  }
}

import {
  DestroyRef,
  Directive,
  ElementRef,
  afterRenderEffect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { select } from 'd3-selection';
import type { ZoomTransform } from 'd3-zoom';
import { zoom, zoomIdentity, zoomTransform } from 'd3-zoom';

/** Least and largest size of a picture, of its own. */
const SIZES: [number, number] = [0.2, 3];
/** How far an arrow key moves a picture, in pixels. */
const STEP = 60;

/**
 * Lets a picture in an `<svg>` be moved and made larger: dragged, pinched, by the wheel with Ctrl, by arrow keys and + and −.
 * Everything is drawn into its first `<g>`. A finger that only passes scrolls the page, until the picture is larger than its frame.
 */
@Directive({
  selector: 'svg[mtPanZoom]',
  exportAs: 'mtPanZoom',
  host: { '(keydown)': 'onKey($event)', '(focusin)': 'reveal($event.target)' },
})
export class PanZoom {
  /** Size of the picture in its own units. */
  readonly mtPanZoom = input.required<{ readonly width: number; readonly height: number }>();
  /** When this is another, the picture stands whole again. */
  readonly of = input<unknown>();

  private readonly svg = inject<ElementRef<SVGSVGElement>>(ElementRef).nativeElement;
  private readonly drawn = select<SVGSVGElement, unknown>(this.svg);
  private readonly behaviour = zoom<SVGSVGElement, unknown>()
    .scaleExtent(SIZES)
    .extent(() => [
      [0, 0],
      [this.svg.clientWidth, this.svg.clientHeight],
    ])
    .filter((event: Event) => this.isMeant(event))
    .on('zoom', ({ transform }: { transform: ZoomTransform }) => this.move(transform));

  constructor() {
    this.drawn.call(this.behaviour).on('dblclick.zoom', null);
    inject(DestroyRef).onDestroy(() => this.drawn.on('.zoom', null));
    afterRenderEffect(() => {
      this.of();
      untracked(() => this.start());
    });
  }

  /** Not made larger than it is, and small enough that its height is seen. */
  private start(): void {
    const { height } = this.mtPanZoom();
    const scale = Math.min(1, this.svg.clientHeight / height || 1);
    this.drawn.call(this.behaviour.transform.bind(this.behaviour), zoomIdentity.scale(Math.max(scale, 0.6)));
  }

  zoomBy(factor: number): void {
    this.behaviour.scaleBy(this.drawn, factor);
  }

  /** The whole picture in the room there is. */
  fit(): void {
    const { width, height } = this.mtPanZoom();
    const scale = Math.min(1, this.svg.clientWidth / width, this.svg.clientHeight / height);
    this.behaviour.transform(this.drawn, zoomIdentity.scale(scale));
  }

  /** Brings a part of the picture into the middle. */
  show(part: SVGGraphicsElement): void {
    const { x, y, width, height } = part.getBBox();
    this.behaviour.translateTo(this.drawn, x + width / 2, y + height / 2);
  }

  /** What gets the focus beyond the edge is brought into view, as scrolling would. */
  protected reveal(target: EventTarget | null): void {
    if (target === this.svg || !(target instanceof SVGGraphicsElement)) return;
    const [frame, part] = [this.svg.getBoundingClientRect(), target.getBoundingClientRect()];
    const isInside =
      part.left >= frame.left &&
      part.right <= frame.right &&
      part.top >= frame.top &&
      part.bottom <= frame.bottom;
    if (!isInside) this.show(target);
  }

  private move(transform: ZoomTransform): void {
    this.svg.querySelector(':scope > g')?.setAttribute('transform', transform.toString());
  }

  private isMeant(event: Event): boolean {
    if (event instanceof WheelEvent) return event.ctrlKey;
    if (typeof TouchEvent !== 'undefined' && event instanceof TouchEvent)
      return event.touches.length > 1 || this.isLarger();
    return !(event as MouseEvent).button;
  }

  private isLarger(): boolean {
    const { k } = zoomTransform(this.svg);
    return this.mtPanZoom().width * k > this.svg.clientWidth + 1;
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.target !== this.svg) return;
    const { k } = zoomTransform(this.svg);
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [STEP, 0],
      ArrowRight: [-STEP, 0],
      ArrowUp: [0, STEP],
      ArrowDown: [0, -STEP],
    };
    const by = moves[event.key];
    if (by) this.behaviour.translateBy(this.drawn, by[0] / k, by[1] / k);
    else if (event.key === '+') this.zoomBy(1.25);
    else if (event.key === '-') this.zoomBy(0.8);
    else return;
    event.preventDefault();
  }
}

import { select } from 'd3-selection';
import type { ZoomTransform } from 'd3-zoom';
import { zoom, zoomIdentity, zoomTransform } from 'd3-zoom';

interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** From this many pixels an inch on, all that is written of a plan can be read. */
const NEAR = 2;

/** Looks at a plan larger or smaller: one transform of one layer, nothing is drawn anew while it moves. */
export class PlanZoom {
  private readonly behaviour;

  /** `ownDrag` selects what is dragged by itself: one finger on it does not move the sheet. */
  constructor(layer: () => SVGGElement, ownDrag = '') {
    this.behaviour = zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.1, 12])
      .filter((event: Event) => {
        if (event.type === 'wheel') return true;
        const isOnThing = ownDrag !== '' && (event.target as Element).closest(ownDrag) !== null;
        return !isOnThing || ('touches' in event && (event as TouchEvent).touches.length > 1);
      })
      .on('zoom', ({ transform }: { transform: ZoomTransform }) => {
        layer().setAttribute('transform', transform.toString());
        layer().classList.toggle('near', transform.k > NEAR);
      });
  }

  listen(svg: SVGSVGElement): void {
    select<SVGSVGElement, unknown>(svg).call(this.behaviour).on('dblclick.zoom', null);
  }
  forget(svg: SVGSVGElement): void {
    select(svg).on('.zoom', null);
  }
  by(svg: SVGSVGElement, factor: number): void {
    this.behaviour.scaleBy(select<SVGSVGElement, unknown>(svg), factor);
  }

  /** Brings all of a frame into view; false where the sheet has no size yet. */
  fit(svg: SVGSVGElement, frame: Frame): boolean {
    const { clientWidth, clientHeight } = svg;
    if (!clientWidth || !clientHeight) return false;
    const scale = Math.min(clientWidth / frame.width, clientHeight / frame.height);
    this.behaviour.transform(
      select<SVGSVGElement, unknown>(svg),
      zoomIdentity
        .translate(clientWidth / 2, clientHeight / 2)
        .scale(scale)
        .translate(-frame.x - frame.width / 2, -frame.y - frame.height / 2),
    );
    return true;
  }

  scaleOf(svg: SVGSVGElement): number {
    return zoomTransform(svg).k;
  }
  /** Where on the plan an event is, in inches, y up. */
  at(svg: SVGSVGElement, event: { readonly clientX: number; readonly clientY: number }) {
    const { left, top } = svg.getBoundingClientRect();
    const [x, y] = zoomTransform(svg).invert([event.clientX - left, event.clientY - top]);
    return { xIn: x, yIn: -y };
  }
}

import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  afterRenderEffect,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { PanZoom } from '../parts/pan-zoom';
import { TermPipe } from '../parts/term';
import { WIRE_LOOKS } from '../parts/wire-colours';
import { WordsPipe } from '../parts/words';
import type { SwitchingDrawing } from './switching-drawing';

/** What a light or outlet does. */
export type LoadState = 'on' | 'off' | 'dim' | 'over';
export const STATES: Readonly<Record<LoadState, string>> = {
  on: $localize`on`,
  off: $localize`off`,
  dim: $localize`dim`,
  over: $localize`over`,
};

/** A circuit under power with its levers so. */
export interface Alive {
  /** `<run> <conductor>` of what is hot, and of that through which current flows. */
  readonly hot: ReadonlySet<string>;
  readonly flowing: ReadonlySet<string>;
  readonly loads: ReadonlyMap<string, { readonly state: LoadState; readonly volts: number }>;
}

const NONE: ReadonlySet<string> = new Set();

/** A circuit from the panel outward: boxes with their switches, lights and outlets, and the conductors between them. Switches can be thrown. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-circuit-picture',
  imports: [PanZoom, TermPipe, WordsPipe],
  templateUrl: './circuit-picture.html',
  styleUrl: './circuit-picture.scss',
})
export class CircuitPicture {
  readonly drawing = input.required<SwitchingDrawing>();
  /** When this is another, the picture stands whole again. */
  readonly of = input<unknown>();
  /** Points of which the lever is up. */
  readonly up = input<ReadonlySet<string>>(NONE);
  readonly alive = input<Alive | undefined>();
  /** `<run> <conductor>` of what is to be looked at. */
  readonly lookAt = input<ReadonlySet<string>>(NONE);
  /** Boxes that stand out. */
  readonly marked = input<ReadonlySet<string>>(NONE);
  /** A light or outlet that is asked about. */
  readonly asked = input<string | undefined>();
  /** What is said of lights and outlets, where nothing is under power. */
  readonly said = input<ReadonlyMap<string, string>>(new Map());
  readonly thrown = output<string>();

  protected readonly looks = WIRE_LOOKS;
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly pan = viewChild(PanZoom);
  protected readonly upWord = $localize`up`;
  protected readonly downWord = $localize`down`;

  protected stateOf(load: { readonly state: LoadState; readonly volts: number }): string {
    const word = STATES[load.state];
    return load.state === 'dim' || load.state === 'over'
      ? `${word}, ${Math.abs(load.volts).toFixed(0)} V`
      : word;
  }

  constructor() {
    // What is asked about is in view, without the page moving.
    afterRenderEffect(() => {
      const [asked, pan] = [this.asked(), this.pan()];
      const part = asked && this.frame().nativeElement.querySelector<SVGGElement>('.asked');
      if (part) untracked(() => pan?.show(part));
    });
  }

  /** Brings what is to be looked at into view. */
  showLookAt(): void {
    const frame = this.frame().nativeElement;
    frame.scrollIntoView({ block: 'nearest' });
    // Once it is drawn: in a long circuit it may lie beyond the edge.
    setTimeout(() => {
      const part = frame.querySelector<SVGPathElement>('.look-at');
      if (part) this.pan()?.show(part);
    });
  }
}

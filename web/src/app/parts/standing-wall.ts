import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { WordsPipe } from './words';
import type { wallPicture } from './wall-picture';

/** A box as it hangs on a wall that is drawn standing. */
export interface HungBox {
  readonly id: string;
  readonly tag: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly isSet?: boolean;
  readonly isNext?: boolean;
  /** Its tag is written. */
  readonly isNamed: boolean;
}

/** A wall, standing, with what hangs on it and goes through it. Inches. */
export interface StandingPicture extends Omit<ReturnType<typeof wallPicture>, 'x'> {
  readonly boxes: readonly HungBox[];
  readonly boxHigh: number;
  readonly ways?: readonly {
    readonly x1: number;
    readonly y1: number;
    readonly x2: number;
    readonly y2: number;
  }[];
  readonly holes?: readonly { readonly x: number; readonly y: number; readonly isPlated: boolean }[];
  /** Where a tape finds something: from the right corner and over the floor, with what it reads. */
  readonly tape?:
    | { readonly fromRightIn: number; readonly upIn: number; readonly along: string; readonly up: string }
    | undefined;
}

/** The drawing of a wall, standing: the same on every sheet that goes wall by wall. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-standing-wall',
  imports: [WordsPipe],
  template: `
    <svg [attr.viewBox]="picture().box" role="img" [attr.aria-label]="'{}, standing' | words: name()">
      <rect class="wall" x="0" y="0" [attr.width]="picture().long" [attr.height]="picture().high" />
      @for (stud of picture().studs; track $index) {
        <line class="stud" [attr.x1]="stud" [attr.x2]="stud" y1="0" [attr.y2]="picture().high" />
      }
      @for (opening of picture().openings; track opening.id) {
        <rect
          class="opening"
          [attr.x]="opening.x"
          [attr.y]="opening.y"
          [attr.width]="opening.width"
          [attr.height]="opening.height"
        />
      }
      @for (way of picture().ways; track $index) {
        <line class="way" [attr.x1]="way.x1" [attr.y1]="way.y1" [attr.x2]="way.x2" [attr.y2]="way.y2" />
      }
      @for (box of picture().boxes; track box.id) {
        <rect
          class="box"
          [class.set]="box.isSet"
          [class.next]="box.isNext"
          [attr.x]="box.x"
          [attr.y]="box.y"
          [attr.width]="box.width"
          [attr.height]="picture().boxHigh"
          (click)="picked.emit(box.id)"
        />
        @if (box.isNamed) {
          <text [attr.x]="box.x + box.width / 2" [attr.y]="box.y - 2">{{ box.tag }}</text>
        }
      }
      @for (hole of picture().holes; track $index) {
        <circle class="hole" [class.plated]="hole.isPlated" r="1.6" [attr.cx]="hole.x" [attr.cy]="hole.y" />
      }
      @if (picture().tape; as tape) {
        @let x = picture().long - tape.fromRightIn;
        @let y = picture().high - tape.upIn;
        <g class="tape">
          <path
            [attr.d]="'M' + x + ' ' + y + 'H' + picture().long + 'M' + x + ' ' + y + 'V' + picture().high"
          />
          <text [attr.x]="(x + picture().long) / 2" [attr.y]="y - 1.5">{{ tape.along }}</text>
          <text [attr.x]="x + 2" [attr.y]="(y + picture().high) / 2" class="up">{{ tape.up }}</text>
        </g>
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      width: 100%;
      max-height: 34vh;
      background: var(--paper-raised);
    }
    .wall {
      fill: var(--paper);
      stroke: var(--ink);
      stroke-width: 1.2;
    }
    .stud {
      stroke: var(--rule);
      stroke-width: 1;
    }
    .opening {
      fill: var(--paper-raised);
      stroke: var(--ink-soft);
      stroke-width: 1;
      stroke-dasharray: 4 2;
    }
    .box {
      fill: var(--paper-raised);
      stroke: var(--ink-soft);
      stroke-width: 0.8;
    }
    .box.set {
      fill: var(--done-light);
    }
    .box.next {
      stroke: var(--chalk);
      stroke-width: 2;
    }
    .way {
      stroke: var(--chalk);
      stroke-width: 1.1;
    }
    .hole {
      fill: var(--ink);
    }
    .hole.plated {
      fill: var(--paper-raised);
      stroke: var(--ink);
      stroke-width: 1.2;
    }
    .tape path {
      fill: none;
      stroke: var(--alert);
      stroke-width: 1.2;
      stroke-dasharray: 5 2;
    }
    .tape .up {
      text-anchor: start;
    }
    text {
      font-family: var(--figures);
      font-weight: 600;
      font-size: 6px;
      text-anchor: middle;
      fill: var(--ink);
      stroke: var(--paper);
      stroke-width: 1.6;
      paint-order: stroke;
    }
    @media print {
      svg {
        max-height: 8cm;
      }
    }
  `,
})
export class StandingWall {
  readonly picture = input.required<StandingPicture>();
  readonly name = input.required<string>();
  /** A box that was touched. */
  readonly picked = output<string>();
}

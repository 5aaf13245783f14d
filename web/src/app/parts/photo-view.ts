import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Photo, PhotoMark, TapeLine } from '@mule-tally/core';
import { boxName, boxesInRoom, removing, setting } from '@mule-tally/core';
import { readLength } from '@mule-tally/core/work';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Pictures } from '../state/pictures';
import { OnlyFor } from './only-for';
import { ToldPipe } from './term';
import { Value } from './value';
import { WordsPipe } from './words';

/** How large a box is marked at first, as a share of the width of the picture. */
const MARK = 0.09;
const STEP = 0.01;

interface Spot {
  readonly x: number;
  readonly y: number;
}

const clamped = (value: number): number => Math.min(1, Math.max(0, value));

/** A photo, large, with what is marked in it: outlines of boxes with their tags, lines along a tape. Marked by touch or by keys. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-photo-view',
  imports: [OnlyFor, ToldPipe, Value, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @let large = pictures.of(photo().asset)();
    <figure [style.aspect-ratio]="photo().widthPx + ' / ' + photo().heightPx">
      @if (large.is === 'here') {
        <img [src]="large.url" i18n-alt alt="The photo, large" />
      } @else if (pictures.of(photo().thumb)().is === 'here') {
        <img [src]="$any(pictures.of(photo().thumb)()).url" i18n-alt alt="The photo, small" />
      }
      <svg
        role="group"
        i18n-aria-label
        aria-label="Marks in the photo"
        [attr.viewBox]="'0 0 1000 ' + high()"
        [class.placing]="placing()"
        [attr.tabindex]="placing() ? 0 : null"
        (click)="place(spotOf($event))"
        (keydown.enter)="place({ x: from() ? 0.75 : 0.5, y: 0.5 })"
      >
        @for (line of photo().lines ?? []; track $index) {
          <g class="tape">
            <line
              [attr.x1]="line.x1 * 1000"
              [attr.y1]="line.y1 * high()"
              [attr.x2]="line.x2 * 1000"
              [attr.y2]="line.y2 * high()"
            />
            <text [attr.x]="(line.x1 + line.x2) * 500" [attr.y]="((line.y1 + line.y2) / 2) * high() - 8">
              {{ long(line.inches) }}
            </text>
          </g>
        }
        @for (mark of marks(); track $index; let at = $index) {
          <g
            class="mark"
            tabindex="0"
            role="button"
            [class.chosen]="chosen() === at"
            [attr.aria-label]="
              '{}: arrow keys move it, + and − size it, Delete takes it out' | words: mark.tag
            "
            (focus)="chosen.set(at)"
            (keydown)="keyed($event, at)"
            (pointerdown)="grab($event, at)"
            (pointermove)="drag($event)"
            (pointerup)="letGo()"
            (pointercancel)="letGo()"
          >
            <rect
              [attr.x]="mark.x * 1000"
              [attr.y]="mark.y * high()"
              [attr.width]="mark.width * 1000"
              [attr.height]="mark.height * high()"
            />
            <text [attr.x]="(mark.x + mark.width / 2) * 1000" [attr.y]="mark.y * high() - 8">
              {{ mark.tag }}
            </text>
          </g>
        }
        @if (from(); as spot) {
          <circle class="from" r="9" [attr.cx]="spot.x * 1000" [attr.cy]="spot.y * high()" />
        }
      </svg>
    </figure>
    @if (large.is !== 'here') {
      <p class="soft" role="status">
        {{
          (large.is === 'coming'
            ? 'The photo is coming…'
            : large.is === 'away'
              ? 'This device does not have the photo yet, and the server cannot be reached.'
              : 'The photo is not on the server yet: it is still on its way from the device that it was taken with.'
          ) | words
        }}
      </p>
    }
    @if (placing(); as what) {
      <p role="status" class="strip note">
        {{
          (what === 'tape'
            ? from()
              ? 'Touch where you read the tape.'
              : 'Touch where the tape begins.'
            : 'Touch the box in the photo.'
          ) | words
        }}
        <button i18n type="button" class="btn btn-line" (click)="stop()">Stop</button>
      </p>
    }
    @if (to()) {
      <form class="actions" (submit)="tapeLine($event, inches.value)">
        <label
          ><span i18n class="name">What the tape reads there</span>
          <input #inches class="form-control num" autocomplete="off" />
        </label>
        <button i18n class="btn btn-main">Write it in</button>
      </form>
    }
    <fieldset mtOnlyFor="hand">
      <div class="actions">
        @if (boxes().length) {
          <label
            ><span i18n class="name">Mark a box</span>
            <select class="form-select" [mtValue]="''" (mtValueChange)="mark($event)">
              <option i18n value="">which…</option>
              @for (box of boxes(); track box.id) {
                <option [value]="box.id">{{ box.tag }}</option>
              }
            </select></label
          >
        }
        <button i18n type="button" class="btn btn-line" (click)="begin('tape')">Read the tape</button>
        @if (photo().lines?.length) {
          <button
            i18n
            type="button"
            class="btn btn-line"
            (click)="write({ lines: photo().lines!.slice(0, -1) })"
          >
            Take the last line out
          </button>
        }
        @if (chosen() !== undefined && marks()[chosen()!]; as mark) {
          <button type="button" class="btn btn-line" (click)="unmark(chosen()!)">
            {{ 'Take {} out' | words: mark.tag }}
          </button>
        }
        <button i18n type="button" class="btn btn-line" (click)="remove()">Throw the photo away</button>
        <button i18n type="button" class="btn btn-line" (click)="closed.emit()">Close the photo</button>
      </div>
    </fieldset>
  `,
  styles: `
    figure {
      position: relative;
      margin: 0 0 0.5rem;
      max-height: 68vh;
      max-width: 100%;
      background: var(--paper-raised);
      border: 1.5px solid var(--ink);
    }
    img,
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    svg {
      touch-action: pan-y;
    }
    svg.placing {
      cursor: crosshair;
    }
    .mark {
      cursor: move;
      touch-action: none;
    }
    .mark rect {
      fill: rgb(255 255 255 / 12%);
      stroke: #fff;
      stroke-width: 5;
      paint-order: stroke;
      outline: 2px solid #111;
    }
    .mark.chosen rect,
    .mark:focus-visible rect {
      stroke: var(--chalk);
      stroke-width: 8;
    }
    text {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 34px;
      text-anchor: middle;
      fill: #111;
      stroke: #fff;
      stroke-width: 8;
      paint-order: stroke;
    }
    .tape line {
      stroke: #fff;
      stroke-width: 6;
      stroke-dasharray: 22 8;
      filter: drop-shadow(0 0 2px #000);
    }
    .from {
      fill: var(--chalk);
      stroke: #fff;
      stroke-width: 3;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class PhotoView {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  protected readonly pictures = inject(Pictures);
  readonly photo = input.required<Photo>();
  readonly closed = output();
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly chosen = signal<number | undefined>(undefined);
  /** What the next touch puts in: a box by its id, or a line along the tape. */
  protected readonly placing = signal<string | undefined>(undefined);
  protected readonly from = signal<Spot | undefined>(undefined);
  protected readonly to = signal<Spot | undefined>(undefined);
  private readonly trial = signal<{ readonly at: number; readonly mark: PhotoMark } | undefined>(undefined);
  private held: { readonly mark: PhotoMark; readonly dx: number; readonly dy: number } | undefined;

  protected readonly high = computed(() => (1000 * this.photo().heightPx) / this.photo().widthPx);
  protected readonly marks = computed(() => {
    const reader = this.derived.reader();
    const trial = this.trial();
    return (this.photo().marks ?? []).map((mark, at) => ({
      ...(trial?.at === at ? trial.mark : mark),
      tag: reader ? boxName(reader, mark.boxId) : '',
    }));
  });
  /** Boxes that it may show and in which none is marked yet. */
  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    const { roomId, boxId, runId, marks = [] } = this.photo();
    if (!reader) return [];
    const room = roomId ?? (boxId ? reader.get('boxes', boxId)?.roomId : undefined);
    const run = runId ? reader.get('runs', runId) : undefined;
    const all = [
      ...(room ? boxesInRoom(reader, room) : []),
      ...[run?.from.boxId, run?.to.boxId].flatMap((id) => (id ? (reader.get('boxes', id) ?? []) : [])),
    ];
    const isMarked = new Set(marks.map((mark) => mark.boxId));
    return [...new Set(all)].filter(({ id }) => !isMarked.has(id));
  });

  protected long(inches: number): string {
    return this.derived.units().long(inches);
  }

  protected mark(boxId: string | undefined): void {
    if (boxId) this.begin(boxId);
  }
  protected begin(what: string): void {
    this.stop();
    this.placing.set(what);
  }
  protected stop(): void {
    this.placing.set(undefined);
    this.from.set(undefined);
    this.to.set(undefined);
    this.problem.set(undefined);
  }

  protected spotOf({ currentTarget, clientX, clientY }: MouseEvent): Spot {
    const svg = (currentTarget as Element).closest('svg')!;
    const { left, top, width, height } = svg.getBoundingClientRect();
    return { x: clamped((clientX - left) / width), y: clamped((clientY - top) / height) };
  }
  /** Puts what is being placed at a spot; by keyboard into the middle, from where the arrow keys move it. */
  protected place(spot: Spot): void {
    const what = this.placing();
    if (!what) return;
    if (what === 'tape') {
      if (!this.from()) return this.from.set(spot);
      this.to.set(spot);
      return this.placing.set(undefined);
    }
    const [width, height] = [MARK, Math.min(0.9, (MARK * 1250) / this.high())];
    const x = clamped(Math.min(spot.x - width / 2, 1 - width));
    const y = clamped(Math.min(spot.y - height / 2, 1 - height));
    const marks = [...(this.photo().marks ?? []), { boxId: what, x, y, width, height }];
    this.stop();
    this.write({ marks });
    this.chosen.set(marks.length - 1);
  }
  protected tapeLine(event: Event, typed: string): void {
    event.preventDefault();
    const [from, to] = [this.from(), this.to()];
    const inches = readLength(typed, this.derived.units().system);
    if (!from || !to) return;
    if (inches === undefined || Number.isNaN(inches))
      return this.problem.set(
        this.derived.units().typed === 'm'
          ? $localize`Type what the tape reads, as 1.37 m or 1370 mm.`
          : $localize`Type what the tape reads, as 4 ft 6 in or 54 in.`,
      );
    const line: TapeLine = { x1: from.x, y1: from.y, x2: to.x, y2: to.y, inches };
    this.stop();
    this.write({ lines: [...(this.photo().lines ?? []), line], tape: true });
  }

  protected grab(event: PointerEvent, at: number): void {
    if (this.placing()) return;
    this.chosen.set(at);
    const mark = this.photo().marks![at]!;
    const spot = this.spotOf(event);
    this.held = { mark, dx: mark.x - spot.x, dy: mark.y - spot.y };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }
  protected drag(event: PointerEvent): void {
    const at = this.chosen();
    if (!this.held || at === undefined) return;
    const spot = this.spotOf(event);
    this.trial.set({ at, mark: this.moved(this.held.mark, spot.x + this.held.dx, spot.y + this.held.dy) });
  }
  protected letGo(): void {
    const trial = this.trial();
    this.held = undefined;
    this.trial.set(undefined);
    if (trial) this.rewrite(trial.at, trial.mark);
  }
  private moved(mark: PhotoMark, x: number, y: number): PhotoMark {
    return { ...mark, x: clamped(Math.min(x, 1 - mark.width)), y: clamped(Math.min(y, 1 - mark.height)) };
  }

  protected keyed(event: KeyboardEvent, at: number): void {
    const mark = this.photo().marks?.[at];
    if (!mark) return;
    const moves: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    };
    const move = moves[event.key];
    const grow = event.key === '+' || event.key === '=' ? 1.1 : event.key === '-' ? 1 / 1.1 : undefined;
    if (move) this.rewrite(at, this.moved(mark, mark.x + move[0], mark.y + move[1]));
    else if (grow)
      this.rewrite(at, {
        ...mark,
        width: Math.min(1 - mark.x, mark.width * grow),
        height: Math.min(1 - mark.y, mark.height * grow),
      });
    else if (event.key === 'Delete' || event.key === 'Backspace') this.unmark(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  private rewrite(at: number, mark: PhotoMark): void {
    this.write({ marks: this.photo().marks!.map((own, index) => (index === at ? mark : own)) });
  }
  protected unmark(at: number): void {
    this.chosen.set(undefined);
    this.write({ marks: this.photo().marks!.toSpliced(at, 1) });
  }
  protected write(fields: Partial<Photo>): void {
    this.problem.set(this.desk.make(setting('photos', this.photo().id, fields))?.message);
  }
  protected remove(): void {
    this.problem.set(this.desk.make(removing('photos', this.photo().id))?.message);
    this.closed.emit();
  }
}

import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, viewChild } from '@angular/core';
import type { Underlay } from '@mule-tally/core';
import type { Place } from '@mule-tally/core/furnish';
import { Rights } from '../state/rights';
import { UnderlayWork } from './underlay-work';

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The plan sheet as it lies under the plan (`isUnder`), or, over the plan, what hands fit it with: marks, or all of it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  // eslint-disable-next-line @angular-eslint/component-selector
  selector: 'g[mtUnderlay]',
  template: `
    <svg:g #layer>
      @if (work.isShown() && work.sheet(); as sheet) {
        @if (isUnder()) {
          @if (url(); as url) {
            <svg:image
              class="sheet"
              preserveAspectRatio="none"
              [attr.href]="url"
              [attr.width]="sheet.widthPx"
              [attr.height]="sheet.heightPx"
              [attr.transform]="transform()"
              [attr.opacity]="work.strength()"
            />
          } @else {
            <svg:rect
              class="missing"
              [attr.width]="sheet.widthPx"
              [attr.height]="sheet.heightPx"
              [attr.transform]="transform()"
            />
          }
        } @else if (rights.isLead()) {
          @if (work.mode() === 'move') {
            <svg:rect
              class="underlay-hand"
              tabindex="0"
              role="button"
              i18n-aria-label
              aria-label="Move the plan sheet: arrow keys"
              [attr.width]="sheet.widthPx"
              [attr.height]="sheet.heightPx"
              [attr.transform]="transform()"
              (pointerdown)="down('sheet', $event)"
              (pointermove)="moved($event)"
              (pointerup)="up($event)"
              (pointercancel)="drag = undefined"
              (keydown)="moveKey($event)"
            />
          } @else if (work.mode() === 'marks' && work.marks(); as marks) {
            <svg:line
              class="between"
              [attr.x1]="marks[0].xIn"
              [attr.y1]="-marks[0].yIn"
              [attr.x2]="marks[1].xIn"
              [attr.y2]="-marks[1].yIn"
            />
            @for (mark of marks; track $index) {
              <svg:g
                class="underlay-hand mark"
                tabindex="0"
                role="button"
                [attr.aria-label]="names[$index]"
                [attr.transform]="'translate(' + mark.xIn + ' ' + -mark.yIn + ')'"
                (pointerdown)="down($index === 0 ? 0 : 1, $event)"
                (pointermove)="moved($event)"
                (pointerup)="up($event)"
                (pointercancel)="drag = undefined"
                (keydown)="markKey($index === 0 ? 0 : 1, mark, $event)"
              >
                <svg:circle class="reach" r="36" />
                <svg:circle r="14" />
                <svg:path d="M-14 0H14M0 -14V14" />
              </svg:g>
            }
          }
        }
      }
    </svg:g>
  `,
  styles: `
    .sheet,
    .missing {
      pointer-events: none;
    }
    .missing {
      fill: none;
      stroke: var(--rule);
      stroke-width: 12;
      stroke-dasharray: 40 40;
    }
    .underlay-hand {
      cursor: move;
      fill: transparent;
    }
    rect.underlay-hand {
      stroke: var(--chalk);
      stroke-width: 6;
      stroke-dasharray: 30 20;
    }
    /* A finger is wider than what it points at. */
    .mark .reach {
      stroke: none;
    }
    .mark circle {
      stroke: var(--chalk);
      stroke-width: 2.5;
    }
    .mark path,
    .between {
      stroke: var(--chalk);
      stroke-width: 1;
      fill: none;
    }
    .between {
      pointer-events: none;
      stroke-dasharray: 6 4;
    }
  `,
})
export class UnderlayLayer {
  protected readonly work = inject(UnderlayWork);
  protected readonly rights = inject(Rights);
  readonly isUnder = input(false);
  private readonly layer = viewChild.required<ElementRef<SVGGElement>>('layer');
  protected readonly names = [
    $localize`First mark: drag it, or arrow keys`,
    $localize`Second mark: drag it, or arrow keys`,
  ];
  protected drag:
    | { readonly of: 'sheet' | 0 | 1; readonly from: Place; readonly sheet: Underlay; readonly mark: Place }
    | undefined;

  protected readonly url = computed(() => {
    const picture = this.work.picture();
    return picture?.is === 'here' ? picture.url : undefined;
  });
  protected readonly transform = computed(() => {
    const sheet = this.work.sheet();
    if (!sheet) return '';
    const { at, turnDeg, inPerPx, widthPx, heightPx } = sheet;
    return `translate(${at.xIn} ${-at.yIn}) rotate(${-turnDeg}) scale(${inPerPx}) translate(${-widthPx / 2} ${-heightPx / 2})`;
  });

  /** Where on the plan an event is, in inches, y up. */
  private at({ clientX, clientY }: PointerEvent): Place {
    const matrix = this.layer().nativeElement.getScreenCTM()!.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { xIn: x, yIn: -y };
  }

  protected down(of: 'sheet' | 0 | 1, event: PointerEvent): void {
    const [sheet, marks] = [this.work.sheet(), this.work.marks()];
    if (!sheet || !marks) return;
    event.preventDefault();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    (event.currentTarget as SVGElement).focus();
    this.drag = { of, from: this.at(event), sheet, mark: marks[of === 1 ? 1 : 0] };
  }
  protected moved(event: PointerEvent): void {
    if (this.drag) this.follow(event, false);
  }
  protected up(event: PointerEvent): void {
    if (this.drag) this.follow(event, true);
    this.drag = undefined;
  }
  private follow(event: PointerEvent, isLetGo: boolean): void {
    const { of, from, sheet, mark } = this.drag!;
    const now = this.at(event);
    const [dx, dy] = [now.xIn - from.xIn, now.yIn - from.yIn];
    if (of === 'sheet') this.work.move(sheet, dx, dy, isLetGo);
    else this.work.mark(of, { xIn: mark.xIn + dx, yIn: mark.yIn + dy });
  }

  private stepOf(event: KeyboardEvent): readonly [number, number] | undefined {
    const step = STEPS[event.key];
    if (!step) return undefined;
    event.preventDefault();
    const size = event.shiftKey ? 1 : 12;
    return [step[0] * size, step[1] * size];
  }
  protected moveKey(event: KeyboardEvent): void {
    const [step, sheet] = [this.stepOf(event), this.work.sheet()];
    if (step && sheet) this.work.move(sheet, step[0], step[1], true);
  }
  protected markKey(which: 0 | 1, mark: Place, event: KeyboardEvent): void {
    const step = this.stepOf(event);
    if (step) this.work.mark(which, { xIn: mark.xIn + step[0], yIn: mark.yIn + step[1] });
  }
}

import type { Signal } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { standingPull } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { answerTo } from '../work/answer';
import type { PlanPicture } from './plan-picture';

/** A run as it is drawn on a story. */
export interface DrawnRun {
  readonly id: string;
  readonly isIn: boolean;
  readonly isKept: boolean;
  /** Points of its lines, as SVG has them: its way along the framing, or straight from box to box while that is not known. */
  readonly lines: readonly string[];
  readonly isWay: boolean;
  readonly x: number;
  readonly y: number;
}

/**
 * The runs of a story along their ways: found beside the screen; a run whose way is not known yet, or of which there is none, is a
 * straight line. Called where a component is made.
 */
export function drawnRuns(
  storeyId: () => string | undefined,
  picture: () => PlanPicture | undefined,
  /** Which runs; undefined for all. */
  only: () => ReadonlySet<string> | undefined = () => undefined,
): Signal<readonly DrawnRun[]> {
  const derived = inject(Derived);
  const ways = answerTo<'ways'>(() => {
    const id = storeyId();
    // Asked at once, not once the plan is drawn: the worker works meanwhile.
    return id ? { about: 'ways', storeyId: id } : undefined;
  });
  const known = computed(() => new Map((ways.value() ?? []).map((way) => [way.runId, way.lines])));
  return computed(() => {
    const [reader, shown, which] = [derived.reader(), picture(), only()];
    if (!reader || !shown) return [];
    return reader.all('runs').flatMap((run): DrawnRun[] => {
      if (which && !which.has(run.id)) return [];
      const way = known().get(run.id);
      const straight = way ? [] : shown.between(run.from.boxId, run.to.boxId);
      if (!way?.length && !straight.length) return [];
      const isIn = standingPull(reader, run.id)?.state === 'in';
      const [first] = way ?? [];
      const middle = first?.[Math.floor(first.length / 2)];
      return [
        {
          id: run.id,
          isIn,
          isKept: run.kept === true && !isIn,
          isWay: way !== undefined,
          lines: way
            ? way.map((line) => line.map(({ xIn, yIn }) => `${xIn},${-yIn}`).join(' '))
            : straight.map(({ x1, y1, x2, y2 }) => `${x1},${y1} ${x2},${y2}`),
          x: middle ? middle.xIn : (straight[0]!.x1 + straight[0]!.x2) / 2,
          y: middle ? -middle.yIn : (straight[0]!.y1 + straight[0]!.y2) / 2,
        },
      ];
    });
  });
}

/** Runs on a plan: cord lines, planned ones dashed, kept ones with a dot. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  // Inside of an svg only its own elements are drawn.
  // eslint-disable-next-line @angular-eslint/component-selector
  selector: 'g[mtPlanRuns]',
  template: `
    @for (run of runs(); track run.id) {
      @for (points of run.lines; track $index) {
        <svg:polyline
          class="run"
          [class.in]="run.isIn"
          [class.straight]="!run.isWay"
          [class.chosen]="run.id === chosen()"
          [attr.points]="points"
        />
      }
      @if (run.isKept) {
        <svg:circle class="kept" r="4" [attr.cx]="run.x" [attr.cy]="run.y">
          <title i18n>Kept: the planner leaves this run</title>
        </svg:circle>
      }
    }
  `,
  styles: `
    .run {
      fill: none;
      stroke: var(--chalk);
      stroke-width: 2;
      stroke-linejoin: round;
      stroke-dasharray: 6 4;
      pointer-events: none;
    }
    .run.in {
      stroke-dasharray: none;
    }
    .run.straight {
      stroke-width: 1.2;
      stroke-dasharray: 2 4;
    }
    .run.chosen {
      stroke: var(--attention);
      stroke-width: 6;
    }
    .kept {
      fill: var(--paper-raised);
      stroke: var(--chalk);
      stroke-width: 2;
    }
  `,
})
export class PlanRuns {
  readonly runs = input.required<readonly DrawnRun[]>();
  /** The one that is looked at. */
  readonly chosen = input<string>();
}

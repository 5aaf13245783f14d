import { Injectable, computed, inject, signal } from '@angular/core';
import type { Storey, Underlay } from '@mule-tally/core';
import { setting } from '@mule-tally/core';
import type { Place, UnderlayProblem } from '@mule-tally/core/furnish';
import {
  placeOfPoint,
  pointAtPlace,
  scaledByLength,
  turnedBy,
  turnedStraight,
} from '@mule-tally/core/furnish';
import { Desk } from '../state/desk';
import { Pictures } from '../state/pictures';

/** What hands do with a plan sheet now: put two marks on it, or move it. */
export type UnderlayMode = 'marks' | 'move';

/** The plan sheet under a story while somebody fits it to the plan. One for the plan that is shown. */
@Injectable()
export class UnderlayWork {
  private readonly desk = inject(Desk);
  private readonly pictures = inject(Pictures);
  private readonly on = signal<Storey | undefined>(undefined);
  readonly mode = signal<UnderlayMode | undefined>(undefined);
  readonly isShown = signal(true);
  /** How strongly it is drawn, of 1. */
  readonly strength = signal(0.4);
  readonly problem = signal<string | undefined>(undefined);
  /** Where the sheet lies while it is dragged. */
  private readonly trial = signal<Underlay | undefined>(undefined);
  /** Ends of a length that somebody knows. */
  readonly marks = signal<readonly [Place, Place] | undefined>(undefined);

  /** The sheet as it is drawn now. */
  readonly sheet = computed(() => this.trial() ?? this.on()?.underlay);
  readonly picture = computed(() => {
    const sheet = this.sheet();
    return sheet && this.pictures.of(sheet.asset)();
  });

  /** All of the sheet, on the paper of the plan, y down. */
  readonly frame = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return undefined;
    const { widthPx, heightPx } = sheet;
    const corners = [0, widthPx].flatMap((x) => [0, heightPx].map((y) => placeOfPoint(sheet, { x, y })));
    const [xs, ys] = [corners.map(({ xIn }) => xIn), corners.map(({ yIn }) => -yIn)];
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
  });

  /** Another story is shown. */
  shows(storey: Storey | undefined): void {
    if (storey?.id !== this.on()?.id) this.done();
    this.on.set(storey);
  }

  start(mode: UnderlayMode): void {
    const sheet = this.sheet();
    if (!sheet || this.mode() === mode) return this.done();
    const { widthPx, heightPx } = sheet;
    const at = (share: number): Place => placeOfPoint(sheet, { x: widthPx * share, y: heightPx / 2 });
    this.marks.set([at(0.25), at(0.75)]);
    this.problem.set(undefined);
    this.mode.set(mode);
    this.isShown.set(true);
  }
  done(): void {
    this.mode.set(undefined);
    this.trial.set(undefined);
    this.problem.set(undefined);
  }

  /** Moves the sheet by so many inches of the plan; for good once it is let go. */
  move(from: Underlay, dx: number, dy: number, isLetGo: boolean): void {
    const at = { xIn: from.at.xIn + dx, yIn: from.at.yIn + dy };
    if (isLetGo) this.write({ ...from, at });
    else this.trial.set({ ...from, at });
  }
  mark(which: 0 | 1, to: Place): void {
    const [a, b] = this.marks()!;
    this.marks.set(which === 0 ? [to, b] : [a, to]);
  }

  /** From mark to mark it is so long in the house. */
  scale(lengthIn: number): void {
    this.fitted((sheet, [a, b]) => scaledByLength(sheet, a, b, lengthIn));
  }
  /** The line from mark to mark runs along the plan. */
  straighten(): void {
    this.fitted((sheet, [a, b]) => turnedStraight(sheet, a, b));
  }
  private fitted(fit: (sheet: Underlay, marks: readonly [Place, Place]) => Underlay | UnderlayProblem): void {
    const [sheet, marks] = [this.sheet(), this.marks()];
    if (!sheet || !marks) return;
    const next = fit(sheet, marks);
    if (typeof next === 'string') return this.problem.set(PROBLEMS[next]);
    // The marks stay on what they were put on.
    const kept = this.write(next);
    if (!kept) return;
    const points = marks.map((mark) => pointAtPlace(sheet, mark));
    this.marks.set([placeOfPoint(next, points[0]!), placeOfPoint(next, points[1]!)]);
  }
  turn(degrees: number): void {
    const sheet = this.sheet();
    if (sheet) this.write(turnedBy(sheet, degrees));
  }

  /** Whether it could be written. */
  write(underlay: Underlay | null): boolean {
    const storey = this.on();
    if (!storey) return false;
    const round = (inches: number): number => Math.round(inches * 1000) / 1000;
    const kept = underlay && {
      ...underlay,
      at: { xIn: round(underlay.at.xIn), yIn: round(underlay.at.yIn) },
    };
    const refusal = this.desk.make(setting('storeys', storey.id, { underlay: kept }));
    this.trial.set(undefined);
    this.problem.set(refusal?.message);
    return !refusal;
  }
}

const PROBLEMS: Readonly<Record<UnderlayProblem, string>> = {
  'marks-meet': $localize`Both marks stand on one place\: drag them to the ends of a length that you know.`,
  'no-length': $localize`Type how long it is from mark to mark in the house, such as 24', 24'6 or 7.3 m.`,
  'no-scale': $localize`At this length the sheet would be larger than any house\: look at the marks and at what you typed.`,
};

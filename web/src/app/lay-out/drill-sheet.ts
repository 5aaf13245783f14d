import { DatePipe, NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { WorkRecord } from '@mule-tally/core';
import { adding, boxFacts, removing } from '@mule-tally/core';
import type { DrillRow, DrillWall } from '@mule-tally/core/work';
import { DRILLED_STEP, SEALED_STEP } from '@mule-tally/core/work';
import { OnlyFor } from '../parts/only-for';
import { staysAwake } from '../parts/screen';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { StandingWall } from '../parts/standing-wall';
import { wallPicture, waysOnWall } from '../parts/wall-picture';

/** How large a box is drawn, in inches. */
const GANG_IN = 4;
const BOX_HIGH_IN = 5;

/** What is drilled in a room, wall by wall: rows of holes by height and size, plates over them, what is sealed; ticked with one touch. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-drill-sheet',
  imports: [DatePipe, NgTemplateOutlet, OnlyFor, StandingWall, ToldPipe, WordsPipe],
  templateUrl: './drill-sheet.html',
  styleUrl: './drill-sheet.scss',
})
export class DrillSheetPage {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  protected readonly crew = inject(Crew);
  readonly room = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    staysAwake();
  }

  private readonly look = answerTo<'drill'>(() => {
    const roomId = this.room();
    return roomId && this.derived.reader()?.get('rooms', roomId) ? { about: 'drill', roomId } : undefined;
  });
  protected readonly isThere = computed(() => this.look.value() !== undefined);
  protected readonly sheet = computed(() => {
    const sheet = this.look.value()?.sheet;
    // What was found of another room is not this one's.
    return sheet?.walls.every(({ roomId }) => roomId === this.room()) ? sheet : undefined;
  });
  protected readonly open = computed(() => this.sheet()?.walls.filter((wall) => !this.isDone(wall)) ?? []);
  protected readonly done = computed(() => this.sheet()?.walls.filter((wall) => this.isDone(wall)) ?? []);

  /** Ticked, and nothing has come since. */
  private isDone(wall: DrillWall): boolean {
    return this.isMade(wall, DRILLED_STEP) && (wall.toSeal === 0 || this.isMade(wall, SEALED_STEP));
  }
  private record(wall: DrillWall, step: string): WorkRecord | undefined {
    // The tick as it stands on the screen, whatever the worker knew of.
    return this.derived
      .reader()
      ?.mentioning('records', wall.roomId)
      .findLast((one) => one.kind === 'tick' && one.step === step && one.corner === wall.corner);
  }
  private count(wall: DrillWall, step: string): number {
    return step === SEALED_STEP ? wall.toSeal : wall.holes;
  }
  private isMade(wall: DrillWall, step: string): boolean {
    const record = this.record(wall, step);
    return record !== undefined && (record.holes ?? Infinity) >= this.count(wall, step);
  }

  /** What there is to tick of a wall: what was ticked, by whom, and whether there were fewer holes then. */
  protected ticks(wall: DrillWall) {
    return [
      { step: DRILLED_STEP, name: $localize`Drilled and plated` },
      ...(wall.toSeal ? [{ step: SEALED_STEP, name: $localize`Sealed` }] : []),
    ].map(({ step, name }) => {
      const record = this.record(wall, step);
      const more = record ? Math.max(0, this.count(wall, step) - (record.holes ?? Infinity)) : 0;
      return { step, name, record, more };
    });
  }

  protected name(wall: DrillWall): string {
    if (wall.number === undefined) return $localize`Over the ceiling`;
    return $localize`Wall ${wall.number}, ${this.derived.units().long(wall.lengthIn ?? 0)}`;
  }

  /** "12 holes of ¾ in through studs at 20 in" */
  protected rowText(row: DrillRow): string {
    return this.derived.inTrade(this.plainRow(row));
  }
  private plainRow({ through, heightIn, diameterIn, holes }: DrillRow): string {
    const units = this.derived.units();
    const [count, bit] = [holes.length, units.short(diameterIn)];
    const at = heightIn === undefined ? '' : units.short(heightIn);
    switch (through) {
      case 'studs':
        return $localize`${count} of ${bit} through studs, ${at} up`;
      case 'corner':
        return $localize`${count} of ${bit} through the solid corner, ${at} up`;
      case 'header':
        return $localize`${count} of ${bit} through a header, as permitted`;
      case 'top-plate':
        return $localize`${count} of ${bit} through the top plate, sealed`;
      case 'sole-plate':
        return $localize`${count} of ${bit} through the sole plate, sealed`;
      case 'joists':
        return $localize`${count} of ${bit} through joists`;
      case 'beam':
        return $localize`${count} of ${bit} through a beam, as permitted`;
    }
  }
  /** Where the holes of a row are, from the right corner; a long row by its ends. */
  protected places({ holes, through }: DrillRow): string {
    const units = this.derived.units();
    const at = [
      ...new Set(
        holes.flatMap(({ fromCornerIn }) =>
          fromCornerIn === undefined ? [] : [units.short(Math.round(fromCornerIn * 2) / 2)],
        ),
      ),
    ];
    if (!at.length) return '';
    if (through === 'studs' && at.length > 4)
      return $localize`${at.length} studs, from ${at[0]!} to ${at.at(-1)!} from the right corner`;
    return $localize`${at.join(', ')} from the right corner`;
  }
  protected plated({ holes }: DrillRow): number {
    return holes.filter(({ hole }) => hole.needsPlate).length;
  }
  /** What is wrong with holes of a row. */
  protected wrong({ holes, through }: DrillRow): string | undefined {
    const problems = new Set(holes.flatMap(({ hole }) => hole.problems));
    if (problems.has('too-large'))
      return through === 'joists'
        ? $localize`Larger than a joist may lose: another way, or who may say so.`
        : $localize`Larger than this stud may lose: a stud shoe, another way, or a smaller bit.`;
    if (problems.has('too-near'))
      return $localize`Too near to the edge: bore through the middle, or go another way.`;
    return undefined;
  }

  /** The wall, standing, with what goes through it. */
  protected picture(wall: DrillWall) {
    const reader = this.derived.reader();
    const roomId = this.room();
    const { corner, lengthIn, startIn } = wall;
    if (!reader || !roomId || corner === undefined || lengthIn === undefined || startIn === undefined)
      return undefined;
    const picture = wallPicture(reader, roomId, { corner, lengthIn, startIn });
    const { x, high } = picture;
    const boxes = reader
      .mentioning('boxes', roomId)
      .filter((box) => box.corner === corner && box.alongIn !== undefined && !box.facesOut)
      .map((box) => {
        const width = Math.max(1, boxFacts(reader, box).gangs) * GANG_IN;
        return {
          id: box.id,
          tag: box.tag,
          x: x(box.alongIn! - startIn) - width / 2,
          y: high - (box.heightIn ?? 16) - BOX_HIGH_IN / 2,
          width,
          isNamed: true,
        };
      });
    const ways = waysOnWall(this.look.value()?.ways, corner, picture);
    const holes = wall.rows.flatMap(({ holes: all }) =>
      all.flatMap(({ fromCornerIn, hole }) =>
        fromCornerIn === undefined
          ? []
          : [
              {
                x: x(fromCornerIn),
                // Holes beside each other in one member are drawn one over the other.
                y: high - hole.at.heightIn - (hole.number - 1) * 3,
                isPlated: hole.needsPlate,
              },
            ],
      ),
    );
    return { ...picture, boxes, ways, holes, boxHigh: BOX_HIGH_IN };
  }

  protected make(wall: DrillWall, step: string): void {
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          at: new Date().toISOString(),
          by: this.session.who().id,
          roomId: wall.roomId,
          ...(wall.corner !== undefined && { corner: wall.corner }),
          step,
          holes: this.count(wall, step),
        }),
      )?.message,
    );
  }
  protected untick(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }
  protected print(): void {
    window.print();
  }
}

import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { Photo } from '@mule-tally/core';
import { adding, boxFacts, removing } from '@mule-tally/core';
import type { PhotoWall, TapePlace } from '@mule-tally/core/work';
import { NOTHING_THERE_STEP, isPhotographed, photoWalls, tapeOf } from '@mule-tally/core/work';
import { FilePick } from '../parts/file-pick';
import { OnlyFor } from '../parts/only-for';
import { PhotoStrip } from '../parts/photo-strip';
import { PhotoTaking } from '../parts/photo-taking';
import { PhotoView } from '../parts/photo-view';
import { StandingWall } from '../parts/standing-wall';
import { TallyMarks } from '../parts/tally-marks';
import { ToldPipe } from '../parts/term';
import { Viewfinder } from '../parts/viewfinder';
import { wallPicture, waysOnWall } from '../parts/wall-picture';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { tapeText } from './tape-text';

/** How large a box is drawn, in inches. */
const GANG_IN = 4;
const BOX_HIGH_IN = 5;

const keyOf = (wall: Pick<PhotoWall, 'corner'>): string => wall.corner ?? 'ceiling';

/** Walls of a room: photographed before they are closed, with one touch each; what is behind one, by drawing, photo and tape. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-walls-sheet',
  imports: [
    FilePick,
    OnlyFor,
    PhotoStrip,
    PhotoView,
    StandingWall,
    TallyMarks,
    ToldPipe,
    Viewfinder,
    WordsPipe,
  ],
  templateUrl: './walls-sheet.html',
  styleUrl: './walls-sheet.scss',
})
export class WallsSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly taking = inject(PhotoTaking);
  private readonly router = inject(Router);
  readonly room = input<string>();
  /** The wall that is looked at: the corner at which it begins, or "ceiling". */
  readonly wall = input<string>();
  readonly photo = input<string>();
  readonly box = input<string>();
  private readonly finder = viewChild(Viewfinder);

  protected readonly tape = signal(false);
  protected readonly boarded = signal(false);
  protected readonly isOpen = signal(false);
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);
  /** Walls put off, in the order in which they were. */
  private readonly put = signal<readonly string[]>([]);

  /** The wall that is being photographed: it stays in view until its photo is kept. */
  private readonly shot = signal<string | undefined>(undefined);
  private readonly shooting = computed(() => {
    const shot = this.shot();
    return shot === undefined ? undefined : this.walls().find((wall) => keyOf(wall) === shot);
  });
  protected readonly roomName = computed(() => this.derived.reader()?.get('rooms', this.room() ?? '')?.name);
  protected readonly walls = computed((): readonly PhotoWall[] => {
    const [reader, room] = [this.derived.reader(), this.room()];
    return reader && room ? photoWalls(reader, room) : [];
  });
  protected readonly left = computed(() => this.walls().filter((wall) => !isPhotographed(wall)));
  protected readonly done = computed(() => this.walls().length - this.left().length);
  /** The wall to shoot: the one that is looked at, else the next that is left; those put off come last. */
  protected readonly current = computed((): PhotoWall | undefined => {
    const put = this.put();
    const open = this.left().toSorted((a, b) => put.indexOf(keyOf(a)) - put.indexOf(keyOf(b)));
    return (
      this.walls().find((wall) => keyOf(wall) === this.wall()) ??
      this.shooting() ??
      open[0] ??
      this.walls()[0]
    );
  });
  /** What of the house is still to be photographed, room by room. */
  protected readonly rooms = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return reader
      .all('rooms')
      .toSorted((a, b) => a.order - b.order)
      .map(({ id, name }) => {
        const walls = photoWalls(reader, id);
        return { id, name, of: walls.length, done: walls.filter(isPhotographed).length };
      });
  });
  protected readonly whole = computed(() => ({
    done: this.rooms().reduce((sum, { done }) => sum + done, 0),
    of: this.rooms().reduce((sum, { of }) => sum + of, 0),
  }));
  protected readonly photos = computed(() => {
    const wall = this.current();
    return wall ? [...wall.open, ...wall.boarded] : [];
  });
  protected readonly shownPhoto = computed(() => this.photos().find(({ id }) => id === this.photo()));
  protected readonly cameAfter = computed(() => {
    const say = this.derived.words()?.say;
    const ids = this.current()?.cameAfter ?? [];
    return say && ids.length
      ? this.derived.phrases().some(
          ids.slice(0, 4).map((id) => say.run(id)),
          Math.max(0, ids.length - 4),
        )
      : '';
  });

  protected name({ number, lengthIn, corner }: PhotoWall): string {
    if (corner === undefined) return $localize`Ceiling`;
    if (number === undefined) return $localize`A wall that is gone`;
    return lengthIn === undefined
      ? $localize`Wall ${number}`
      : $localize`Wall ${number}, ${this.derived.units().long(lengthIn)}`;
  }
  protected readonly key = keyOf;
  protected readonly isPhotographed = isPhotographed;

  private readonly drill = answerTo<'drill'>(() => {
    const roomId = this.room();
    return roomId && this.derived.reader()?.get('rooms', roomId) ? { about: 'drill', roomId } : undefined;
  });
  private readonly ways = computed(() => {
    const roomId = this.room();
    return (this.drill.value()?.ways ?? []).filter((way) => way.roomId === roomId);
  });
  /** The wall, standing: boxes, cables in it and what covers them, with the tape at the box that is asked for. */
  protected readonly picture = computed(() => {
    const [reader, roomId, wall] = [this.derived.reader(), this.room(), this.current()];
    const { corner, lengthIn, startIn } = wall ?? {};
    if (
      !reader ||
      !roomId ||
      !wall ||
      corner === undefined ||
      lengthIn === undefined ||
      startIn === undefined
    )
      return undefined;
    const picture = wallPicture(reader, roomId, { corner, lengthIn, startIn });
    const { x, high } = picture;
    const boxes = this.taped().map(({ box, tape }) => {
      const width = Math.max(1, boxFacts(reader, box).gangs) * GANG_IN;
      return {
        id: box.id,
        tag: box.tag,
        x: lengthIn - tape.fromRightIn - width / 2,
        // What stands on its wall without a height: where receptacles commonly are.
        y: high - (tape.upIn ?? 16) - BOX_HIGH_IN / 2,
        width,
        isNamed: true,
        isNext: box.id === this.box(),
      };
    });
    const drilled = this.drill
      .value()
      ?.sheet.walls.find((one) => one.roomId === roomId && one.corner === corner);
    const holes = (drilled?.rows ?? []).flatMap(({ holes: all }) =>
      all.flatMap(({ fromCornerIn, hole }) =>
        fromCornerIn === undefined
          ? []
          : [
              {
                x: x(fromCornerIn),
                y: high - hole.at.heightIn - (hole.number - 1) * 3,
                isPlated: hole.needsPlate,
              },
            ],
      ),
    );
    return {
      ...picture,
      boxes,
      ways: waysOnWall(this.ways(), corner, picture),
      holes,
      boxHigh: BOX_HIGH_IN,
      tape: this.tapeTo(),
    };
  });
  /** Boxes of the wall that a tape finds. */
  protected readonly taped = computed(() => {
    const reader = this.derived.reader();
    return (this.current()?.boxIds ?? []).flatMap((id) => {
      const box = reader?.get('boxes', id);
      const tape = reader && tapeOf(reader, id);
      return box && tape ? [{ box, tape }] : [];
    });
  });
  private readonly tapeTo = computed(() => {
    const own = this.taped().find(({ box }) => box.id === this.box());
    const wall = this.current();
    if (!own || wall?.lengthIn === undefined) return undefined;
    const units = this.derived.units();
    const { fromRightIn, upIn } = own.tape;
    return {
      fromRightIn,
      upIn: upIn ?? 0,
      along: units.long(fromRightIn),
      up: upIn === undefined ? '' : units.short(upIn),
    };
  });
  protected tapeText(tape: TapePlace): string {
    return tapeText(this.derived.units(), tape);
  }
  /** What runs in the wall, run by run, with how high. */
  protected readonly runs = computed(() => {
    const say = this.derived.words()?.say;
    const corner = this.current()?.corner;
    if (!say || corner === undefined) return [];
    const units = this.derived.units();
    const byRun = new Map<string, number[]>();
    for (const { runId, corner: at, from, to } of this.ways())
      if (at === corner) byRun.set(runId, [...(byRun.get(runId) ?? []), from.heightIn, to.heightIn]);
    return [...byRun].map(([id, heights]) => {
      const [low, high] = [Math.min(...heights), Math.max(...heights)];
      return {
        id,
        name: say.run(id),
        high:
          high - low < 1
            ? $localize`${units.short(low)} up`
            : $localize`${units.short(low)} to ${units.short(high)} up`,
      };
    });
  });

  protected go(params: Record<string, string | null>): void {
    void this.router.navigate([], { queryParams: params, queryParamsHandling: 'merge', replaceUrl: true });
  }
  protected look(photo: Photo): void {
    this.go({ photo: photo.id === this.photo() ? null : photo.id });
  }

  protected async shoot(): Promise<void> {
    const shot = await this.finder()?.shot();
    if (shot) await this.take(shot);
  }
  protected async take(from: Blob | ImageBitmap): Promise<void> {
    const [wall, roomId] = [this.current(), this.room()];
    if (!wall || !roomId || this.busy()) return;
    this.busy.set(true);
    this.shot.set(keyOf(wall));
    try {
      const problem = await this.taking.take(from, {
        roomId,
        ...(wall.corner === undefined ? { ceiling: true } : { corner: wall.corner }),
        ...(this.tape() && { tape: true }),
        ...(this.boarded() && { boarded: true }),
      });
      this.problem.set(problem);
      // Unless somebody has gone on meanwhile.
      const isHere = this.current()?.corner === wall.corner && this.room() === roomId;
      if (!problem && !this.boarded() && isHere) this.next(wall);
    } finally {
      this.busy.set(false);
      this.shot.set(undefined);
    }
  }
  /** On to the wall after this one that is left. */
  private next(from: PhotoWall): void {
    const walls = this.walls();
    const at = walls.findIndex((wall) => keyOf(wall) === keyOf(from));
    const round = [...walls.slice(at + 1), ...walls.slice(0, at)];
    const left = round.filter((wall) => !isPhotographed(wall) && !this.put().includes(keyOf(wall)));
    const to = left[0] ?? round.find((wall) => !isPhotographed(wall));
    this.go({ wall: to ? keyOf(to) : keyOf(from), photo: null, box: null });
  }
  protected skip(wall: PhotoWall): void {
    this.put.update((put) => [...put.filter((one) => one !== keyOf(wall)), keyOf(wall)]);
    this.next(wall);
  }
  protected nothing(wall: PhotoWall): void {
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          at: new Date().toISOString(),
          by: this.session.who().id,
          roomId: wall.roomId,
          ...(wall.corner !== undefined && { corner: wall.corner }),
          step: NOTHING_THERE_STEP,
        }),
      )?.message,
    );
    if (!this.problem()) this.next(wall);
  }
  protected takeBack(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }
}

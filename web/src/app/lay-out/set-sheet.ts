import { OnlyFor } from '../parts/only-for';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Box } from '@mule-tally/core';
import { adding, boxFacts, removing, setting } from '@mule-tally/core';
import type { SetBox, SetWall } from '@mule-tally/core/furnish';
import { SET_STEP, setList } from '@mule-tally/core/furnish';
import { staysAwake } from '../parts/screen';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { StandingWall } from '../parts/standing-wall';
import { wallPicture, waysOnWall } from '../parts/wall-picture';

/** How large a box is drawn, in inches. */
const GANG_IN = 4;
const BOX_HIGH_IN = 5;

interface Shown {
  readonly wall: SetWall;
  readonly entry: SetBox;
  readonly box: Box;
}

/** A letter of a tag as it is drawn, in inches. */
const LETTER_IN = 3.4;
const TAG_HIGH_IN = 6;

interface Drawn {
  readonly tag: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly isNext: boolean;
}
/** The tag of the next box always, of the others those that no tag before them stands in the way of. */
function withTags<B extends Drawn>(boxes: readonly B[]): (B & { readonly isNamed: boolean })[] {
  const named: B[] = [];
  const meets = (one: B, other: B): boolean =>
    Math.abs(one.x + one.width / 2 - other.x - other.width / 2) <
      ((one.tag.length + other.tag.length) * LETTER_IN) / 2 && Math.abs(one.y - other.y) < TAG_HIGH_IN;
  for (const box of boxes.toSorted((a, b) => Number(b.isNext) - Number(a.isNext)))
    if (!named.some((other) => meets(box, other))) named.push(box);
  return boxes.map((box) => ({ ...box, isNamed: named.includes(box) }));
}

/** Boxes of a room to be nailed up, wall by wall: the wall standing, the next box, where and how high; set with one touch. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-set-sheet',
  imports: [OnlyFor, StandingWall, ToldPipe, WordsPipe],
  templateUrl: './set-sheet.html',
  styleUrl: './set-sheet.scss',
})
export class SetSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  readonly room = input<string>();
  /** Boxes that cannot go where they were to, put off. */
  private readonly put = signal<readonly string[]>([]);
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    staysAwake();
  }

  protected readonly list = computed(() => {
    const [reader, room] = [this.derived.reader(), this.room()];
    return reader && room && reader.get('rooms', room) ? setList(reader, room) : undefined;
  });
  private readonly all = computed((): Shown[] =>
    (this.list()?.walls ?? []).flatMap((wall) =>
      wall.boxes.flatMap((entry) => {
        const box = this.derived.reader()?.get('boxes', entry.boxId);
        return box ? [{ wall, entry, box }] : [];
      }),
    ),
  );
  protected readonly next = computed(() => {
    const open = this.all().filter(({ entry }) => !entry.isSet);
    const put = this.put();
    return (
      open.find(({ box }) => !put.includes(box.id)) ??
      open.toSorted((a, b) => put.indexOf(a.box.id) - put.indexOf(b.box.id))[0]
    );
  });
  protected readonly left = computed(() =>
    this.all().filter(({ entry, box }) => !entry.isSet && box.id !== this.next()?.box.id),
  );
  protected readonly done = computed(() => this.all().filter(({ entry }) => entry.isSet));

  /** Where cables go in the walls of this room, found beside the screen. */
  private readonly drill = answerTo<'drill'>(() => {
    const roomId = this.room();
    return roomId && this.derived.reader()?.get('rooms', roomId) ? { about: 'drill', roomId } : undefined;
  });
  private readonly ways = computed(() => {
    const look = this.drill.value();
    // What was found of another room is not this one's.
    return look?.sheet.walls.every(({ roomId }) => roomId === this.room()) ? look.ways : undefined;
  });

  /** The wall of the next box, standing. */
  protected readonly picture = computed(() => {
    const next = this.next();
    return next && this.standing(next.wall, next.box.id);
  });
  /** Every wall with its boxes, as it is printed. */
  protected readonly sheets = computed(() =>
    (this.list()?.walls ?? []).map((wall) => ({
      wall,
      picture: this.standing(wall),
      rows: this.all().filter((shown) => shown.wall === wall),
    })),
  );

  /** A wall, standing: seen from the room, so that it runs from right to left. */
  private standing(wall: SetWall, nextId?: string) {
    const reader = this.derived.reader();
    if (!reader || wall.on !== 'wall') return undefined;
    const picture = wallPicture(reader, this.room()!, {
      corner: wall.corner!,
      lengthIn: wall.lengthIn!,
      startIn: wall.startIn!,
    });
    const { x, high } = picture;
    const boxes = wall.boxes.flatMap((entry) => {
      const own = reader.get('boxes', entry.boxId);
      if (!own) return [];
      const width = Math.max(1, entry.gangs) * GANG_IN;
      const top =
        own.heightReference === 'centre'
          ? (own.heightIn ?? 16) + BOX_HIGH_IN / 2
          : own.heightReference === 'bottom'
            ? (own.heightIn ?? 16) + BOX_HIGH_IN
            : (own.heightIn ?? 48);
      return [
        {
          id: own.id,
          tag: own.tag,
          x: x(entry.fromCornerIn!) - width / 2,
          y: high - top,
          width,
          isSet: entry.isSet,
          isNext: own.id === nextId,
        },
      ];
    });
    const ways = waysOnWall(this.ways(), wall.corner!, picture);
    return { ...picture, boxes: withTags(boxes), ways, boxHigh: BOX_HIGH_IN };
  }

  protected wallName(wall: SetWall): string {
    const { units } = this.derived.words()!.say;
    switch (wall.on) {
      case 'wall':
        return $localize`Wall ${wall.number!}, ${units.long(wall.lengthIn!)}`;
      case 'ceiling':
        return $localize`Ceiling`;
      case 'nowhere':
        return $localize`No place yet`;
    }
  }
  protected gangs({ entry, box }: Shown): string {
    const reader = this.derived.reader();
    const facts = reader && boxFacts(reader, box);
    if (!facts || facts.kind !== 'device') return this.derived.words()?.say.boxModel(facts!) ?? '';
    return entry.gangs === 1 ? $localize`1 gang` : $localize`${entry.gangs} gangs`;
  }
  protected fromCorner({ entry }: Shown): string {
    const units = this.derived.words()!.say.units;
    return entry.fromCornerIn === undefined
      ? ''
      : $localize`${units.long(entry.fromCornerIn)} from the right corner`;
  }
  protected height({ box }: Shown): string {
    if (box.heightIn === undefined) return '';
    const high = this.derived.words()!.say.units.short(box.heightIn);
    switch (box.heightReference) {
      case 'centre':
        return this.derived.inTrade($localize`${high} to its center`);
      case 'bottom':
        return $localize`${high} to its bottom`;
      default:
        return $localize`${high} to its top`;
    }
  }

  /** What floor and finish ask of it. */
  protected finish({ entry }: Shown): string {
    const units = this.derived.words()!.say.units;
    const parts = [
      entry.overSubfloorIn === undefined
        ? ''
        : $localize`${units.short(entry.overSubfloorIn)} over the subfloor`,
      entry.proudIn === undefined ? '' : $localize`stands out ${units.short(entry.proudIn)} from the stud`,
    ];
    return parts.filter(Boolean).join(' · ');
  }

  protected set({ box }: Shown): void {
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          at: new Date().toISOString(),
          by: this.session.who().id,
          boxId: box.id,
          step: SET_STEP,
        }),
      )?.message,
    );
  }
  /** Takes the tick of a box back. */
  protected unset({ box }: Shown): void {
    const ticks = this.derived.reader()?.mentioning('records', box.id) ?? [];
    const tick = ticks.findLast(({ kind, step }) => kind === 'tick' && step === SET_STEP);
    if (tick) this.problem.set(this.desk.make(removing('records', tick.id))?.message);
  }
  /** By how much a touch moves a box along its wall: an inch, or 25 mm. */
  protected readonly step = computed(() =>
    this.derived.units().typed === 'm'
      ? {
          inches: 25 / 25.4,
          text: '25 mm',
          left: $localize`25 mm to the left`,
          right: $localize`25 mm to the right`,
        }
      : {
          inches: 1,
          text: '1 in',
          left: $localize`1 inch to the left`,
          right: $localize`1 inch to the right`,
        },
  );
  protected nudge({ box }: Shown, times: 1 | -1): void {
    if (box.alongIn === undefined) return;
    const inches = times * this.step().inches;
    this.problem.set(
      this.desk.make(setting('boxes', box.id, { alongIn: Math.max(0, box.alongIn + inches) }))?.message,
    );
  }
  protected notHere({ box }: Shown): void {
    this.put.update((put) => [...put.filter((id) => id !== box.id), box.id]);
    this.problem.set(
      this.desk.make(setting('boxes', box.id, { placeNote: $localize`cannot go where it was to` }))?.message,
    );
  }
  protected print(): void {
    window.print();
  }
}

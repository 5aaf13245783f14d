import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterRenderEffect,
  computed,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { Fields, Room, SingleChangeBody } from '@mule-tally/core';
import { adding, boxFacts, boxesInRoom, removing, setting } from '@mule-tally/core';
import type { Outline, OutlineProblem, Place } from '@mule-tally/core/furnish';
import {
  inRows,
  movedBy,
  nearestWall,
  outlineOf,
  readOutline,
  sizeOfRoom,
  snapped,
  storeyPlan,
} from '@mule-tally/core/furnish';
import { select } from 'd3-selection';
import type { ZoomTransform } from 'd3-zoom';
import { zoom, zoomIdentity, zoomTransform } from 'd3-zoom';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { BoxEditor } from './box-editor';
import type { Shown } from './plan-picture';
import { pictureOf, wallNames } from './plan-picture';

/** What is being dragged, from where. */
interface Drag {
  readonly of: 'room' | 'box';
  readonly id: string;
  readonly from: Place;
  readonly to: Place;
  readonly hasMoved: boolean;
}
/** Less than this is a touch, not a drag, in pixels. */
const STILL = 5;
/** How near a wall has to come to another to be drawn to it, in inches. */
const REACH_IN = 8;
/** Between the floor's rooms and those that are laid in rows below them, in inches. */
const APART_IN = 60;

/** A story from above: rooms, walls, doors, boxes; rooms and boxes are dragged to where they are. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-sheet',
  imports: [BoxEditor, ToldPipe, Value, WordsPipe],
  templateUrl: './plan-sheet.html',
  styleUrl: './plan-sheet.scss',
})
export class PlanSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly router = inject(Router);
  readonly room = input<string>();
  readonly box = input<string>();

  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('sheet');
  private readonly layer = viewChild.required<ElementRef<SVGGElement>>('layer');
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly storeyPicked = signal<string | undefined>(undefined);
  protected readonly shows = signal<Shown>({
    heights: false,
    runs: false,
    circuits: false,
    spacing: false,
  });
  /** What is shown besides walls and boxes, where it is asked for. */
  protected readonly layers: readonly { readonly id: keyof Shown; readonly name: string }[] = [
    { id: 'heights', name: $localize`Heights` },
    { id: 'runs', name: $localize`Runs` },
    { id: 'circuits', name: $localize`Circuits` },
    { id: 'spacing', name: $localize`Spacing` },
  ];
  protected readonly placing = signal<string | undefined>(undefined);
  private readonly drag = signal<Drag | undefined>(undefined);
  /** The first view is set once; the zoom then moves the layer by itself. */
  protected readonly view = signal('');

  protected readonly storeys = computed(() => this.derived.reader()?.all('storeys') ?? []);
  /** The room that is chosen: `room` in the template is one of those that are drawn. */
  protected readonly here = this.room;
  protected readonly storeyId = computed(() => {
    const picked = this.storeyPicked();
    if (picked && this.storeys().some(({ id }) => id === picked)) return picked;
    const reader = this.derived.reader();
    return reader?.get('rooms', this.room() ?? '')?.storeyId ?? this.storeys()[0]?.id ?? '';
  });
  protected readonly storeyName = computed(
    () => this.storeys().find(({ id }) => id === this.storeyId())?.name ?? '',
  );
  protected readonly plan = computed(() => {
    const reader = this.derived.reader();
    return reader && this.storeyId() ? storeyPlan(reader, this.storeyId()) : undefined;
  });
  protected readonly picture = computed(() => {
    const [reader, plan] = [this.derived.reader(), this.plan()];
    return reader && plan?.rooms.length ? pictureOf(reader, plan, this.shows()) : undefined;
  });

  protected readonly chosenRoom = computed(() => {
    const room = this.derived.reader()?.get('rooms', this.room() ?? '');
    return room?.storeyId === this.storeyId() ? room : undefined;
  });
  protected readonly chosenBox = computed(() => this.derived.reader()?.get('boxes', this.box() ?? ''));
  protected readonly walls = computed(() => {
    const room = this.chosenRoom();
    const outline = room && outlineOf(room);
    return outline ? wallNames(outline) : [];
  });
  protected readonly openings = computed(() => {
    const room = this.chosenRoom();
    return room ? (this.derived.reader()?.mentioning('openings', room.id) ?? []) : [];
  });
  protected readonly unplaced = computed(() => {
    const [reader, room, plan] = [this.derived.reader(), this.chosenRoom(), this.plan()];
    if (!reader || !room?.outline || !plan) return [];
    const placed = new Set(plan.boxes.map(({ boxId }) => boxId));
    return boxesInRoom(reader, room.id).filter(({ id }) => !placed.has(id));
  });

  private readonly behaviour = zoom<SVGSVGElement, unknown>()
    .scaleExtent([0.1, 12])
    .filter((event: Event) => {
      if (event.type === 'wheel') return true;
      // What is dragged by itself is no dragging of the sheet; two fingers always are.
      const isOnThing = (event.target as Element).closest('.box, .room.chosen') !== null;
      return !isOnThing || ('touches' in event && (event as TouchEvent).touches.length > 1);
    })
    .on('zoom', ({ transform }: { transform: ZoomTransform }) =>
      // One transform of one layer: nothing is drawn anew while it moves.
      this.layer().nativeElement.setAttribute('transform', transform.toString()),
    );

  constructor() {
    inject(DestroyRef).onDestroy(() => select(this.svg().nativeElement).on('.zoom', null));
    afterRenderEffect(() => {
      const svg = select<SVGSVGElement, unknown>(this.svg().nativeElement);
      svg.call(this.behaviour).on('dblclick.zoom', null);
      this.storeyId();
      const isDrawn = this.picture() !== undefined;
      untracked(() => isDrawn && this.shownFor !== this.storeyId() && this.fit());
    });
  }
  /** The floor that was brought into view. */
  private shownFor = '';

  protected toggle(what: keyof Shown): void {
    this.shows.set({ ...this.shows(), [what]: !this.shows()[what] });
  }
  protected zoomBy(factor: number): void {
    this.behaviour.scaleBy(select<SVGSVGElement, unknown>(this.svg().nativeElement), factor);
  }
  protected fit(): void {
    const frame = this.picture()?.frame;
    const { clientWidth, clientHeight } = this.svg().nativeElement;
    if (!frame || !clientWidth || !clientHeight) return;
    const scale = Math.min(clientWidth / frame.width, clientHeight / frame.height);
    this.shownFor = this.storeyId();
    this.behaviour.transform(
      select<SVGSVGElement, unknown>(this.svg().nativeElement),
      zoomIdentity
        .translate(clientWidth / 2, clientHeight / 2)
        .scale(scale)
        .translate(-frame.x - frame.width / 2, -frame.y - frame.height / 2),
    );
  }

  /** Where on the plan an event is, in inches. */
  private at(event: PointerEvent): Place {
    const svg = this.svg().nativeElement;
    const { left, top } = svg.getBoundingClientRect();
    const [x, y] = zoomTransform(svg).invert([event.clientX - left, event.clientY - top]);
    return { xIn: x, yIn: -y };
  }

  protected pick(query: { room?: string; box?: string | null } | undefined): void {
    void this.router.navigate([], { queryParams: query ?? { box: null }, queryParamsHandling: 'merge' });
  }

  protected roomDown(id: string, event: PointerEvent): void {
    if (this.placing()) return;
    const from = this.at(event);
    this.drag.set({ of: 'room', id, from, to: from, hasMoved: false });
    // Only a room that is chosen already is dragged: a touch on another one chooses it.
    if (id === this.room()) this.svg().nativeElement.setPointerCapture(event.pointerId);
  }
  protected boxDown(id: string, event: PointerEvent): void {
    const from = this.at(event);
    this.drag.set({ of: 'box', id, from, to: from, hasMoved: false });
    this.svg().nativeElement.setPointerCapture(event.pointerId);
  }

  protected moved(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    if (drag.of === 'room' && drag.id !== this.room()) return;
    const scale = zoomTransform(this.svg().nativeElement).k;
    const to = this.at(event);
    const far = Math.hypot(to.xIn - drag.from.xIn, to.yIn - drag.from.yIn) * scale;
    if (far < STILL && !drag.hasMoved) return;
    this.drag.set({ ...drag, to, hasMoved: true });
    this.follow(drag, to);
  }

  /** What is dragged follows at once: its own element is moved, nothing else is drawn. */
  private follow(drag: Drag, to: Place): void {
    const [dx, dy] = [to.xIn - drag.from.xIn, -(to.yIn - drag.from.yIn)];
    const element = this.layer().nativeElement.querySelector<SVGGraphicsElement>(
      drag.of === 'room' ? '.room.chosen' : `.box[data-id="${drag.id}"]`,
    );
    if (element) element.style.translate = `${dx}px ${dy}px`;
  }
  private settle(): void {
    for (const element of this.layer().nativeElement.querySelectorAll<SVGGraphicsElement>('.room, .box'))
      element.style.translate = '';
  }

  protected canceled(): void {
    this.drag.set(undefined);
    this.settle();
  }

  protected released(event: PointerEvent): void {
    const [drag, placing] = [this.drag(), this.placing()];
    this.drag.set(undefined);
    this.settle();
    const to = this.at(event);
    if (placing) {
      this.placing.set(undefined);
      return this.placeBox(placing, to);
    }
    if (!drag) return;
    if (!drag.hasMoved)
      return this.pick(drag.of === 'room' ? { room: drag.id, box: null } : { box: drag.id });
    if (drag.of === 'box') return this.placeBox(drag.id, to);
    this.moveRoom(drag.id, to.xIn - drag.from.xIn, to.yIn - drag.from.yIn);
  }

  protected roomKey(id: string, event: KeyboardEvent): void {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      return this.pick({ room: id, box: null });
    }
    const step = event.shiftKey ? 1 : 12;
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    this.moveRoom(id, move[0], move[1], 0);
  }
  protected boxKey(id: string, event: KeyboardEvent): void {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      return this.pick({ box: id });
    }
    const box = this.derived.reader()?.get('boxes', id);
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (!by || box?.alongIn === undefined) return;
    event.preventDefault();
    const alongIn = Math.max(0, box.alongIn + by * (event.shiftKey ? 12 : 1));
    this.make([setting('boxes', id, { alongIn })], $localize`Moved box ${box.tag}`);
  }

  private make(changes: readonly SingleChangeBody[], title: string): void {
    if (changes.length === 0) return;
    const refusal = this.desk.make({ kind: 'group', title: title.slice(0, 200), changes: [...changes] });
    this.problem.set(refusal?.message);
  }

  private write(room: Room, outline: Outline): SingleChangeBody {
    return setting('rooms', room.id, { outline: outline.map(({ id, xIn, yIn }) => ({ id, xIn, yIn })) });
  }

  private moveRoom(id: string, dx: number, dy: number, reach = REACH_IN): void {
    const [reader, plan] = [this.derived.reader(), this.plan()];
    const room = reader?.get('rooms', id);
    const own = room && outlineOf(room);
    if (!reader || !plan || !room || !own) return;
    const others = plan.rooms.filter((other) => other.id !== id).map(({ outline }) => outline);
    const moved = movedBy(own, dx, dy);
    const next = reach ? snapped(moved, others, reach) : moved;
    const [ddx, ddy] = [next[0]!.xIn - own[0]!.xIn, next[0]!.yIn - own[0]!.yIn];
    // What stands in its ceiling goes along; what stands on its walls does so by itself.
    const along = reader
      .mentioning('boxes', id)
      .filter((box) => box.corner === undefined && box.xIn !== undefined && box.yIn !== undefined)
      .map((box) => setting('boxes', box.id, { xIn: box.xIn! + ddx, yIn: box.yIn! + ddy }));
    this.make([this.write(room, next), ...along], $localize`Moved ${room.name}`);
  }

  /** A box that is put down: on the nearest wall of its room, or in the ceiling where it hangs there. */
  private placeBox(id: string, to: Place): void {
    const reader = this.derived.reader();
    const box = reader?.get('boxes', id);
    const room = box?.roomId === undefined ? undefined : reader?.get('rooms', box.roomId);
    const outline = room && outlineOf(room);
    if (!reader || !box || !outline) return;
    const { kind } = boxFacts(reader, box);
    const round = (inches: number): number => Math.round(inches * 4) / 4;
    const title = $localize`Placed box ${box.tag}`;
    if (kind === 'ceiling' || kind === 'light-box')
      return this.make(
        [setting('boxes', id, { xIn: round(to.xIn), yIn: round(to.yIn), corner: null, alongIn: null })],
        title,
      );
    const wall = nearestWall(outline, to);
    if (wall)
      this.make(
        [
          setting('boxes', id, {
            corner: wall.corner,
            alongIn: round(wall.alongIn),
            xIn: null,
            yIn: null,
          }),
        ],
        title,
      );
  }

  /** Rooms that are not drawn, in rows by their sizes, below those that are. */
  protected layRooms(): void {
    const [reader, plan] = [this.derived.reader(), this.plan()];
    if (!reader || !plan) return;
    const depth = reader.rules().number('wall.interior');
    const rooms = plan.without
      .flatMap((id) => reader.get('rooms', id) ?? [])
      .sort((a, b) => a.order - b.order);
    const lowest = Math.min(APART_IN, ...plan.rooms.flatMap(({ outline }) => outline.map(({ yIn }) => yIn)));
    const outlines = inRows(
      rooms.map((room) => {
        const { lengthIn, widthIn } = sizeOfRoom(reader, room);
        return { id: room.id, lengthIn: lengthIn + depth, widthIn: widthIn + depth };
      }),
      lowest - APART_IN,
    );
    this.make(
      rooms.map((room) => this.write(room, outlines.get(room.id)!)),
      $localize`Laid ${rooms.length} rooms in rows`,
    );
    this.shownFor = '';
  }

  /** A typed outline takes the place of the one there is, with its lower left corner where that stood. */
  protected typeOutline(room: Room, typed: string): void {
    if (!typed.trim()) return;
    const [reader, plan] = [this.derived.reader(), this.plan()];
    if (!reader || !plan) return;
    const outline = readOutline(typed, reader.rules().number('wall.interior'));
    if (!outline) {
      return this.problem.set(
        $localize`“${typed.slice(0, 40)}” is no outline: say it as 12'6 x 10, or L 14 x 12 less 4 x 3.`,
      );
    }
    const own = outlineOf(room);
    const corner = own
      ? { x: Math.min(...own.map(({ xIn }) => xIn)), y: Math.min(...own.map(({ yIn }) => yIn)) }
      : { x: 0, y: Math.min(0, ...plan.rooms.flatMap((other) => other.outline.map(({ yIn }) => yIn))) - 200 };
    this.make(
      [this.write(room, movedBy(outline, corner.x, corner.y))],
      $localize`Outline of ${room.name}\: ${typed.slice(0, 40)}`,
    );
  }

  protected addOpening(room: Room, kind: 'door' | 'window'): void {
    const wall = this.walls()[0];
    if (!wall) return;
    const widthIn = kind === 'door' ? 32 : 36;
    this.make(
      [
        adding('openings', {
          id: crypto.randomUUID(),
          roomId: room.id,
          corner: wall.corner,
          alongIn: kind === 'door' ? 6 : Math.max(0, Math.round((wall.lengthIn - widthIn) / 2)),
          widthIn,
          sillIn: kind === 'door' ? 0 : 36,
          headIn: 80,
          kind,
          ...(kind === 'door' && { hinge: 'a' as const }),
        }),
      ],
      kind === 'door' ? $localize`Door in ${room.name}` : $localize`Window in ${room.name}`,
    );
  }
  protected setOpening(id: string, fields: Fields<'openings'>): void {
    this.problem.set(this.desk.make(setting('openings', id, fields))?.message);
  }
  protected setNumber(id: string, field: 'alongIn' | 'widthIn', typed: string): void {
    const inches = Number(typed);
    if (typed.trim() === '' || !Number.isFinite(inches) || inches < 0)
      return this.problem.set($localize`“${typed.slice(0, 20)}” is no number of inches.`);
    this.setOpening(id, { [field]: inches });
  }
  protected removeOpening(id: string): void {
    this.problem.set(this.desk.make(removing('openings', id))?.message);
  }

  protected wrongText(roomId: string, problem: OutlineProblem): string {
    const name = this.derived.reader()?.get('rooms', roomId)?.name ?? '';
    switch (problem) {
      case 'crossing':
        return $localize`${name}\: its walls cross each other. Type its outline anew.`;
      case 'no-area':
        return $localize`${name}\: its outline encloses no room. Type it anew.`;
      case 'corner-twice':
        return $localize`${name}\: two of its corners are one. Type its outline anew.`;
      case 'few-corners':
      case 'many-corners':
      case 'too-far':
        return $localize`${name}\: its outline cannot be a room's. Type it anew.`;
    }
  }
}

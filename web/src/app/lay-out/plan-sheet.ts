import { Rights } from '../state/rights';
import { OnlyFor } from '../parts/only-for';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterNextRender,
  afterRenderEffect,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { Room, SingleChangeBody } from '@mule-tally/core';
import { adding, boxFacts, boxesInRoom, runName, setting } from '@mule-tally/core';
import { cutOf, forcedThrough, lineOnStorey } from '@mule-tally/core/work';
import type { Outline, OutlineProblem, Place } from '@mule-tally/core/furnish';
import {
  contains,
  cornerMoved,
  footprint,
  clearInRows,
  facesOf,
  movedBy,
  overlapsOf,
  putDown,
  nearestWall,
  outlineOf,
  sizeOfRoom,
  snapped,
  storeyPlan,
  wallMoved,
  withOutline,
} from '@mule-tally/core/furnish';
import { PlanLines } from '../parts/plan-lines';
import type { Shown } from '../parts/plan-picture';
import { SHOWN, pictureOf } from '../parts/plan-picture';
import { PlanRuns, drawnRuns } from '../parts/plan-ways';
import { PlanZoom } from '../parts/plan-zoom';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { BoxEditor } from './box-editor';
import { FloorFields } from './floor-fields';
import { PlanRoom } from './plan-room';
import { PlanWay } from './plan-way';
import { UnderlayFields } from './underlay-fields';
import { UnderlayLayer } from './underlay-layer';
import { UnderlayWork } from './underlay-work';

/** What is being dragged, from where. */
interface Drag {
  readonly of: 'room' | 'box' | 'corner' | 'wall' | 'way';
  readonly id: string;
  readonly from: Place;
  readonly to: Place;
  readonly hasMoved: boolean;
}
interface Handle extends Place {
  readonly of: 'corner' | 'wall';
  readonly id: string;
  readonly nx: number;
  readonly ny: number;
  readonly label: string;
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
  imports: [
    PlanRuns,
    PlanWay,
    OnlyFor,
    BoxEditor,
    FloorFields,
    PlanLines,
    PlanRoom,
    ToldPipe,
    UnderlayFields,
    UnderlayLayer,
    Value,
    WordsPipe,
  ],
  providers: [UnderlayWork],
  templateUrl: './plan-sheet.html',
  styleUrl: './plan-sheet.scss',
})
export class PlanSheet {
  protected readonly rights = inject(Rights);
  protected readonly underlay = inject(UnderlayWork);
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly router = inject(Router);
  readonly room = input<string>();
  readonly box = input<string>();
  /** The run whose way is looked at. */
  readonly run = input<string>();

  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('sheet');
  private readonly layer = viewChild.required<ElementRef<SVGGElement>>('layer');
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly storeyPicked = signal<string | undefined>(undefined);
  protected readonly shows = signal<Shown>(SHOWN);
  /** What is shown besides walls and boxes, where it is asked for. */
  protected readonly layers: readonly { readonly id: keyof Shown; readonly name: string }[] = [
    { id: 'boxes', name: $localize`Boxes` },
    { id: 'heights', name: $localize`Heights` },
    { id: 'runs', name: $localize`Runs` },
    { id: 'circuits', name: $localize`Circuits` },
    { id: 'spacing', name: $localize`Spacing` },
  ];
  protected readonly placing = signal<string | undefined>(undefined);
  private readonly drag = signal<Drag | undefined>(undefined);
  /** The first view is set once; the zoom then moves the layer by itself. */
  protected readonly view = signal('');

  /** Where it is asked how far receptacles may stand apart. */
  protected readonly spacingSource = computed(() => {
    const words = this.derived.words();
    const sources = ['layout.reach', 'layout.counterReach'].map((rule) => words?.source({ rule }) ?? '');
    return [...new Set(sources)].join('; ');
  });
  protected readonly storeys = computed(() => this.derived.reader()?.all('storeys') ?? []);
  /** The room that is chosen: `room` in the template is one of those that are drawn. */
  protected readonly here = this.room;
  protected readonly storeyId = computed(() => {
    const picked = this.storeyPicked();
    if (picked && this.storeys().some(({ id }) => id === picked)) return picked;
    const reader = this.derived.reader();
    return reader?.get('rooms', this.room() ?? '')?.storeyId ?? this.storeys()[0]?.id ?? '';
  });
  protected readonly storey = computed(() => this.storeys().find(({ id }) => id === this.storeyId()));
  protected readonly storeyName = computed(() => this.storey()?.name ?? '');
  protected readonly plan = computed(() => {
    const reader = this.derived.reader();
    return reader && this.storeyId() ? storeyPlan(reader, this.storeyId()) : undefined;
  });
  /** Rooms that lie over each other: which one is meant, a person knows. */
  protected readonly overlaps = computed(() => {
    const [reader, plan] = [this.derived.reader(), this.plan()];
    const name = (id: string): string => reader?.get('rooms', id)?.name ?? '';
    const all = plan ? [...plan.overlaps, ...overlapsOf(plan)] : [];
    const pairs = new Set(all.map((pair) => pair.toSorted().join(' ')));
    return [...pairs].map((pair) => {
      const [one, other] = pair.split(' ').map(name);
      return $localize`${one} and ${other} lie over each other\: drag one of them away.`;
    });
  });
  protected readonly picture = computed(() => {
    const [reader, plan] = [this.derived.reader(), this.plan()];
    return reader && plan?.rooms.length ? pictureOf(reader, this.storeyId(), this.shows()) : undefined;
  });

  /** What is brought into view: the rooms; where none is drawn yet, the plan sheet. */
  private readonly frame = computed(() => this.picture()?.frame ?? this.underlay.frame());

  /** The run whose way is shown by itself. */
  protected readonly chosenRun = computed(() => this.derived.reader()?.get('runs', this.run() ?? ''));
  private readonly drawn = drawnRuns(
    () => (this.shows().runs ? this.storeyId() : undefined),
    () => this.picture(),
  );
  protected readonly runs = computed(() => {
    const reader = this.derived.reader();
    return this.drawn().map((run) => {
      const own = reader?.get('runs', run.id);
      return { ...run, label: reader && own ? $localize`Way of ${runName(reader, own)}` : '' };
    });
  });
  /** Dots on the way of the chosen run, each in the middle of a stretch of this story: what it is dragged by. */
  protected readonly wayDots = computed(() => {
    const [reader, run, floor] = [this.derived.reader(), this.chosenRun(), this.storeyId()];
    if (!reader || !run || !this.rights.isLead() || !this.shows().runs) return [];
    return cutOf(reader, run).way.segments.flatMap(({ from, to, lengthIn }, stretch) =>
      // Also what lies in the joists under this floor: it is drawn here.
      Math.hypot(from.xIn - to.xIn, from.yIn - to.yIn) < 12 ||
      lengthIn < 12 ||
      lineOnStorey(reader, [from, to], floor).length === 0
        ? []
        : [{ stretch, xIn: (from.xIn + to.xIn) / 2, yIn: (from.yIn + to.yIn) / 2 }],
    );
  });
  protected readonly beams = computed(() =>
    (this.derived.reader()?.mentioning('beams', this.storeyId()) ?? []).map(({ id, a, b, boring }) => ({
      id,
      isOpen: boring !== undefined,
      x1: a.xIn,
      y1: -a.yIn,
      x2: b.xIn,
      y2: -b.yIn,
    })),
  );
  /** The ends of a beam that is being drawn, as far as they have been touched. */
  protected readonly beaming = signal<readonly Place[] | undefined>(undefined);

  protected readonly chosenRoom = computed(() => {
    const room = this.derived.reader()?.get('rooms', this.room() ?? '');
    return room?.storeyId === this.storeyId() ? room : undefined;
  });
  protected readonly chosenBox = computed(() => this.derived.reader()?.get('boxes', this.box() ?? ''));
  /** What the corners and walls of the chosen room are dragged by; outward is (nx, ny). */
  protected readonly handles = computed((): readonly Handle[] => {
    if (this.chosenRun() || this.underlay.mode()) return [];
    const room = this.chosenRoom();
    const outline = room && outlineOf(room);
    if (!outline) return [];
    return outline.flatMap((a, at): Handle[] => {
      const b = outline[(at + 1) % outline.length]!;
      const length = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn) || 1;
      const [nx, ny] = [(b.yIn - a.yIn) / length, -(b.xIn - a.xIn) / length];
      const middle = { xIn: (a.xIn + b.xIn) / 2, yIn: (a.yIn + b.yIn) / 2 };
      return [
        { of: 'corner', id: a.id, xIn: a.xIn, yIn: a.yIn, nx, ny, label: $localize`Corner ${at + 1}` },
        { of: 'wall', id: a.id, ...middle, nx, ny, label: $localize`Wall ${at + 1}` },
      ];
    });
  });
  /** Walls of the floor below, pale: what stands over what. */
  protected readonly ghost = computed(() => {
    const reader = this.derived.reader();
    if (!reader || !this.ghosted()) return [];
    const storeys = this.storeys();
    const at = storeys.findIndex(({ id }) => id === this.storeyId());
    const other = storeys[at - 1] ?? storeys[at + 1];
    return other
      ? storeyPlan(reader, other.id).walls.map(({ a, b }) => ({
          x1: a.xIn,
          y1: -a.yIn,
          x2: b.xIn,
          y2: -b.yIn,
        }))
      : [];
  });
  protected readonly ghosted = signal(false);
  protected readonly unplaced = computed(() => {
    const [reader, room, plan] = [this.derived.reader(), this.chosenRoom(), this.plan()];
    if (!reader || !room?.outline || !plan) return [];
    const placed = new Set(plan.boxes.map(({ boxId }) => boxId));
    return boxesInRoom(reader, room.id).filter(({ id }) => !placed.has(id));
  });

  private readonly zoom = new PlanZoom(
    () => this.layer().nativeElement,
    '.box, .handle, .room.chosen, .underlay-hand',
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => this.zoom.forget(this.svg().nativeElement));
    // Not by the template: each move would look through all that is drawn.
    afterNextRender(() => {
      const svg = this.svg().nativeElement;
      svg.addEventListener('pointermove', (event) => this.moved(event));
      svg.addEventListener('pointerup', (event) => this.released(event));
      svg.addEventListener('pointercancel', () => this.canceled());
    });
    effect(() => this.underlay.shows(this.storey()));
    afterRenderEffect(() => {
      this.zoom.listen(this.svg().nativeElement);
      this.storeyId();
      const isDrawn = this.frame() !== undefined;
      untracked(() => isDrawn && this.shownFor !== this.storeyId() && this.fit());
    });
  }
  /** The floor that was brought into view. */
  private shownFor = '';

  protected toggle(what: keyof Shown): void {
    this.shows.set({ ...this.shows(), [what]: !this.shows()[what] });
  }
  protected zoomBy(factor: number): void {
    this.zoom.by(this.svg().nativeElement, factor);
  }
  protected fit(): void {
    const frame = this.frame();
    if (frame && this.zoom.fit(this.svg().nativeElement, frame)) this.shownFor = this.storeyId();
  }

  /** Where on the plan an event is, in inches. */
  private at(event: PointerEvent): Place {
    return this.zoom.at(this.svg().nativeElement, event);
  }

  protected pick(query: { room?: string; box?: string | null; run?: string | null } | undefined): void {
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

  protected handleDown(of: 'corner' | 'wall' | 'way', id: string, event: PointerEvent): void {
    const from = this.at(event);
    this.drag.set({ of, id, from, to: from, hasMoved: false });
    this.svg().nativeElement.setPointerCapture(event.pointerId);
  }

  private moved(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    if (drag.of === 'room' && drag.id !== this.room()) return;
    const scale = this.zoom.scaleOf(this.svg().nativeElement);
    const to = this.at(event);
    const far = Math.hypot(to.xIn - drag.from.xIn, to.yIn - drag.from.yIn) * scale;
    if (far < STILL && !drag.hasMoved) return;
    this.drag.set({ ...drag, to, hasMoved: true });
    this.follow(drag, to);
  }

  /** What is dragged follows at once: its own element is moved, nothing else is drawn. */
  private follow(drag: Drag, to: Place): void {
    const [dx, dy] = [to.xIn - drag.from.xIn, -(to.yIn - drag.from.yIn)];
    if (drag.of === 'corner' || drag.of === 'wall') {
      const next = this.reshaped(drag, to);
      const polygon = this.layer().nativeElement.querySelector('.room.chosen');
      if (next) polygon?.setAttribute('points', next.map(({ xIn, yIn }) => `${xIn},${-yIn}`).join(' '));
      return;
    }
    const element = this.layer().nativeElement.querySelector<SVGGraphicsElement>(
      drag.of === 'room'
        ? '.room.chosen'
        : drag.of === 'way'
          ? `.handle[data-id="${drag.id}"]`
          : `.box[data-id="${drag.id}"]`,
    );
    if (element) element.style.translate = `${dx}px ${dy}px`;
  }
  /** The outline of the chosen room with a corner or a wall where it is dragged to, drawn to the lines of others. */
  private reshaped({ of, id, from }: Drag, to: Place): Outline | undefined {
    const [room, plan] = [this.chosenRoom(), this.plan()];
    const outline = room && outlineOf(room);
    if (!outline || !plan) return undefined;
    const others = plan.rooms.filter((other) => other.id !== room.id).map((other) => other.outline);
    if (of === 'corner') return cornerMoved(outline, id, to, others, REACH_IN);
    const wall = this.handles().find((handle) => handle.of === 'wall' && handle.id === id);
    const out = wall ? (to.xIn - from.xIn) * wall.nx + (to.yIn - from.yIn) * wall.ny : 0;
    return wallMoved(outline, id, out, others, REACH_IN);
  }
  private reshape(drag: Drag, to: Place): void {
    const [reader, room, next] = [this.derived.reader(), this.chosenRoom(), this.reshaped(drag, to)];
    if (!reader || !room || !next) return;
    const edited = withOutline(reader, room, next, false);
    if (edited.ok) return this.make(edited.changes, $localize`Walls of ${room.name}`);
    this.problem.set($localize`Its walls would cross each other, or enclose no room\: nothing was changed.`);
  }
  protected handleKey(of: 'corner' | 'wall', id: string, event: KeyboardEvent): void {
    const step = event.shiftKey ? 1 : 12;
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const move = by[event.key];
    const [reader, room] = [this.derived.reader(), this.chosenRoom()];
    const outline = room && outlineOf(room);
    const handle = this.handles().find((own) => own.of === of && own.id === id);
    if (!move || !reader || !outline || !handle) return;
    event.preventDefault();
    const next =
      of === 'corner'
        ? cornerMoved(outline, id, { xIn: handle.xIn + move[0], yIn: handle.yIn + move[1] })
        : wallMoved(outline, id, move[0] * handle.nx + move[1] * handle.ny);
    const edited = withOutline(reader, room, next, false);
    if (edited.ok) this.make(edited.changes, $localize`Walls of ${room.name}`);
  }

  private settle(): void {
    for (const element of this.layer().nativeElement.querySelectorAll<SVGGraphicsElement>(
      '.room, .box, .handle',
    ))
      element.style.translate = '';
    // A polygon that was drawn by hand is as the house has it.
    const polygon = this.layer().nativeElement.querySelector('.room.chosen');
    const own = this.picture()?.rooms.find(({ id }) => id === this.room());
    if (own) polygon?.setAttribute('points', own.points);
  }

  private canceled(): void {
    this.drag.set(undefined);
    this.settle();
  }

  private released(event: PointerEvent): void {
    const [drag, placing] = [this.drag(), this.placing()];
    this.drag.set(undefined);
    this.settle();
    const to = this.at(event);
    if (placing) {
      this.placing.set(undefined);
      return this.placeBox(placing, to);
    }
    if (this.beaming()) return this.beamEnd(to);
    if (!drag) return;
    if (drag.of === 'corner' || drag.of === 'wall') {
      if (drag.hasMoved) this.reshape(drag, to);
      return;
    }
    if (drag.of === 'way') {
      if (drag.hasMoved) this.force(Number(drag.id), to);
      return;
    }
    if (!drag.hasMoved)
      return this.pick(drag.of === 'room' ? { room: drag.id, box: null } : { box: drag.id });
    if (drag.of === 'box') return this.placeBox(drag.id, to);
    this.moveRoom(drag.id, to.xIn - drag.from.xIn, to.yIn - drag.from.yIn);
  }

  /** The way of the chosen run goes through another place from now on. */
  private force(stretch: number, to: Place): void {
    const [reader, run] = [this.derived.reader(), this.chosenRun()];
    if (!reader || !run) return;
    this.make(
      [setting('runs', run.id, { route: [...forcedThrough(reader, run, stretch, to)] })],
      $localize`Way of ${runName(reader, run)}`,
    );
  }
  protected dotKey(stretch: number, at: Place, event: KeyboardEvent): void {
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-24, 0],
      ArrowRight: [24, 0],
      ArrowUp: [0, 24],
      ArrowDown: [0, -24],
    };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    this.force(stretch, { xIn: at.xIn + move[0], yIn: at.yIn + move[1] });
  }
  protected drawBeam(): void {
    this.beaming.set(this.beaming() ? undefined : []);
  }
  /** An end of a beam: at the corner that is near, or where it was touched. */
  private beamEnd(to: Place): void {
    const corners = (this.plan()?.rooms ?? []).flatMap(({ outline }) => outline);
    const near = corners.find(({ xIn, yIn }) => Math.hypot(xIn - to.xIn, yIn - to.yIn) < REACH_IN);
    const end = near ?? to;
    const [first] = this.beaming()!;
    const at = { xIn: Math.round(end.xIn), yIn: Math.round(end.yIn) };
    if (!first) return this.beaming.set([at]);
    this.beaming.set(undefined);
    if (Math.hypot(first.xIn - at.xIn, first.yIn - at.yIn) < 6)
      return this.problem.set($localize`A beam has two ends: nothing was drawn.`);
    this.make(
      [
        adding('beams', {
          id: crypto.randomUUID(),
          storeyId: this.storeyId(),
          a: { xIn: first.xIn, yIn: first.yIn },
          b: at,
        }),
      ],
      $localize`A beam`,
    );
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
    const next = putDown(reader, room, reach ? snapped(moved, others, reach) : moved);
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
    // What is put down on an island stands there, not on the nearest wall.
    const face = facesOf(reader, room.id);
    const isOnIsland = reader
      .mentioning('bands', room.id)
      .some(
        (band) =>
          ['island', 'peninsula'].includes(band.kind) && contains(footprint(band, outline, face) ?? [], to),
      );
    if (isOnIsland)
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
    const rooms = plan.without
      .flatMap((id) => reader.get('rooms', id) ?? [])
      .sort((a, b) => a.order - b.order);
    const lowest = Math.min(APART_IN, ...plan.rooms.flatMap(({ outline }) => outline.map(({ yIn }) => yIn)));
    const outlines = clearInRows(
      reader,
      rooms.map((room) => {
        const { lengthIn, widthIn } = sizeOfRoom(reader, room);
        return { id: room.id, lengthIn, widthIn };
      }),
      lowest - APART_IN,
    );
    this.make(
      rooms.map((room) => this.write(room, outlines.get(room.id)!)),
      $localize`Laid ${rooms.length} rooms in rows`,
    );
    this.shownFor = '';
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

import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { BandKind, Fields, Room, SingleChangeBody } from '@mule-tally/core';
import { BandKind as BandKinds, adding, removing, setting } from '@mule-tally/core';
import type { EditProblem, Edited, SentenceProblem } from '@mule-tally/core/furnish';
import {
  cornerAdded,
  cornerRemoved,
  joinRooms,
  outlineOf,
  outlineAround,
  readOutline,
  setBySentence,
  splitRoom,
  storeyPlan,
  withOutline,
} from '@mule-tally/core/furnish';
import { FeetPad } from '../parts/feet-pad';
import { BAND_NAMES, wallNames } from '../parts/plan-picture';
import { ToldPipe } from '../parts/term';
import { readShortField } from '../parts/short-field';
import { TradePipe } from '../parts/trade';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** Depth, foot and top of what is built in, in inches, as it usually is: common practice. */
const USUAL: Readonly<Record<BandKind, readonly [width: number, depth: number, from: number, to: number]>> = {
  cabinet: [36, 12, 54, 84],
  counter: [72, 25, 0, 36],
  island: [60, 36, 0, 36],
  peninsula: [36, 60, 0, 36],
  vanity: [48, 21, 0, 34],
  basin: [18, 18, 30, 34],
  mirror: [36, 1, 42, 78],
  tub: [60, 30, 0, 20],
  shower: [36, 36, 0, 80],
  trim: [3.5, 1, 0, 84],
  fireplace: [60, 24, 0, 60],
};

/** A room of the plan: its outline, what is typed about it in a sentence, doors and windows, what is built in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-room',
  imports: [FeetPad, ToldPipe, TradePipe, Value, WordsPipe],
  templateUrl: './plan-room.html',
  styleUrl: './plan-room.scss',
})
export class PlanRoom {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  readonly room = input.required<Room>();
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly done = signal<string | undefined>(undefined);
  protected readonly bandKinds = BandKinds.options;
  protected readonly bandNames = BAND_NAMES;
  protected readonly outlineTyped = signal('');
  /** The pad for gloves, where there is no keyboard: shown once the field has been touched. */
  protected readonly padOpen = signal(false);
  protected readonly half = signal('50');

  protected readonly units = this.derived.units;
  /** How a size and a sentence are typed, in the units of the house. */
  protected readonly examples = computed(() =>
    this.units().typed === 'm'
      ? {
          outline: $localize`3.6 x 4.2, or L 4.2 x 3.6 less 1.2 x 0.9`,
          sentence: $localize`two gang left of the door at 1200`,
          sentences: $localize`“two gang left of the door at 1200”, “receptacles every 3.6 m from the door”, “receptacle on wall 2, 0.9 m from the left corner”, “four recessed lights”`,
        }
      : {
          outline: $localize`12'6 x 10, or L 14 x 12 less 4 x 3`,
          sentence: $localize`two gang left of the door at 48`,
          sentences: $localize`“two gang left of the door at 48”, “receptacles every 12 feet from the door”, “receptacle on wall 2, 3 feet from the left corner”, “four recessed lights”`,
        },
  );

  protected readonly outline = computed(() => outlineOf(this.room()));
  protected readonly walls = computed(() => wallNames(this.outline() ?? [], this.units()));
  protected readonly openings = computed(
    () => this.derived.reader()?.mentioning('openings', this.room().id) ?? [],
  );
  /** Openings that reach past the end of their wall, or whose wall is gone. */
  protected readonly adrift = computed((): ReadonlySet<string> => {
    const reader = this.derived.reader();
    const plan = reader && storeyPlan(reader, this.room().storeyId);
    // Of a room that is not drawn nothing is known.
    if (!plan?.rooms.some(({ id }) => id === this.room().id)) return new Set();
    const fits = new Set(plan.openings.flatMap(({ openingId, isOff }) => (isOff ? [] : [openingId])));
    return new Set(this.openings().flatMap(({ id }) => (fits.has(id) ? [] : [id])));
  });
  protected readonly bands = computed(() => this.derived.reader()?.mentioning('bands', this.room().id) ?? []);
  /** Rooms of the same floor that are drawn: one of them may be one with this. */
  protected readonly others = computed(() => {
    const reader = this.derived.reader();
    const { id, storeyId } = this.room();
    return reader
      ? storeyPlan(reader, storeyId).rooms.flatMap((other) =>
          other.id === id ? [] : [{ id: other.id, name: reader.get('rooms', other.id)!.name }],
        )
      : [];
  });
  protected readonly board = computed(() => this.room().finishes?.find(({ corner }) => !corner)?.boardIn);

  private make(changes: readonly SingleChangeBody[], title: string): boolean {
    this.done.set(undefined);
    if (changes.length === 0) return true;
    const refusal = this.desk.make({ kind: 'group', title: title.slice(0, 200), changes: [...changes] });
    this.problem.set(refusal?.message);
    return refusal === undefined;
  }
  private edit(edited: Edited, title: string): boolean {
    if (edited.ok) return this.make(edited.changes, title);
    this.problem.set(this.editText(edited.problem));
    return false;
  }

  /** A typed outline takes the place of the one there is, with its lower left corner where that stood. */
  protected typeOutline(typed: string): void {
    const reader = this.derived.reader();
    const room = this.room();
    if (!typed.trim() || !reader) return;
    const clear = readOutline(typed, 0, this.units().typed);
    if (!clear) {
      return this.problem.set(
        $localize`“${typed.slice(0, 40)}” is no outline: say it as ${this.examples().outline}.`,
      );
    }
    const own = this.outline();
    const all = storeyPlan(reader, room.storeyId).rooms.flatMap((other) => other.outline);
    const corner = own
      ? { x: Math.min(...own.map(({ xIn }) => xIn)), y: Math.min(...own.map(({ yIn }) => yIn)) }
      : { x: 0, y: Math.min(0, ...all.map(({ yIn }) => yIn)) - 200 };
    const moved = outlineAround(reader, room, clear, { xIn: corner.x, yIn: corner.y });
    this.make(
      [setting('rooms', room.id, { outline: moved.map(({ id, xIn, yIn }) => ({ id, xIn, yIn })) })],
      $localize`Outline of ${room.name}\: ${typed.slice(0, 40)}`,
    );
    this.outlineTyped.set('');
    this.padOpen.set(false);
  }

  protected say(field: HTMLInputElement): void {
    const reader = this.derived.reader();
    const text = field.value;
    if (!reader || !text.trim()) return;
    const found = setBySentence(reader, this.room(), text);
    if ('problem' in found) return this.problem.set(this.sentenceText(found.problem, text));
    if (this.make(found.changes, $localize`${this.room().name}\: ${text.slice(0, 80)}`)) {
      field.value = '';
      this.done.set($localize`Set ${found.tags.join(', ')}\: to be wired under Boxes and Controls.`);
    }
  }
  private sentenceText(problem: SentenceProblem, text: string): string {
    switch (problem) {
      case 'not-read':
        return $localize`“${text.slice(0, 40)}” says not what, or not where: say ${this.derived.inTrade(this.examples().sentences)}.`;
      case 'no-outline':
        return $localize`${this.room().name} is not drawn yet: type its outline first.`;
      case 'no-door':
        return $localize`${this.room().name} has no door yet: add it first.`;
      case 'no-window':
        return $localize`${this.room().name} has no window yet: add it first.`;
      case 'no-wall':
        return $localize`${this.room().name} has no wall of that number: it has ${this.walls().length}.`;
      case 'no-room':
        return $localize`There is no wall there: it would stand beyond a corner.`;
    }
  }

  protected addCorner(corner: string): void {
    const outline = this.outline();
    const wall = this.walls().find((own) => own.corner === corner);
    const reader = this.derived.reader();
    if (!outline || !wall || !reader) return;
    this.edit(
      withOutline(reader, this.room(), cornerAdded(outline, corner, wall.lengthIn / 2), true),
      $localize`A corner more in ${this.room().name}`,
    );
  }
  protected removeCorner(corner: string): void {
    const outline = this.outline();
    const reader = this.derived.reader();
    if (!outline || !reader) return;
    this.edit(
      withOutline(reader, this.room(), cornerRemoved(outline, corner), true),
      $localize`A corner less in ${this.room().name}`,
    );
  }
  protected split(from: string, to: string): void {
    const reader = this.derived.reader();
    const room = this.room();
    const part = Number(this.half()) / 100;
    if (!reader || !(part > 0 && part < 1))
      return this.problem.set($localize`Say how far along the wall, in percent: 1 to 99.`);
    const at = (corner: string, share: number) => ({
      corner,
      alongIn: (this.walls().find((wall) => wall.corner === corner)?.lengthIn ?? 0) * share,
    });
    // Walls that face each other run opposite ways: the same share of both is square across.
    this.edit(
      splitRoom(reader, room, [at(from, part), at(to, 1 - part)], {
        id: crypto.randomUUID(),
        name: `${room.name} 2`.slice(0, 200),
        kind: room.kind,
      }),
      $localize`Split ${room.name}`,
    );
  }
  protected join(otherId: string): void {
    const reader = this.derived.reader();
    const other = reader?.get('rooms', otherId);
    if (!reader || !other) return;
    this.edit(joinRooms(reader, this.room(), other), $localize`Joined ${this.room().name} and ${other.name}`);
  }

  private editText(problem: EditProblem): string {
    switch (problem) {
      case 'apart':
        return $localize`These rooms do not touch: drag one to the other first.`;
      case 'no-such-wall':
        return $localize`Choose two walls that are not the same.`;
      case 'crossing':
        return $localize`Its walls would cross each other: nothing was changed.`;
      case 'few-corners':
        return $localize`A room has three corners at least: nothing was changed.`;
      case 'no-area':
        return $localize`It would enclose no room: nothing was changed.`;
      case 'many-corners':
      case 'corner-twice':
      case 'too-far':
        return $localize`It cannot be the outline of a room: nothing was changed.`;
    }
  }

  protected addOpening(kind: 'door' | 'window'): void {
    const room = this.room();
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
  /** A sliding door is half glass that stays, which counts as wall, and half a doorway. */
  protected addSlider(): void {
    const room = this.room();
    const wall = this.walls()[0];
    if (!wall) return;
    const half = (kind: 'door' | 'window', alongIn: number): SingleChangeBody =>
      adding('openings', {
        id: crypto.randomUUID(),
        roomId: room.id,
        corner: wall.corner,
        alongIn,
        widthIn: 36,
        sillIn: 0,
        headIn: 80,
        kind,
      });
    this.make([half('window', 6), half('door', 42)], $localize`Sliding door in ${room.name}`);
  }
  protected setVaulted(isVaulted: boolean): void {
    const refusal = this.desk.make(setting('rooms', this.room().id, { vaulted: isVaulted || null }));
    this.problem.set(refusal?.message);
  }
  protected setOpening(id: string, fields: Fields<'openings'>): void {
    this.problem.set(this.desk.make(setting('openings', id, fields))?.message);
  }
  protected addBand(kind: BandKind): void {
    const room = this.room();
    const [wall, outline] = [this.walls()[0], this.outline()];
    if (!wall || !outline) return;
    const [widthIn, depthIn, fromIn, toIn] = USUAL[kind];
    const middle = (field: 'xIn' | 'yIn', size: number): number =>
      Math.round(
        (Math.min(...outline.map((c) => c[field])) + Math.max(...outline.map((c) => c[field])) - size) / 2,
      );
    const place =
      kind === 'island'
        ? { xIn: middle('xIn', widthIn), yIn: middle('yIn', depthIn) }
        : { corner: wall.corner, alongIn: 2 };
    this.make(
      [
        adding('bands', {
          id: crypto.randomUUID(),
          roomId: room.id,
          kind,
          widthIn,
          depthIn,
          fromIn,
          toIn,
          ...place,
        }),
      ],
      $localize`Built in\: ${this.derived.inTrade(BAND_NAMES[kind])}, ${room.name}`,
    );
  }
  protected setBand(id: string, fields: Fields<'bands'>): void {
    this.problem.set(this.desk.make(setting('bands', id, fields))?.message);
  }
  protected remove(table: 'openings' | 'bands', id: string): void {
    this.problem.set(this.desk.make(removing(table, id))?.message);
  }
  /** A short length of a field, in inches; undefined, and said, where it is none. */
  private inches(typed: string): number | undefined {
    const read = readShortField(typed, this.units());
    if ('problem' in read) this.problem.set(read.problem);
    return 'inches' in read ? read.inches : undefined;
  }
  /** A short length as its field shows it. */
  protected short(inches: number | undefined): string {
    return inches === undefined ? '' : this.units().shortNumber(inches);
  }
  protected setOpeningNumber(id: string, field: 'alongIn' | 'widthIn' | 'sillIn', typed: string): void {
    const inches = this.inches(typed);
    if (inches !== undefined) this.setOpening(id, { [field]: inches });
  }
  protected setBandNumber(
    id: string,
    field: 'alongIn' | 'widthIn' | 'depthIn' | 'fromIn' | 'toIn',
    typed: string,
  ): void {
    const inches = this.inches(typed);
    if (inches !== undefined) this.setBand(id, { [field]: inches });
  }
  protected setFloor(typed: string): void {
    const inches = typed.trim() ? this.inches(typed) : 0;
    if (inches !== undefined)
      this.make(
        [setting('rooms', this.room().id, { floorBuildIn: inches || null })],
        $localize`Floor of ${this.room().name}`,
      );
  }
  protected setBoard(typed: string): void {
    const inches = typed.trim() ? this.inches(typed) : 0;
    if (inches === undefined) return;
    const others = (this.room().finishes ?? []).filter(({ corner }) => corner);
    const finishes = inches ? [{ boardIn: inches }, ...others] : others;
    this.make(
      [setting('rooms', this.room().id, { finishes: finishes.length ? finishes : null })],
      $localize`Board of ${this.room().name}`,
    );
  }
  protected tileOf(corner: string): number | undefined {
    return this.room().finishes?.find((finish) => finish.corner === corner)?.tileIn;
  }
  protected setTile(corner: string, typed: string): void {
    const inches = typed.trim() ? this.inches(typed) : 0;
    if (inches === undefined) return;
    const others = (this.room().finishes ?? []).filter((finish) => finish.corner !== corner);
    const own = inches ? [{ corner, boardIn: this.board() ?? 0.5, tileIn: inches }] : [];
    const finishes = [...others, ...own];
    this.make(
      [setting('rooms', this.room().id, { finishes: finishes.length ? finishes : null })],
      $localize`Tile in ${this.room().name}`,
    );
  }
}

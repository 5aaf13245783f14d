import { ToldPipe } from '../parts/term';
import { TradePipe } from '../parts/trade';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  Injector,
  afterNextRender,
  computed,
  inject,
  signal,
} from '@angular/core';
import type { CdkDragDrop } from '@angular/cdk/drag-drop';
import { CdkDrag, CdkDragHandle, CdkDropList, moveItemInArray } from '@angular/cdk/drag-drop';
import type { Fields, Room, Storey } from '@mule-tally/core';
import { RoomKind, adding, setting } from '@mule-tally/core';
import { readRoomLine, readSize, sizeOfRoom } from '@mule-tally/core/furnish';
import { kindFromName } from '../parts/room-kind';
import { ReactiveFormsModule } from '@angular/forms';
import * as z from 'zod';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { Removal } from '../parts/removal';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** A side as it is typed again: feet, with inches where there are any, exact; or meters. */
const sideText = (inches: number, unit: 'ft' | 'm'): string => {
  if (unit === 'm') return String(Math.round(inches * 25.4) / 1000);
  const feet = Math.floor(inches / 12);
  const more = Math.round((inches - feet * 12) * 100) / 100;
  return more ? `${feet}'${more}` : `${feet}`;
};

const NEW_ROOM = z.object({
  name: z
    .string()
    .trim()
    .min(1, $localize`Say what the room is called.`),
  storeyId: z.string(),
});

/** Storeys and rooms, in walking order. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-rooms-editor',
  imports: [ToldPipe, TradePipe, WordsPipe, ReactiveFormsModule, Value, CdkDropList, CdkDrag, CdkDragHandle],
  template: `
    <form class="panel-form fields" [formGroup]="form" (ngSubmit)="addRoom()">
      <label
        ><span i18n class="name">New room</span
        ><input class="form-control" maxlength="200" formControlName="name"
      /></label>
      <label
        ><span i18n class="name">Floor</span>
        <select class="form-select" formControlName="storeyId">
          <option i18n value="">the last one</option>
          @for (storey of storeys(); track storey.id) {
            <option [value]="storey.id">{{ storey.name }}</option>
          }
        </select></label
      >
      <button i18n type="submit" class="btn btn-main" [disabled]="form.invalid || !storeys().length">
        Add the room
      </button>
      <button i18n type="button" class="btn btn-line" (click)="addStorey()">Add a floor</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @for (storey of storeys(); track storey.id) {
      <h2>
        <input
          class="form-control storey"
          maxlength="200"
          i18n-aria-label
          aria-label="Name of the floor"
          [mtValue]="storey.name"
          mtOnLeave
          (mtValueChange)="setStorey(storey, { name: $event })"
        />
        <button i18n type="button" class="btn btn-danger-line" (click)="remove('storeys', storey.id)">
          Remove the floor
        </button>
      </h2>
      <div
        cdkDropList
        [cdkDropListData]="storey.id"
        (cdkDropListDropped)="dropped(storey.id, $event)"
        role="list"
        [attr.aria-label]="'Rooms of {} in walking order' | words: storey.name"
      >
        @for (room of roomsOf(storey.id); track room.id) {
          <div class="room" cdkDrag role="listitem">
            <button
              type="button"
              class="btn btn-line handle"
              cdkDragHandle
              [attr.aria-label]="'{} on the walk: arrow keys or drag' | words: room.name"
              (keydown.arrowUp)="step(room, -1, $event)"
              (keydown.arrowDown)="step(room, 1, $event)"
            >
              ⠿
            </button>
            <input
              class="form-control"
              maxlength="200"
              [attr.aria-label]="'Name of {}' | words: room.name"
              [mtValue]="room.name"
              mtOnLeave
              (mtValueChange)="setRoom(room, { name: $event })"
            />
            <select
              class="form-select"
              [attr.aria-label]="'Kind of {}' | words: room.name"
              [mtValue]="room.kind"
              (mtValueChange)="setRoom(room, { kind: $event })"
            >
              @for (kind of kinds; track kind) {
                <option [value]="kind">{{ kind.replace('-', ' ') | told | trade }}</option>
              }
            </select>
            <input
              class="form-control num"
              maxlength="40"
              [placeholder]="sizeOf(room)"
              [attr.aria-label]="
                (isMetric() ? 'Size of {}, meters by meters' : 'Size of {}, feet by feet') | words: room.name
              "
              [mtValue]="sizeText(room)"
              mtOnLeave
              (mtValueChange)="setSize(room, $event)"
            />
            <select
              class="form-select"
              [attr.aria-label]="'Ways into {}' | words: room.name"
              [mtValue]="room.ways ?? 0"
              (mtValueChange)="setRoom(room, { ways: $event || null })"
            >
              <option i18n [value]="0">ways in: usual</option>
              @for (count of [1, 2, 3, 4]; track count) {
                <option [value]="count">
                  {{ (count === 1 ? '1 way in' : '{} ways in') | words: count }}
                </option>
              }
            </select>
            <button
              i18n
              type="button"
              class="btn btn-danger-line"
              (click)="remove('rooms', room.id)"
              [attr.aria-label]="'Remove {}' | words: room.name"
            >
              Remove
            </button>
          </div>
        } @empty {
          <p i18n class="soft">No room on this floor.</p>
        }
      </div>
    }
    <p class="visually-hidden" aria-live="polite">{{ moved() }}</p>
  `,
  styles: `
    h2 {
      display: flex;
      gap: 0.6rem;
      padding-bottom: 0.3rem;
    }
    .storey {
      max-width: 20rem;
      font-weight: 700;
    }
    .room {
      display: grid;
      grid-template-columns: auto 1fr 9rem 8.5rem 9.5rem auto;
      gap: 0.4rem;
      margin-bottom: 0.4rem;
    }
    .handle {
      cursor: grab;
    }
    .cdk-drag-preview {
      background: var(--paper-raised);
      border: 1.5px solid var(--ink);
    }
    .cdk-drag-placeholder {
      opacity: 0.3;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    @media (max-width: 700px) {
      .room {
        grid-template-columns: auto 1fr auto;
      }
      .room select {
        grid-column: 2 / 3;
      }
    }
  `,
})
export class RoomsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly removal = inject(Removal);
  protected readonly kinds = RoomKind.options;
  protected readonly form = formOf({ name: '', storeyId: '' }, NEW_ROOM);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly storeys = computed(() => this.derived.reader()?.all('storeys') ?? []);
  private readonly rooms = computed(() =>
    [...(this.derived.reader()?.all('rooms') ?? [])].sort((a, b) => a.order - b.order),
  );

  protected roomsOf(storeyId: string): readonly Room[] {
    return this.rooms().filter((room) => room.storeyId === storeyId);
  }

  protected isMetric(): boolean {
    return this.unit() === 'm';
  }
  private unit(): 'ft' | 'm' {
    return this.derived.units().typed;
  }
  private example(): string {
    return this.unit() === 'm' ? $localize`3.8 x 3, in meters` : $localize`12'6 x 10, in feet, 1 to 500`;
  }

  protected addRoom(): void {
    const read = NEW_ROOM.safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const { name, doubt, ...size } = readRoomLine(read.data.name, this.unit());
    const storeyId = read.data.storeyId || this.storeys().at(-1)?.id;
    if (!storeyId) return;
    const order = Math.max(0, ...this.rooms().map((room) => room.order)) + 1;
    const refusal = this.desk.make(
      adding('rooms', { id: crypto.randomUUID(), storeyId, name, ...size, kind: kindFromName(name), order }),
    );
    this.problem.set(
      refusal?.message ??
        (doubt &&
          $localize`“${doubt}” is no size, so it stands in the name of the room\: say it as ${this.example()}.`),
    );
    if (!refusal) this.form.controls.name.reset();
  }

  protected addStorey(): void {
    this.desk.make(
      adding('storeys', { id: crypto.randomUUID(), name: $localize`Floor ${this.storeys().length + 1}` }),
    );
  }

  protected setRoom(room: Room, fields: Fields<'rooms'>): void {
    this.problem.set(this.desk.make(setting('rooms', room.id, fields))?.message);
  }

  /** As it was said: "14 × 12"; nothing while it is assumed. */
  protected sizeText(room: Room): string {
    if (!room.lengthIn || !room.widthIn) return '';
    return `${sideText(room.lengthIn, this.unit())} x ${sideText(room.widthIn, this.unit())}`;
  }

  /** What such a room is taken to be. */
  protected sizeOf(room: Room): string {
    const reader = this.derived.reader();
    if (!reader) return '';
    const { lengthIn, widthIn } = sizeOfRoom(reader, { kind: room.kind });
    const [length, width] = [lengthIn, widthIn].map((side) => sideText(side, this.unit()));
    return $localize`${length} x ${width} assumed`;
  }

  protected setSize(room: Room, typed: string): void {
    if (!typed.trim()) return this.setRoom(room, { lengthIn: null, widthIn: null });
    const size = readSize(typed, this.unit());
    if (size) return this.setRoom(room, size);
    this.problem.set($localize`“${typed.slice(0, 40)}” is no size: say it as ${this.example()}.`);
  }

  protected setStorey(storey: Storey, fields: Fields<'storeys'>): void {
    this.problem.set(this.desk.make(setting('storeys', storey.id, fields))?.message);
  }

  /** Where the room that was moved last stands now. */
  protected readonly moved = signal('');

  private readonly injector = inject(Injector);

  /** Moves a room by a place among those of its storey; its handle keeps the focus. */
  protected step(room: Room, by: 1 | -1, event: Event): void {
    event.preventDefault();
    const handle = event.target as HTMLElement;
    afterNextRender(() => handle.focus(), { injector: this.injector });
    const rooms = this.roomsOf(room.storeyId);
    const from = rooms.findIndex(({ id }) => id === room.id);
    const to = from + by;
    if (to >= 0 && to < rooms.length) this.reorder(rooms, from, to);
  }

  protected dropped(storeyId: string, { previousIndex, currentIndex }: CdkDragDrop<string>): void {
    if (previousIndex !== currentIndex) this.reorder(this.roomsOf(storeyId), previousIndex, currentIndex);
  }

  /** The rooms keep the places on the walk that they have together; who stands on which changes. */
  private reorder(rooms: readonly Room[], from: number, to: number): void {
    const next = [...rooms];
    moveItemInArray(next, from, to);
    const places = rooms.map(({ order }) => order);
    const changes = next.flatMap(({ id, order }, at) =>
      order === places[at] ? [] : [setting('rooms', id, { order: places[at]! })],
    );
    const { name } = rooms[from]!;
    this.problem.set(
      this.desk.make({ kind: 'group', title: $localize`Moved ${name} on the walk`.slice(0, 200), changes })
        ?.message,
    );
    this.moved.set($localize`${name} is now ${to + 1} of ${next.length}.`);
  }

  protected async remove(table: 'rooms' | 'storeys', id: string): Promise<void> {
    const removed = await this.removal.of(table, id, $localize`Remove with everything in it`);
    this.problem.set(removed.kind === 'refused' ? removed.message : undefined);
  }
}

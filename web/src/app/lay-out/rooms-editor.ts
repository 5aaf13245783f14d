import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Fields, Room, Storey } from '@mule-tally/core';
import { RoomKind, adding, removing, setting } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** Storeys and rooms, in walking order. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-rooms-editor',
  imports: [FormsModule],
  template: `
    <form class="panel-form fields" (ngSubmit)="addRoom()">
      <label
        ><span class="name">New room</span
        ><input class="form-control" name="room" maxlength="200" [(ngModel)]="name"
      /></label>
      <label
        ><span class="name">Storey</span>
        <select class="form-select" name="storey" [(ngModel)]="storeyId">
          <option value="">the last one</option>
          @for (storey of storeys(); track storey.id) {
            <option [value]="storey.id">{{ storey.name }}</option>
          }
        </select></label
      >
      <button type="submit" class="btn btn-main" [disabled]="!name().trim() || !storeys().length">
        Add the room
      </button>
      <button type="button" class="btn btn-line" (click)="addStorey()">Add a storey</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence }}</p>
    }
    @if (asking(); as ask) {
      <div class="panel-form">
        <p role="alert" class="problem">{{ ask.message }}</p>
        <div class="actions">
          <button type="button" class="btn btn-danger-line" (click)="remove(ask.table, ask.id, true)">
            Remove with everything in it
          </button>
          <button type="button" class="btn btn-line" (click)="asking.set(undefined)">Keep it</button>
        </div>
      </div>
    }
    @for (storey of storeys(); track storey.id) {
      <h2>
        <input
          class="form-control storey"
          maxlength="200"
          aria-label="Name of the storey"
          [ngModel]="storey.name"
          [ngModelOptions]="{ updateOn: 'blur' }"
          (ngModelChange)="setStorey(storey, { name: $event })"
        />
        <button type="button" class="btn btn-danger-line" (click)="remove('storeys', storey.id, false)">
          Remove the storey
        </button>
      </h2>
      @for (room of roomsOf(storey.id); track room.id) {
        <div class="room">
          <input
            class="form-control"
            maxlength="200"
            [attr.aria-label]="'Name of ' + room.name"
            [ngModel]="room.name"
            [ngModelOptions]="{ updateOn: 'blur' }"
            (ngModelChange)="setRoom(room, { name: $event })"
          />
          <select
            class="form-select"
            [attr.aria-label]="'Kind of ' + room.name"
            [ngModel]="room.kind"
            (ngModelChange)="setRoom(room, { kind: $event })"
          >
            @for (kind of kinds; track kind) {
              <option [value]="kind">{{ kind.replace('-', ' ') }}</option>
            }
          </select>
          <button
            type="button"
            class="btn btn-line"
            (click)="move(room, -1)"
            [attr.aria-label]="room.name + ' earlier on the walk'"
          >
            ↑
          </button>
          <button
            type="button"
            class="btn btn-line"
            (click)="move(room, 1)"
            [attr.aria-label]="room.name + ' later on the walk'"
          >
            ↓
          </button>
          <button
            type="button"
            class="btn btn-danger-line"
            (click)="remove('rooms', room.id, false)"
            [attr.aria-label]="'Remove ' + room.name"
          >
            Remove
          </button>
        </div>
      } @empty {
        <p class="soft">No room on this storey.</p>
      }
    }
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
      grid-template-columns: 1fr 11rem auto auto auto;
      gap: 0.4rem;
      margin-bottom: 0.4rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    @media (max-width: 700px) {
      .room {
        grid-template-columns: 1fr auto auto;
      }
      .room input,
      .room select {
        grid-column: 1 / 4;
      }
    }
  `,
})
export class RoomsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  protected readonly kinds = RoomKind.options;
  protected readonly name = signal('');
  protected readonly storeyId = signal('');
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly asking = signal<{ table: 'rooms' | 'storeys'; id: string; message: string } | undefined>(
    undefined,
  );
  protected readonly storeys = computed(() => this.derived.reader()?.all('storeys') ?? []);
  private readonly rooms = computed(() =>
    [...(this.derived.reader()?.all('rooms') ?? [])].sort((a, b) => a.order - b.order),
  );

  protected roomsOf(storeyId: string): readonly Room[] {
    return this.rooms().filter((room) => room.storeyId === storeyId);
  }

  protected addRoom(): void {
    const storeyId = this.storeyId() || this.storeys().at(-1)?.id;
    if (!storeyId) return;
    const order = Math.max(0, ...this.rooms().map((room) => room.order)) + 1;
    const refusal = this.desk.make(
      adding('rooms', { id: crypto.randomUUID(), storeyId, name: this.name().trim(), kind: 'other', order }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) this.name.set('');
  }

  protected addStorey(): void {
    this.desk.make(
      adding('storeys', { id: crypto.randomUUID(), name: `Storey ${this.storeys().length + 1}` }),
    );
  }

  protected setRoom(room: Room, fields: Fields<'rooms'>): void {
    this.problem.set(this.desk.make(setting('rooms', room.id, fields))?.message);
  }

  protected setStorey(storey: Storey, fields: Fields<'storeys'>): void {
    this.problem.set(this.desk.make(setting('storeys', storey.id, fields))?.message);
  }

  /** Swaps a room with its neighbour on the walk. */
  protected move(room: Room, by: 1 | -1): void {
    const rooms = this.rooms();
    const other = rooms[rooms.findIndex(({ id }) => id === room.id) + by];
    if (!other) return;
    this.desk.make({
      kind: 'group',
      title: `Moved ${room.name} on the walk`,
      changes: [
        setting('rooms', room.id, { order: other.order }),
        setting('rooms', other.id, { order: room.order }),
      ],
    });
  }

  protected remove(table: 'rooms' | 'storeys', id: string, withDependents: boolean): void {
    const refusal = this.desk.make(removing(table, id, withDependents));
    if (refusal?.code === 'change.still-used') this.asking.set({ table, id, message: refusal.message });
    else {
      this.problem.set(refusal?.message);
      this.asking.set(undefined);
    }
  }
}

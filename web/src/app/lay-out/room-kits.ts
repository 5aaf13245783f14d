import { ToldPipe } from '../parts/term';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { CREW_CHANGES, hasKit, kitChanges, kitOfRoom } from '@mule-tally/core';
import { Value } from '../parts/value';
import { CrewDesk, Desk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { OpenHouse } from '../state/open-house';

/** Puts a kit of the crew into a room, and keeps a room that stands as it should as a kit. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-room-kits',
  imports: [ToldPipe, Value],
  template: `
    @if (kits().length || canKeep()) {
      <details>
        <summary i18n>Kits of the crew</summary>
        <div class="actions">
          @if (kits().length) {
            <select
              class="form-select"
              i18n-aria-label
              aria-label="Kit"
              [mtValue]="chosen()?.id"
              (mtValueChange)="picked.set($event)"
            >
              @for (kit of kits(); track kit.id) {
                <option i18n [value]="kit.id">{{ kit.name }}: {{ kit.boxes.length }} boxes</option>
              }
            </select>
            <button i18n type="button" class="btn btn-line" (click)="put()">Put it into this room</button>
          }
          @if (canKeep()) {
            <button i18n type="button" class="btn btn-line" (click)="keep()">Keep this room as a kit</button>
          }
        </div>
        @if (said(); as sentence) {
          <p role="status">{{ sentence | told }}</p>
        }
      </details>
    }
  `,
  styles: `
    summary {
      padding: 0.6rem 0;
      cursor: pointer;
    }
    select {
      width: auto;
      max-width: 20rem;
    }
  `,
})
export class RoomKits {
  private readonly desk = inject(Desk);
  private readonly crewDesk = inject(CrewDesk);
  private readonly house = inject(OpenHouse).view;
  private readonly crew = inject(OpenCrew);
  readonly roomId = input<string>();

  private readonly room = computed(() => {
    const [house, id] = [this.house(), this.roomId()];
    return house && id ? house.tables.rooms.get(id)?.record : undefined;
  });
  /** Those that are meant for such a room first. */
  protected readonly kits = computed(() => {
    const kind = this.room()?.kind;
    if (!kind) return [];
    const isMeant = (own: string | undefined): number => (own === kind ? 0 : own === undefined ? 1 : 2);
    return this.crew.records('kits').toSorted((a, b) => isMeant(a.roomKind) - isMeant(b.roomKind));
  });
  protected readonly picked = linkedSignal<string | undefined, string | undefined>({
    source: this.roomId,
    computation: () => undefined,
  });
  protected readonly chosen = computed(
    () => this.kits().find(({ id }) => id === this.picked()) ?? this.kits()[0],
  );
  protected readonly canKeep = computed(() => {
    const [house, id] = [this.house(), this.roomId()];
    return this.crew.view() !== undefined && house !== undefined && id !== undefined && hasKit(house, id);
  });
  protected readonly said = signal<string | undefined>(undefined);

  protected put(): void {
    const [house, room, kit] = [this.house(), this.room(), this.chosen()];
    if (!house || !room || !kit) return;
    const changes = kitChanges(house, room.id, kit, () => crypto.randomUUID());
    const title = $localize`Put kit “${kit.name}” into ${room.name}`.slice(0, 200);
    const refusal = this.desk.make({ kind: 'group', title, changes });
    this.said.set(
      refusal?.message ?? $localize`${kit.boxes.length} boxes are set. Undo takes them out again.`,
    );
  }

  protected keep(): void {
    const [house, room] = [this.house(), this.room()];
    const kit = house && room && kitOfRoom(house, room.id, crypto.randomUUID(), room.name);
    if (!kit) return;
    const refusal = this.crewDesk.make(CREW_CHANGES.adding('kits', kit));
    this.said.set(refusal?.message ?? $localize`Kept in the crew book as “${kit.name}”.`);
  }
}

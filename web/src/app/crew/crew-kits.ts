import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Kit, RoomKind } from '@mule-tally/core';
import { CREW_CHANGES, RoomKind as RoomKinds, builtInBox, builtInDevice } from '@mule-tally/core';
import { Value } from '../parts/value';
import { CrewDesk } from '../state/desk';
import { Derived } from '../state/derived';
import { OpenCrew } from '../state/open-crew';

/** Kits of the crew: boxes and devices that go into rooms of a kind. They are made from a room, in Lay out. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-kits',
  imports: [ToldPipe, WordsPipe, Value],
  template: `
    <p i18n class="soft">
      A kit is kept from a room that stands as it should: in Lay out, “Keep this room as a kit”. There it is
      put into other rooms too.
    </p>
    @for (kit of kits(); track kit.id) {
      <section class="panel-form">
        <div class="fields">
          <label
            ><span i18n class="name">Name</span
            ><input
              class="form-control"
              maxlength="200"
              [mtValue]="kit.name"
              mtOnLeave
              (mtValueChange)="rename(kit, $event)"
          /></label>
          <label
            ><span i18n class="name">For</span>
            <select class="form-select" [mtValue]="kit.roomKind ?? ''" (mtValueChange)="setKind(kit, $event)">
              <option i18n value="">any room</option>
              @for (kind of kinds; track kind) {
                <option [value]="kind">{{ kind.replace('-', ' ') | told }}</option>
              }
            </select></label
          >
          <button
            i18n
            type="button"
            class="btn btn-line"
            [attr.aria-label]="'Take out kit {}' | words: kit.name"
            (click)="remove(kit.id)"
          >
            Take it out
          </button>
        </div>
        <ul>
          @for (box of kit.boxes; track $index) {
            <li>
              <strong class="num">{{ box.tag }}</strong> {{ boxName(box.catalogueId) }}:
              {{ devices(box.devices) || ('no device' | words) }}
            </li>
          }
        </ul>
      </section>
    } @empty {
      <p i18n>No kit yet.</p>
    }
  `,
  styles: `
    ul {
      margin: 0.6rem 0 0;
      padding-left: 1.2rem;
    }
  `,
})
export class CrewKits {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  private readonly derived = inject(Derived);
  protected readonly kinds = RoomKinds.options;
  protected readonly kits = computed(() => this.book.records('kits'));

  protected boxName(id: string): string {
    return this.derived.told(builtInBox(id)?.name ?? id);
  }
  protected devices(devices: Kit['boxes'][number]['devices']): string {
    return devices
      .map(({ catalogueId }) => this.derived.told(builtInDevice(catalogueId)?.name ?? catalogueId))
      .join(', ');
  }
  protected rename(kit: Kit, typed: string): void {
    const name = typed.trim();
    if (name && name !== kit.name) this.desk.make(CREW_CHANGES.setting('kits', kit.id, { name }));
  }
  protected setKind(kit: Kit, kind: string): void {
    this.desk.make(CREW_CHANGES.setting('kits', kit.id, { roomKind: (kind as RoomKind) || null }));
  }
  protected remove(id: string): void {
    this.desk.make(CREW_CHANGES.removing('kits', id));
  }
}

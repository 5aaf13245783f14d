import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { HouseSummary } from '@mule-tally/core';
import { CREW_CHANGES, Role } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { Crew } from '../state/crew';
import { CrewDesk } from '../state/desk';
import { Api } from '../sync/api';

/** People who are something else in one house: a hand who leads there, somebody who only looks. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-roles-in-house',
  imports: [ToldPipe, Value],
  template: `
    <details>
      <summary i18n>Another role in one house</summary>
      <div class="fields">
        <label
          ><span i18n class="name">Who</span>
          <select class="form-select" [mtValue]="personId()" (mtValueChange)="personId.set($event)">
            <option value=""></option>
            @for (person of crew.people(); track person.id) {
              <option [value]="person.id">{{ person.name }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">House</span>
          <select class="form-select" [mtValue]="houseId()" (mtValueChange)="houseId.set($event)">
            <option value=""></option>
            @for (house of houses(); track house.id) {
              <option [value]="house.id">{{ house.name }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Is there</span>
          <select class="form-select" [mtValue]="role()" (mtValueChange)="setRole($event)">
            <option i18n value="lead">lead</option>
            <option i18n value="hand">hand</option>
            <option i18n value="viewer">viewer</option>
          </select></label
        >
        <button
          i18n
          type="button"
          class="btn btn-line"
          [disabled]="!personId() || !houseId()"
          (click)="add()"
        >
          Set
        </button>
      </div>
      @if (problem(); as sentence) {
        <p role="alert">{{ sentence | told }}</p>
      }
      <ul>
        @for (one of set(); track one.key) {
          <li>
            <span i18n>{{ one.name }} is a {{ one.role }} in {{ one.house }}.</span>
            <button i18n type="button" class="btn btn-line" (click)="put(one.personId, one.houseId)">
              As everywhere
            </button>
          </li>
        }
      </ul>
    </details>
  `,
})
export class RolesInHouse {
  protected readonly crew = inject(Crew);
  private readonly desk = inject(CrewDesk);
  protected readonly houses = signal<readonly HouseSummary[]>([]);
  protected readonly personId = signal('');
  protected readonly houseId = signal('');
  protected readonly role = signal<Role>('lead');
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly set = computed(() =>
    this.crew.everybody().flatMap(({ id, name, roleIn = [] }) =>
      roleIn.map(({ houseId, role }) => ({
        key: `${id} ${houseId}`,
        personId: id,
        houseId,
        name,
        role,
        house: this.houses().find((house) => house.id === houseId)?.name ?? $localize`a house that is gone`,
      })),
    ),
  );

  constructor() {
    void inject(Api)
      .houses()
      .then((houses) => this.houses.set(houses))
      .catch(() => undefined);
  }

  protected setRole(chosen: string): void {
    this.role.set(Role.parse(chosen));
  }
  protected add(): void {
    this.put(this.personId(), this.houseId(), this.role());
  }
  /** Another role in a house; none, as everywhere. */
  protected put(personId: string, houseId: string, role?: Role): void {
    const { roleIn = [] } = this.crew.everybody().find(({ id }) => id === personId) ?? {};
    const others = roleIn.filter((own) => own.houseId !== houseId);
    const next = role ? [...others, { houseId, role }] : others;
    const body = CREW_CHANGES.setting('people', personId, { roleIn: next.length ? next : null });
    this.problem.set(this.desk.make(body)?.message);
  }
}

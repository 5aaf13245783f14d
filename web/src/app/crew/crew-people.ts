import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { Member } from '@mule-tally/core';
import { CREW_CHANGES, Role, SpokenLanguage } from '@mule-tally/core';
import { Confirm } from '../parts/confirm';
import { personEntry } from '../parts/person-entry';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { Crew } from '../state/crew';
import { CrewDesk } from '../state/desk';
import { Identity } from '../state/identity';
import { Session } from '../state/session';
import { CrewDevices } from './crew-devices';
import { CrewInvite } from './crew-invite';
import { HouseLinks } from './house-links';
import { OwnAccount } from './own-account';
import { RolesInHouse } from './roles-in-house';

/** Everybody of the crew, and who works on this device. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-people',
  imports: [
    ToldPipe,
    WordsPipe,
    ReactiveFormsModule,
    RouterLink,
    Value,
    CrewInvite,
    HouseLinks,
    CrewDevices,
    OwnAccount,
    RolesInHouse,
  ],
  template: `
    @if (identity.standing() === 'local') {
      <p i18n class="strip note">
        <strong>Nobody has set this crew up.</strong> Whoever opens this machine works as one of these names,
        and may change everything. The link to set it up stands where the server was started;
        <a routerLink="/set-up">set it up</a>.
      </p>
    } @else if (identity.standing() === 'person') {
      <mt-crew-invite (came)="devices()?.look()" />
    }
    @if (identity.isLead()) {
      <form class="panel-form fields" [formGroup]="form" (ngSubmit)="add()">
        <label
          ><span i18n class="name">Add somebody</span
          ><input class="form-control" formControlName="name" autocomplete="off"
        /></label>
        <button i18n type="submit" class="btn btn-main">Add</button>
      </form>
    }
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Name</th>
          <th i18n>Language</th>
          @if (hasRoles()) {
            <th i18n>Is</th>
          }
          <th></th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (person of crew.everybody(); track person.id) {
          <tr>
            <td>
              <input
                class="form-control"
                maxlength="200"
                i18n-aria-label
                aria-label="Name"
                [disabled]="!identity.isLead()"
                [mtValue]="person.name"
                mtOnLeave
                (mtValueChange)="rename(person, $event)"
              />
            </td>
            <td>
              <select
                class="form-select"
                [attr.aria-label]="'Language of {}' | words: person.name"
                [disabled]="!identity.isLead() && person.id !== session.who().id"
                [mtValue]="person.language ?? ''"
                (mtValueChange)="setLanguage(person, $event)"
              >
                <option value="">{{ 'as the browser' | words }}</option>
                <option value="en" lang="en">English</option>
                <option value="es" lang="es">Español</option>
              </select>
            </td>
            @if (hasRoles()) {
              <td>
                <select
                  class="form-select"
                  [attr.aria-label]="'What {} is' | words: person.name"
                  [disabled]="!identity.isLead()"
                  [mtValue]="person.role ?? 'hand'"
                  (mtValueChange)="setRole(person, $event)"
                >
                  <option i18n value="lead">lead</option>
                  <option i18n value="hand">hand</option>
                  <option i18n value="viewer">viewer</option>
                </select>
              </td>
            }
            <td>
              <button
                type="button"
                class="btn btn-line"
                [disabled]="!identity.isLead()"
                role="switch"
                [attr.aria-checked]="!person.left"
                [attr.aria-label]="'{} is with the crew' | words: person.name"
                (click)="setLeft(person)"
              >
                {{ (person.left ? 'Has left' : 'With the crew') | words }}
              </button>
            </td>
            <td>
              <div class="actions">
                @if (person.id === session.who().id) {
                  <span i18n class="soft">works on this device</span>
                } @else if (!person.left) {
                  @if (identity.standing() === 'local') {
                    <button i18n type="button" class="btn btn-line" (click)="crew.be(person.id)">
                      Works here now
                    </button>
                  }
                } @else if (identity.isLead()) {
                  <button i18n type="button" class="btn btn-danger-line" (click)="erase(person)">
                    Erase the name
                  </button>
                }
              </div>
            </td>
          </tr>
        }
      </tbody>
    </table>
    <p i18n class="soft">
      Names stand in this list only; the logs know people by number. Whoever has left is not offered any more,
      and is still named where their work stands, until the name is erased.
    </p>
    @if (hasRoles()) {
      <p i18n class="soft">
        A lead may change everything. A hand pulls, makes up, walks, tests and says so. A viewer reads.
      </p>
      @if (identity.isLead()) {
        <mt-roles-in-house />
      }
      <h2 i18n>Devices</h2>
      <mt-crew-devices />
      @if (identity.isLead()) {
        <mt-house-links />
      }
      <mt-own-account />
      <p class="out">
        <button i18n type="button" class="btn btn-line" (click)="signOut()">Sign out on this device</button>
        <button i18n type="button" class="btn btn-danger-line" (click)="leave()">Leave the crew</button>
      </p>
    }
  `,
  styles: `
    .out {
      display: flex;
      flex-wrap: wrap;
      gap: 0.6rem;
      margin-top: 1.2rem;
    }
  `,
})
export class CrewPeople {
  private readonly desk = inject(CrewDesk);
  private readonly confirm = inject(Confirm);
  protected readonly crew = inject(Crew);
  protected readonly identity = inject(Identity);
  protected readonly devices = viewChild(CrewDevices);
  protected readonly hasRoles = computed(() => this.identity.standing() === 'person');
  protected readonly session = inject(Session);
  protected readonly form = formOf({ name: '' }, personEntry);
  protected readonly problem = signal<string | undefined>(undefined);

  protected add(): void {
    const read = personEntry.safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const person = { id: crypto.randomUUID(), name: read.data.name };
    const refusal = this.desk.make(CREW_CHANGES.adding('people', person));
    this.problem.set(refusal?.message);
    if (!refusal) this.form.reset();
  }

  protected rename(person: Member, name: string): void {
    if (name.trim() && name.trim() !== person.name)
      this.desk.make(CREW_CHANGES.setting('people', person.id, { name: name.trim() }));
  }

  protected setLanguage(person: Member, chosen: string): void {
    const language = SpokenLanguage.safeParse(chosen);
    this.desk.make(
      CREW_CHANGES.setting('people', person.id, { language: language.success ? language.data : null }),
    );
  }

  protected setRole(person: Member, chosen: string): void {
    this.problem.set(
      this.desk.make(CREW_CHANGES.setting('people', person.id, { role: Role.parse(chosen) }))?.message,
    );
  }

  protected async signOut(): Promise<void> {
    try {
      await this.identity.signOut();
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }

  /** Whoever works here leaves by themselves: on all their devices, once the server has been told. */
  protected async leave(): Promise<void> {
    const who = this.session.who();
    const isSure = await this.confirm.ask({
      message: $localize`Leave the crew? Your work stays, under your name until a lead erases it. No device of yours gets in any more; a lead can take you back.`,
      yes: $localize`Leave the crew`,
    });
    if (isSure) this.setLeft({ ...who, left: false });
  }

  protected setLeft(person: Member): void {
    this.problem.set(
      this.desk.make(CREW_CHANGES.setting('people', person.id, { left: person.left ? null : true }))?.message,
    );
  }

  protected async erase(person: Member): Promise<void> {
    const isSure = await this.confirm.ask({
      message: $localize`Erase the name of ${person.name}? Their work stays, as of a former hand; how they signed in is gone with the name. This cannot be undone.`,
      yes: $localize`Erase the name`,
    });
    if (isSure) this.desk.make(CREW_CHANGES.removing('people', person.id));
  }
}

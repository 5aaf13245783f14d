import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import type { Member } from '@mule-tally/core';
import { CREW_CHANGES, SpokenLanguage } from '@mule-tally/core';
import { Confirm } from '../parts/confirm';
import { personEntry } from '../parts/person-entry';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import { Crew } from '../state/crew';
import { CrewDesk } from '../state/desk';
import { Session } from '../state/session';

/** Everybody of the crew, and who works on this device. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-people',
  imports: [ToldPipe, WordsPipe, ReactiveFormsModule, Value],
  template: `
    <form class="panel-form fields" [formGroup]="form" (ngSubmit)="add()">
      <label
        ><span i18n class="name">Add somebody</span
        ><input class="form-control" formControlName="name" autocomplete="off"
      /></label>
      <button i18n type="submit" class="btn btn-main">Add</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Name</th>
          <th i18n>Language</th>
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
                [mtValue]="person.name"
                mtOnLeave
                (mtValueChange)="rename(person, $event)"
              />
            </td>
            <td>
              <select
                class="form-select"
                [attr.aria-label]="'Language of {}' | words: person.name"
                [mtValue]="person.language ?? ''"
                (mtValueChange)="setLanguage(person, $event)"
              >
                <option value="">{{ 'as the browser' | words }}</option>
                <option value="en" lang="en">English</option>
                <option value="es" lang="es">Español</option>
              </select>
            </td>
            <td>
              <button
                type="button"
                class="btn btn-line"
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
                  <button i18n type="button" class="btn btn-line" (click)="crew.be(person.id)">
                    Works here now
                  </button>
                } @else {
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
  `,
})
export class CrewPeople {
  private readonly desk = inject(CrewDesk);
  private readonly confirm = inject(Confirm);
  protected readonly crew = inject(Crew);
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

  protected setLeft(person: Member): void {
    this.desk.make(CREW_CHANGES.setting('people', person.id, { left: person.left ? null : true }));
  }

  protected async erase(person: Member): Promise<void> {
    const isSure = await this.confirm.ask({
      message: $localize`Erase the name of ${person.name}? Their work stays, as of somebody who is not on the list. This cannot be undone.`,
      yes: $localize`Erase the name`,
    });
    if (isSure) this.desk.make(CREW_CHANGES.removing('people', person.id));
  }
}

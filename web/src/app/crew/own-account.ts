import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { AccountAsked, Login, Password } from '@mule-tally/core';
import * as z from 'zod';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { formOf, problemOf } from '../parts/zod-form';
import { Identity } from '../state/identity';
import { Pin, hasPin, setPin } from '../state/pins';
import { SignInApi } from '../sync/sign-in-api';

const entry = z.object({ login: Login, password: Password, current: z.string() });

/** What somebody signs in with on a device that no lead is near, and their PIN on one that is shared. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-own-account',
  imports: [ToldPipe, ReactiveFormsModule],
  template: `
    <h2 i18n>Your password</h2>
    <p i18n class="soft">
      Code of the crew, for a device that it does not know:
      <strong class="num">{{ identity.me()?.crew?.code }}</strong>
    </p>
    <form class="fields" [formGroup]="form" (ngSubmit)="save()">
      <label
        ><span i18n class="name">Name you sign in with</span
        ><input class="form-control" formControlName="login" autocomplete="username" autocapitalize="none"
      /></label>
      @if (identity.me()?.hasPassword) {
        <label
          ><span i18n class="name">Password now</span
          ><input
            class="form-control"
            type="password"
            formControlName="current"
            autocomplete="current-password"
        /></label>
      }
      <label
        ><span i18n class="name">New password</span
        ><input class="form-control" type="password" formControlName="password" autocomplete="new-password"
      /></label>
      <button i18n type="submit" class="btn btn-line">Keep it</button>
    </form>
    @if (identity.me()?.speakers) {
      <h2 i18n>Your PIN on this shared device</h2>
      <form class="fields" [formGroup]="pinForm" (ngSubmit)="savePin()">
        <label
          ><span i18n class="name">Four to eight figures</span
          ><input
            class="form-control"
            type="password"
            inputmode="numeric"
            formControlName="pin"
            autocomplete="off"
        /></label>
        <button i18n type="submit" class="btn btn-line">Set it</button>
      </form>
      @if (!hasPin()) {
        <p i18n class="soft">Without one nobody can go back to you on this device.</p>
      }
    }
    @if (said(); as sentence) {
      <p role="status">{{ sentence | told }}</p>
    }
  `,
  styles: `
    form {
      margin-bottom: 0.6rem;
    }
  `,
})
export class OwnAccount {
  private readonly api = inject(SignInApi);
  protected readonly identity = inject(Identity);
  protected readonly form = formOf({ login: '', password: '', current: '' }, entry);
  protected readonly pinForm = formOf({ pin: '' }, z.object({ pin: Pin }));
  protected readonly said = signal<string | undefined>(undefined);
  private readonly personId = this.identity.me()?.person?.id ?? '';
  protected readonly hasPin = signal(hasPin(this.personId));

  protected async save(): Promise<void> {
    const problem = problemOf(this.form);
    if (problem) return this.said.set(problem);
    const { current, ...asked } = this.form.getRawValue();
    try {
      await this.api.setAccount(AccountAsked.parse({ ...asked, ...(current && { current }) }));
      await this.identity.refresh();
      this.form.reset();
      this.said.set($localize`Kept: from now on this is what you sign in with.`);
    } catch (error) {
      this.said.set(toldWhy(error));
    }
  }

  protected async savePin(): Promise<void> {
    const problem = problemOf(this.pinForm);
    if (problem) return this.said.set(problem);
    await setPin(this.personId, this.pinForm.getRawValue().pin);
    this.pinForm.reset();
    this.hasPin.set(true);
    this.said.set($localize`Set: on this device you take your turn with it.`);
  }
}

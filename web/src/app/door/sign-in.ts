import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Identity } from '../state/identity';
import { DeviceStore } from '../sync/device-store';
import { SignInApi } from '../sync/sign-in-api';
import { toldWhy } from '../parts/told-why';
import { OwnDevice, startAnew } from './own-device';

const field = () => new FormControl('', { nonNullable: true });

/** Nobody is signed in on this device: by a lead's phone, or by name and password. What is unsent waits. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-sign-in',
  imports: [ToldPipe, WordsPipe, ReactiveFormsModule, RouterLink],
  template: `
    <main class="page">
      <section class="card">
        <h1 i18n>Sign in</h1>
        @if (unsent(); as count) {
          <p class="soft">
            {{
              (count === 1
                ? '1 entry on this device is kept; it goes out once you are in.'
                : '{} entries on this device are kept; they go out once you are in.'
              ) | words: count
            }}
          </p>
        }
        <a i18n class="btn btn-main" routerLink="/join">Join by a lead’s phone</a>
        <form [formGroup]="form" (ngSubmit)="signIn()">
          <h2 i18n>Or by name and password</h2>
          <label
            ><span i18n class="name">Name you sign in with</span
            ><input
              class="form-control"
              formControlName="login"
              autocomplete="username"
              autocapitalize="none"
          /></label>
          <label
            ><span i18n class="name">Password</span
            ><input
              class="form-control"
              type="password"
              formControlName="password"
              autocomplete="current-password"
          /></label>
          <label
            ><span i18n class="name">Code of the crew (only on a new device)</span
            ><input class="form-control" formControlName="crew" autocomplete="off" autocapitalize="none"
          /></label>
          @if (problem(); as sentence) {
            <p role="alert">{{ sentence | told }}</p>
          }
          <button i18n type="submit" class="btn btn-line enter" [disabled]="busy()">Sign in</button>
        </form>
      </section>
    </main>
  `,
  styleUrl: './door.scss',
  styles: `
    .enter {
      width: 100%;
      min-height: 56px;
      margin-top: 1rem;
    }
    h2 {
      margin-top: 1.4rem;
    }
  `,
})
export class SignInPage {
  private readonly api = inject(SignInApi);
  private readonly device = inject(OwnDevice);
  protected readonly identity = inject(Identity);
  protected readonly form = new FormGroup({ login: field(), password: field(), crew: field() });
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly unsent = signal(0);

  constructor() {
    const store = inject(DeviceStore);
    void store.unsentDocuments().then(async (ids) => {
      const all = await Promise.all(ids.map((id) => store.outbox(id)));
      this.unsent.set(all.flat().length);
    });
  }

  protected async signIn(): Promise<void> {
    this.busy.set(true);
    this.problem.set(undefined);
    try {
      await this.api.signIn({ ...this.form.getRawValue(), device: await this.device.asked() });
      await this.identity.refresh({ cameIn: true });
      startAnew();
    } catch (error) {
      this.problem.set(toldWhy(error));
    } finally {
      this.busy.set(false);
    }
  }
}

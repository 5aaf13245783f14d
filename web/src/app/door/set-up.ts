import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Login, Name, Password, SetUp } from '@mule-tally/core';
import * as z from 'zod';
import { ToldPipe } from '../parts/term';
import { formOf, problemOf } from '../parts/zod-form';
import { Crew } from '../state/crew';
import { Identity } from '../state/identity';
import { OpenCrew } from '../state/open-crew';
import { SignInApi } from '../sync/sign-in-api';
import { toldWhy } from '../parts/told-why';
import { OwnDevice, startAnew } from './own-device';

const filled = (sentence: string) => z.string().trim().min(1, sentence).pipe(Name);
const entry = z.object({
  token: z
    .string()
    .trim()
    .min(6, $localize`The link to set the crew up is missing: it stands where the server was started.`),
  crewName: filled($localize`The crew needs a name.`),
  name: filled($localize`Your name is needed.`),
  login: Login,
  password: Password,
});

/** The first lead sets the crew up: it takes over the houses that are here, and whoever is on its list. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-set-up',
  imports: [ToldPipe, ReactiveFormsModule, RouterLink],
  template: `
    <main class="page">
      <form class="card" [formGroup]="form" (ngSubmit)="setUp()">
        <h1 i18n>Set up your crew</h1>
        <p i18n class="soft">
          Everything that is here becomes your crew’s: houses, crew book, logs. You become its lead; the
          others come in with their phones afterwards.
        </p>
        @if (!fromLink) {
          <label
            ><span i18n class="name">What stands behind the # of the link</span
            ><input class="form-control" formControlName="token" autocomplete="off"
          /></label>
        }
        <label
          ><span i18n class="name">Name of the crew</span
          ><input class="form-control" formControlName="crewName" autocomplete="organization"
        /></label>
        <label
          ><span i18n class="name">Your name</span
          ><input class="form-control" formControlName="name" autocomplete="name" list="names"
        /></label>
        <datalist id="names">
          @for (person of crew.people(); track person.id) {
            <option [value]="person.name"></option>
          }
        </datalist>
        @if (isKnown()) {
          <p i18n class="soft">You take over the entries of this name.</p>
        }
        <label
          ><span i18n class="name">Name you sign in with</span
          ><input class="form-control" formControlName="login" autocomplete="username" autocapitalize="none"
        /></label>
        <label
          ><span i18n class="name">Password (ten characters or more; a few words are best)</span
          ><input class="form-control" type="password" formControlName="password" autocomplete="new-password"
        /></label>
        @if (problem(); as sentence) {
          <p role="alert">{{ sentence | told }}</p>
        }
        <button i18n type="submit" class="btn btn-main" [disabled]="busy()">Set up</button>
        <p><a i18n routerLink="/" class="back">Back to the jobs</a></p>
      </form>
    </main>
  `,
  styleUrl: './door.scss',
})
export class SetUpPage {
  private readonly api = inject(SignInApi);
  private readonly device = inject(OwnDevice);
  private readonly identity = inject(Identity);
  protected readonly crew = inject(Crew);
  private readonly token = location.hash.slice(1);
  protected readonly fromLink = this.token !== '';
  protected readonly form = formOf(
    { token: this.token, crewName: '', name: '', login: '', password: '' },
    entry,
  );
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  private readonly typedName = signal('');
  protected readonly isKnown = computed(() =>
    this.crew.people().some(({ name }) => name === this.typedName().trim()),
  );

  constructor() {
    if (this.token) history.replaceState(null, '', '/set-up');
    this.form.controls.name.valueChanges.subscribe((name) => this.typedName.set(name));
    const book = inject(OpenCrew);
    effect(() => {
      const name = book.view()?.head.name;
      const field = this.form.controls.crewName;
      if (name && untracked(() => field.pristine)) field.setValue(name);
    });
  }

  protected async setUp(): Promise<void> {
    const read = entry.safeParse(this.form.getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form));
    const { name, ...asked } = read.data;
    const known = this.crew.people().find((person) => person.name === name);
    const person = { id: known?.id ?? crypto.randomUUID(), name };
    this.busy.set(true);
    this.problem.set(undefined);
    try {
      await this.api.setUp(SetUp.parse({ ...asked, person, device: await this.device.asked() }));
      await this.identity.refresh({ cameIn: true });
      startAnew('/crew?part=people');
    } catch (error) {
      this.problem.set(toldWhy(error));
    } finally {
      this.busy.set(false);
    }
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PairingOffer, Person } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { Identity } from '../state/identity';
import { SignInApi } from '../sync/sign-in-api';
import { FigurePad } from '../parts/figure-pad';
import { toldWhy } from '../parts/told-why';
import { OwnDevice, startAnew } from './own-device';

/** Joins a crew: the picture on a lead's screen opened this with its secret behind the #, or its six figures are touched here. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-join',
  imports: [ToldPipe, RouterLink, FigurePad, Value],
  template: `
    <main class="page">
      <section class="card">
        <h1 i18n>Join a crew</h1>
        @if (offer(); as offer) {
          @if (offer.for === 'viewer') {
            <p i18n>
              <strong>{{ offer.crew }}</strong> lets you look at one house. You can read everything in it and
              change nothing.
            </p>
          } @else {
            <p i18n>
              Crew: <strong>{{ offer.crew }}</strong>
            </p>
            <h2 i18n>Who are you?</h2>
            <div class="names">
              @for (person of offer.people; track person.id) {
                <button
                  type="button"
                  class="btn btn-line"
                  [class.active]="picked()?.id === person.id"
                  [attr.aria-pressed]="picked()?.id === person.id"
                  (click)="picked.set(person)"
                >
                  {{ person.name }}
                </button>
              }
            </div>
            @if (offer.for === 'hand') {
              <label
                ><span i18n class="name">Not on the list? Your name</span
                ><input
                  class="form-control"
                  maxlength="200"
                  autocomplete="name"
                  [mtValue]="name()"
                  (mtValueChange)="name.set($event); picked.set(undefined)"
              /></label>
            }
          }
          <button
            i18n
            type="button"
            class="btn btn-main"
            [disabled]="busy() || !canStart()"
            (click)="start()"
          >
            Start
          </button>
        } @else {
          <p i18n class="soft">
            Point the camera at a lead’s screen (Crew book, People, Let a hand in), or touch the six figures
            that stand there.
          </p>
          <mt-figure-pad [(value)]="code" i18n-label label="Code" (entered)="look(code())" />
          <button
            i18n
            type="button"
            class="btn btn-main"
            [disabled]="busy() || code().length < 6"
            (click)="look(code())"
          >
            Next
          </button>
        }
        @if (problem(); as sentence) {
          <p role="alert">{{ sentence | told }}</p>
          @if (offer()) {
            <button i18n type="button" class="btn btn-line" (click)="again()">Another code</button>
          }
        }
        <p><a i18n routerLink="/sign-in" class="back">Sign in by name and password instead</a></p>
      </section>
    </main>
  `,
  styleUrl: './door.scss',
})
export class JoinPage {
  private readonly api = inject(SignInApi);
  private readonly device = inject(OwnDevice);
  private readonly identity = inject(Identity);
  protected readonly code = signal('');
  protected readonly name = signal('');
  protected readonly picked = signal<Person | undefined>(undefined);
  protected readonly offer = signal<PairingOffer | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  private secret = '';
  protected readonly canStart = computed(
    () =>
      this.offer()?.for === 'viewer' ||
      !!this.picked() ||
      (this.offer()?.for === 'hand' && !!this.name().trim()),
  );

  constructor() {
    const secret = location.hash.slice(1);
    // The secret stands in no history and no log: what is behind the # never leaves the browser by itself.
    if (secret) history.replaceState(null, '', '/join');
    if (secret) void this.look(secret);
  }

  protected async look(secret: string): Promise<void> {
    await this.trying(async () => {
      const offer = await this.api.look(secret);
      this.secret = secret;
      this.offer.set(offer);
      if (offer.people.length === 1 && offer.for === 'person') this.picked.set(offer.people[0]);
    });
  }

  protected async start(): Promise<void> {
    await this.trying(async () => {
      const typed = this.name().trim();
      const person = this.picked() ?? (typed ? { id: crypto.randomUUID(), name: typed } : undefined);
      await this.api.pair({
        secret: this.secret,
        device: await this.device.asked(),
        ...(person && { person }),
      });
      const me = await this.identity.refresh({ cameIn: true });
      startAnew(me?.houseId ? `/house/${me.houseId}` : '/');
    });
  }

  protected again(): void {
    this.offer.set(undefined);
    this.problem.set(undefined);
    this.code.set('');
  }

  private async trying(work: () => Promise<void>): Promise<void> {
    this.busy.set(true);
    this.problem.set(undefined);
    try {
      await work();
    } catch (error) {
      this.problem.set(toldWhy(error));
      this.code.set('');
    } finally {
      this.busy.set(false);
    }
  }
}

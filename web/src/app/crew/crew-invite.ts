import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  inject,
  output,
  signal,
} from '@angular/core';
import type { PairingAsked, PairingMade } from '@mule-tally/core';
import { QrPicture } from '../parts/qr-picture';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Identity } from '../state/identity';
import { SignInApi } from '../sync/sign-in-api';

/** How often it is looked whether somebody has come in, while a code is shown. Milliseconds. */
const LOOK_EVERY = 1500;

/** Lets people in: a picture to point a phone at, six figures to type. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-invite',
  imports: [DatePipe, QrPicture, ToldPipe, Value, WordsPipe],
  template: `
    @if (made(); as made) {
      <section class="panel-form shown" aria-live="polite">
        <mt-qr-picture [text]="link()" label="Picture of the link" />
        <div>
          @if (made.code; as code) {
            <p i18n class="soft">Point the phone’s camera here, or type on it under Join:</p>
            <p class="code num">{{ code }}</p>
            <p i18n class="soft">Opens once, until {{ made.endsAt | date: 'HH:mm' }}.</p>
          }
          <div class="actions">
            <button i18n type="button" class="btn btn-line" (click)="hide()">Done</button>
          </div>
        </div>
      </section>
    } @else {
      <div class="actions">
        @if (identity.isLead()) {
          <button i18n type="button" class="btn btn-main" (click)="invite({ for: 'hand' })">
            Let a hand in
          </button>
          <label
            ><span i18n class="visually-hidden">Another device for somebody</span>
            <select class="form-select" [mtValue]="''" (mtValueChange)="forPerson($event)">
              <option i18n value="">Another device for…</option>
              @for (person of crew.people(); track person.id) {
                <option [value]="person.id">{{ person.name }}</option>
              }
            </select></label
          >
        } @else {
          <button i18n type="button" class="btn btn-line" (click)="forPerson(own())">
            Another device of mine
          </button>
        }
      </div>
    }
    @if (cameIn(); as name) {
      <p role="status" class="in">
        <strong>{{ '{} is in.' | words: name }}</strong>
      </p>
    }
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 0.6rem 0;
    }
    .shown {
      display: flex;
      flex-wrap: wrap;
      gap: 1rem 1.5rem;
    }
    .in {
      margin: 0.6rem 0 0;
    }
    .code {
      font-weight: 700;
      font-size: 2.6rem;
      letter-spacing: 0.2em;
      margin: 0;
    }
  `,
})
export class CrewInvite {
  private readonly api = inject(SignInApi);
  protected readonly crew = inject(Crew);
  protected readonly identity = inject(Identity);
  protected readonly made = signal<PairingMade | undefined>(undefined);
  protected readonly link = computed(() => `${location.origin}/join#${this.made()?.token ?? ''}`);
  protected readonly cameIn = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly own = computed(() => this.identity.me()?.person?.id ?? '');
  /** Somebody has come in. */
  readonly came = output<void>();
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearInterval(this.timer));
  }

  protected forPerson(personId: string): void {
    if (personId) void this.invite({ for: 'person', personId });
  }
  protected async invite(asked: PairingAsked): Promise<void> {
    await this.trying(async () => {
      this.cameIn.set(undefined);
      this.made.set(await this.api.invite(asked));
      clearInterval(this.timer);
      this.timer = setInterval(() => void this.look(), LOOK_EVERY);
    });
  }

  /** Whether somebody has come in by what is shown. */
  private async look(): Promise<void> {
    const made = this.made();
    if (!made) return;
    const state = await this.api.invited(made.id).catch(() => undefined);
    if (!state || state.isOpen || this.made() !== made) return;
    this.cameIn.set(state.by);
    this.came.emit();
    this.hide();
  }

  protected hide(): void {
    clearInterval(this.timer);
    this.made.set(undefined);
  }

  private async trying(work: () => Promise<unknown>): Promise<void> {
    this.problem.set(undefined);
    try {
      await work();
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { EDITIONS } from '@mule-tally/core';
import type { ServiceCall } from '@mule-tally/core/furnish';
import {
  MOST_LIGHTS,
  MOST_OUTLETS,
  MOST_PLACES,
  callBreakers,
  serviceCallHouse,
} from '@mule-tally/core/furnish';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { Session } from '../state/session';
import { speaksBy } from '../state/speaks-by';
import { Api } from '../sync/api';
import { WordsPipe } from '../parts/words';
import { TermPipe } from '../parts/term';

const upTo = (most: number): number[] => Array.from({ length: most + 1 }, (_, count) => count);

/** A circuit that is not in any house here, entered in a minute, only to find its fault. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-service-call',
  imports: [RouterLink, ToldPipe, Value, WordsPipe, TermPipe],
  template: `
    <main class="page">
      <a i18n routerLink="/" class="back">Back to the jobs</a>
      <h1 i18n>A fault somewhere else</h1>
      <p i18n class="soft">
        Say how the circuit is built, as far as you know it; then what its lights do. It becomes a house of
        one circuit, which can be put right in Lay out.
      </p>
      <div class="fields">
        <label
          ><span i18n class="name">Name</span>
          <input
            class="form-control"
            maxlength="120"
            [mtValue]="call().name"
            (mtValueChange)="set({ name: $event })"
            i18n-placeholder
            placeholder="Back stairs"
        /></label>
        <label
          ><span i18n class="name">Code edition</span>
          <select class="form-select" [mtValue]="call().base" (mtValueChange)="set({ base: $event })">
            @for (edition of editions; track edition.id) {
              <option [value]="edition.id">{{ edition.name }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Switch locations</span>
          <select class="form-select" [mtValue]="call().places" (mtValueChange)="set({ places: +$event })">
            @for (count of places; track count) {
              <option [value]="count">{{ count }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Lights they switch</span>
          <select class="form-select" [mtValue]="call().lights" (mtValueChange)="set({ lights: +$event })">
            @for (count of lights; track count) {
              <option [value]="count">{{ count }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Outlets always on</span>
          <select class="form-select" [mtValue]="call().outlets" (mtValueChange)="set({ outlets: +$event })">
            @for (count of outlets; track count) {
              <option [value]="count">{{ count }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Power comes in at</span>
          <select class="form-select" [mtValue]="call().feed" (mtValueChange)="set({ feed: $event })">
            <option i18n value="switch">the first switch</option>
            <option i18n value="light">the first light</option>
          </select></label
        >
        <label
          ><span class="name">{{ 'Breaker' | words }}</span>
          <select
            class="form-select"
            [mtValue]="call().breakerAmps"
            (mtValueChange)="set({ breakerAmps: +$event })"
          >
            @for (amps of breakers(); track amps) {
              <option [value]="amps">{{ amps }} A</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">It watches</span>
          <select
            class="form-select"
            [mtValue]="call().protection"
            (mtValueChange)="set({ protection: $event })"
          >
            <option i18n value="none">nothing</option>
            <option value="afci">{{ 'AFCI' | term }}</option>
            <option value="gfci">{{ 'GFCI' | term }}</option>
            <option value="dual">{{ 'AFCI' | term }} + {{ 'GFCI' | term }}</option>
          </select></label
        >
      </div>
      @if (failed(); as sentence) {
        <p role="alert" class="failed">{{ sentence | told }}</p>
      }
      <p class="soft note">
        {{
          'Wired the usual way: from switch to switch, from light to light, outlets where it is always hot. An old house may differ; aluminum, cloth-covered wire or a missing ground are for a licensed electrician.'
            | words
        }}
      </p>
      <div class="act-bar shown">
        <button i18n type="button" class="btn btn-main" [disabled]="busy() || !isSomething()" (click)="go()">
          Find the fault
        </button>
      </div>
    </main>
  `,
  styles: `
    .note {
      margin-top: 0.8rem;
    }
    .failed {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class ServiceCallPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly places = upTo(MOST_PLACES);
  protected readonly lights = upTo(MOST_LIGHTS);
  protected readonly outlets = upTo(MOST_OUTLETS);
  protected readonly call = signal<ServiceCall>({
    name: '',
    base: this.session.edition(),
    places: 2,
    lights: 1,
    outlets: 0,
    feed: 'switch',
    breakerAmps: 15,
    protection: 'none',
  });
  protected readonly editions = EDITIONS;
  protected readonly breakers = computed(() => callBreakers(this.call()));
  protected readonly busy = signal(false);
  protected readonly failed = signal<string | undefined>(undefined);

  constructor() {
    // In the words of where it stands, from the moment that is chosen.
    speaksBy(() => this.call().base);
  }

  protected isSomething(): boolean {
    const { places, lights, outlets } = this.call();
    return outlets > 0 || (places > 0 && lights > 0);
  }
  protected set(fields: Partial<ServiceCall>): void {
    this.call.update((before) => {
      const call = { ...before, ...fields };
      const breakers = callBreakers(call);
      // What is not sold there gives way to the smallest that is.
      return breakers.includes(call.breakerAmps) ? call : { ...call, breakerAmps: breakers[0]! };
    });
  }

  protected async go(): Promise<void> {
    this.busy.set(true);
    this.failed.set(undefined);
    try {
      const name = this.call().name.trim() || $localize`A fault somewhere else`;
      const file = serviceCallHouse({ ...this.call(), name }, () => crypto.randomUUID());
      const { id } = await this.api.import(file, 'refuse', this.session.who().id);
      this.session.edition.set(file.rulebook.base);
      await this.router.navigate(['/house', id, 'check'], { queryParams: { of: 'find' } });
    } catch (error) {
      this.failed.set(error instanceof Error ? error.message : $localize`That did not work. Try again.`);
    } finally {
      this.busy.set(false);
    }
  }
}

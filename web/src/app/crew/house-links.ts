import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { HouseSummary } from '@mule-tally/core';
import { QrPicture } from '../parts/qr-picture';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { Api } from '../sync/api';
import { SignInApi } from '../sync/sign-in-api';

const DAYS = [3, 14, 30, 90];

/** Links by which somebody of no crew reads one house for a time. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-house-links',
  imports: [DatePipe, QrPicture, ToldPipe, Value],
  template: `
    <h2 i18n>A link to one house</h2>
    <p i18n class="soft">
      For an inspector, or the crew that trims out: reads everything in it, changes nothing.
    </p>
    <div class="fields">
      <label
        ><span i18n class="name">House</span>
        <select class="form-select" [mtValue]="houseId()" (mtValueChange)="houseId.set($event)">
          @for (house of houses(); track house.id) {
            <option [value]="house.id">{{ house.name }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">For</span>
        <select class="form-select" [mtValue]="'14'" (mtValueChange)="days.set(+$event)">
          @for (count of choices; track count) {
            <option i18n [value]="count">{{ count }} days</option>
          }
        </select></label
      >
      <button i18n type="button" class="btn btn-line" [disabled]="!houseId()" (click)="make()">
        Make a link
      </button>
    </div>
    @if (links().length) {
      <ul class="links">
        @for (open of links(); track open.id) {
          <li>
            <span i18n>{{ nameOf(open.houseId) }}, until {{ open.endsAt | date: 'd MMM, HH:mm' }}</span>
            <button i18n type="button" class="btn btn-danger-line" (click)="close(open.id)">Take back</button>
          </li>
        }
      </ul>
    }
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    @if (link(); as link) {
      <section class="panel-form shown" aria-live="polite">
        <mt-qr-picture [text]="link" i18n-label label="Picture of the link" />
        <div>
          <p i18n>Whoever has this link reads this one house. It is shown once, here.</p>
          <input
            class="form-control"
            readonly
            [value]="link"
            i18n-aria-label
            aria-label="Link"
            #field
            (focus)="field.select()"
          />
        </div>
      </section>
    }
  `,
  styles: `
    .shown {
      display: flex;
      flex-wrap: wrap;
      gap: 1rem 1.5rem;
    }
    .links {
      list-style: none;
      padding: 0;
      margin: 0.6rem 0;
    }
    .links li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 1rem;
      border-bottom: 1px solid var(--rule);
      padding: 0.3rem 0;
    }
  `,
})
export class HouseLinks {
  private readonly api = inject(SignInApi);
  protected readonly houses = signal<readonly HouseSummary[]>([]);
  protected readonly houseId = signal('');
  protected readonly days = signal(14);
  protected readonly choices = DAYS;
  protected readonly links = signal<readonly { id: string; houseId: string; endsAt: string }[]>([]);
  /** The one that was made last. */
  protected readonly link = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    void inject(Api)
      .houses()
      .then((houses) => {
        this.houses.set(houses);
        this.houseId.set(houses[0]?.id ?? '');
      })
      .catch(() => undefined);
    void this.doing(() => Promise.resolve());
  }

  protected nameOf(houseId: string): string {
    return this.houses().find(({ id }) => id === houseId)?.name ?? '';
  }

  protected make(): void {
    void this.doing(async () => {
      const asked = { for: 'viewer', houseId: this.houseId(), days: this.days() } as const;
      const { token } = await this.api.invite(asked);
      this.link.set(`${location.origin}/join#${token}`);
    });
  }

  protected close(id: string): void {
    this.link.set(undefined);
    void this.doing(() => this.api.uninvite(id));
  }

  private async doing(work: () => Promise<unknown>): Promise<void> {
    this.problem.set(undefined);
    try {
      await work();
      this.links.set(await this.api.links());
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { adding } from '@mule-tally/core';
import { circuitsToShutOff, deadStep, provenDead } from '@mule-tally/core/work';
import { OnlyFor } from '../parts/only-for';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenHouse } from '../state/open-house';
import { Session } from '../state/session';
import { WordsPipe } from '../parts/words';

/** So many times the tester is held: on a live source, on the work, on the live source again. */
const TIMES = 3;

/**
 * Proving a circuit dead, once for each person until the power of the house changes: every breaker that is to be off, what the tag says,
 * the tester on a live source, on the work, on the live source again. Where there is no service nothing is asked. What stands in it is
 * shown once it is proven.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-prove-dead',
  imports: [DatePipe, OnlyFor, WordsPipe],
  template: `
    @if (isProven()) {
      @if (record(); as record) {
        <p class="soft">
          <ng-container i18n>Proven dead by you, {{ record.at | date: 'd MMM, HH:mm' }}.</ng-container>
        </p>
      }
      <ng-content />
    } @else {
      <section class="dead">
        <h2 i18n>Prove it dead first</h2>
        <p>
          <ng-container i18n>OFF, and locked or tagged “crew working, leave off”:</ng-container>
        </p>
        <ul>
          @for (name of breakers(); track name) {
            <li>{{ name }}</li>
          }
        </ul>
        <p i18n class="soft">
          All circuits that come into these boxes, with those that share a handle or a neutral. A non-contact
          tester alone is not enough: it can miss.
        </p>
        <fieldset mtOnlyFor="hand" class="ticks">
          <label
            ><input type="checkbox" [checked]="done() > 0" (change)="tick(1)" [disabled]="done() > 0" />
            <span i18n>Tester on a known live source: it shows live</span></label
          >
          <label
            ><input type="checkbox" [checked]="done() > 1" (change)="tick(2)" [disabled]="done() !== 1" />
            <span>{{ 'On the work, every wire against every other and ground: dead' | words }}</span></label
          >
          <label
            ><input type="checkbox" [checked]="done() > 2" (change)="tick(3)" [disabled]="done() !== 2" />
            <span i18n>On the live source again: it shows live</span></label
          >
        </fieldset>
      </section>
    }
  `,
  styles: `
    .dead {
      border: 2px solid var(--attention);
      border-left-width: 0.6rem;
      background: var(--paper-raised);
      padding: 0.5rem 0.8rem;
      margin: 0.5rem 0;
    }
    .dead h2 {
      margin: 0 0 0.3rem;
      border: 0;
    }
    .dead p {
      margin: 0 0 0.3rem;
    }
    ul {
      margin: 0 0 0.3rem;
      padding-left: 1.2rem;
      font-weight: 600;
    }
    .ticks {
      display: block;
    }
    label {
      display: flex;
      align-items: center;
      gap: 0.7rem;
      min-height: 56px;
      font-size: 1.15rem;
    }
    input {
      width: 1.6rem;
      height: 1.6rem;
      flex: none;
    }
  `,
})
export class ProveDead {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly house = inject(OpenHouse).view;
  /** The first circuit of those that are wired as one. */
  readonly circuit = input.required<string>();
  /** Boxes that hands go into; where there are none, nothing is asked. */
  readonly boxes = input.required<readonly string[]>();

  private readonly power = computed(() => this.house()?.head.power);
  protected readonly record = computed(() => {
    const reader = this.derived.reader();
    return reader && provenDead(reader, this.circuit(), this.session.who().id, this.power());
  });
  readonly isProven = computed(
    () => !this.boxes().length || this.power() === 'no-service' || this.record() !== undefined,
  );
  protected readonly breakers = computed(() => {
    const reader = this.derived.reader();
    return reader
      ? circuitsToShutOff(reader, this.boxes()).flatMap((id) => {
          const own = reader.get('circuits', id);
          return own ? [this.derived.phrases().breaker(own.number, own.name, own.breakerAmps)] : [];
        })
      : [];
  });
  protected readonly done = linkedSignal<string, number>({ source: this.circuit, computation: () => 0 });

  protected tick(done: number): void {
    this.done.set(done);
    if (done < TIMES) return;
    this.desk.make(
      adding('records', {
        id: crypto.randomUUID(),
        kind: 'dead',
        at: new Date().toISOString(),
        by: this.session.who().id,
        circuitId: this.circuit(),
        step: deadStep(this.power()),
      }),
    );
    this.done.set(0);
  }
}

import { Injectable, computed, inject } from '@angular/core';
import type { Rulebook, RulebookBase } from '@mule-tally/core';
import type { Units } from '@mule-tally/core/work';
import { habitsFor, jurisdictionOf, rulebookFor } from '@mule-tally/core';
import { unitsOf } from '@mule-tally/core/work';
import { OpenCrew } from '../state/open-crew';
import { Session } from '../state/session';

/** The rulebook that a new house of this crew would have, in the edition of this device. */
@Injectable({ providedIn: 'root' })
export class CrewRules {
  private readonly book = inject(OpenCrew).view;
  private readonly session = inject(Session);
  readonly base = this.session.edition.asReadonly();

  /** Shows the crew book by another edition: its cables, boxes, units and words. Nothing in it changes. */
  showBy(base: RulebookBase): void {
    this.session.edition.set(base);
  }

  readonly rules = computed((): Rulebook => {
    const [book, base] = [this.book(), this.base()];
    return rulebookFor({ base, overrides: book ? habitsFor(book, base) : {} });
  });
  readonly trade = computed(() => jurisdictionOf(this.base()));
  readonly units = computed((): Units =>
    unitsOf(this.rules().text('show.units') as 'feet-inches' | 'decimal' | 'metric'),
  );
}

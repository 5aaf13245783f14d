import { Injectable, computed, inject } from '@angular/core';
import type { Rulebook } from '@mule-tally/core';
import type { Units } from '@mule-tally/core/work';
import { USUAL_EDITION, habitsFor, rulebookFor } from '@mule-tally/core';
import { unitsOf } from '@mule-tally/core/work';
import { OpenCrew } from '../state/open-crew';

/** The rulebook that a new house of this crew would have, in the edition that is offered first. */
@Injectable({ providedIn: 'root' })
export class CrewRules {
  private readonly book = inject(OpenCrew).view;

  readonly rules = computed((): Rulebook => {
    const book = this.book();
    return rulebookFor({ base: USUAL_EDITION, overrides: book ? habitsFor(book, USUAL_EDITION) : {} });
  });
  readonly trade = computed(() => this.rules().jurisdiction);
  readonly units = computed((): Units =>
    unitsOf(this.rules().text('show.units') as 'feet-inches' | 'decimal' | 'metric'),
  );
}

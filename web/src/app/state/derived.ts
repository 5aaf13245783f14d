import { Injectable, computed, inject, signal } from '@angular/core';
import type { Glossary, HouseReader, Jurisdiction } from '@mule-tally/core';
import type { Units, Words } from '@mule-tally/core/work';
import { Derivations, USUAL_EDITION, connectorNamesOf, jurisdictionBy, saidIn } from '@mule-tally/core';
import { unitsOf, wordsOf } from '@mule-tally/core/work';
import { OpenCrew } from './open-crew';
import { OpenHouse } from './open-house';
import { SPOKEN } from './spoken';

/**
 * The screen's own derivations: what follows from the house for the room, the box or the circuit that is shown. What is about
 * the whole house is worked out beside it (`work/`). Screens read it in their computed values; after a change only what the change
 * touches is derived again.
 */
@Injectable({ providedIn: 'root' })
export class Derived {
  private readonly view = inject(OpenHouse).view;
  private readonly crew = inject(OpenCrew).view;
  private readonly language = inject(SPOKEN);
  private derivations: Derivations | undefined;

  readonly reader = computed((): HouseReader | undefined => {
    const house = this.view();
    if (!house) return undefined;
    if (this.derivations?.house.head.id === house.head.id) this.derivations.update(house);
    else this.derivations = new Derivations(house);
    return this.derivations.reader();
  });

  /** What the crew calls connectors. */
  private readonly connectors = computed(() => {
    const crew = this.crew();
    return crew ? connectorNamesOf(crew) : new Map<string, string>();
  });

  /** Findings, measures and names of the house in words. */
  readonly words = computed((): Words | undefined => {
    const reader = this.reader();
    return reader && wordsOf(reader, { connectors: this.connectors(), language: this.language });
  });

  /** By which edition a page speaks that has no house yet, but has been told where it will stand. */
  readonly speaksBy = signal<string | undefined>(undefined);
  /** What is sold and known where this house is built. */
  readonly trade = computed((): Jurisdiction =>
    jurisdictionBy(this.speaksBy() ?? this.view()?.head.rulebook ?? USUAL_EDITION),
  );

  /** The trade words of where this house is built, in the language of the person. */
  readonly glossary = computed((): Glossary => this.language.glossary(this.trade().glossary));
  readonly phrases = computed(() => this.language.phrases((word) => this.glossary()[word]));
  readonly caution = computed(() => this.language.caution((word) => this.glossary()[word]));
  /** A sentence that is written in the trade words of the United States, in those of where the house is built; in English. */
  inTrade(text: string): string {
    return this.language.code === 'en' ? saidIn(this.trade().saidHere, text) : text;
  }
  /** Text of rulebook, catalogue or refusal in the language of the person. */
  told(text: string): string {
    return this.language.told(text);
  }

  /** How this house writes lengths and volumes. */
  readonly units = computed((): Units => this.words()?.say.units ?? unitsOf('feet-inches'));
}

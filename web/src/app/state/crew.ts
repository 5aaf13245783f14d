import { Injectable, computed, effect, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Member, RefusalIn, SpokenLanguage } from '@mule-tally/core';
import { CREW_CHANGES } from '@mule-tally/core';
import { Actions, ofType } from '@ngrx/effects';
import { CrewDesk } from './desk';
import { CrewEvents } from './document.events';
import { OpenCrew } from './open-crew';
import { Session, forgetUnsentPeople, unsentPeople } from './session';

/** What a device keeps of whoever works on it. */
const asWorker = ({ id, name, language, role, roleIn }: Member): Member => ({
  id,
  name,
  ...(language && { language }),
  ...(role && { role }),
  ...(roleIn && { roleIn }),
});

/** The people of the crew, as the crew book has them. */
@Injectable({ providedIn: 'root' })
export class Crew {
  private readonly session = inject(Session);
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  private readonly actions = inject(Actions);
  /** Changes of the crew book that are not on the device yet. */
  private readonly unkept = signal(0);

  /** Everybody, those who have left too. */
  readonly everybody = computed((): readonly Member[] => this.book.records('people'));
  /** Those who can be picked: whoever is with the crew, and whoever works on this device. */
  readonly people = computed((): readonly Member[] => {
    const who = this.session.who();
    const here: readonly Member[] = this.everybody().filter(({ id, left }) => !left || id === who.id);
    return here.some(({ id }) => id === who.id) ? here : [...here, who];
  });
  private readonly names = computed(
    () => new Map([...this.people(), ...this.everybody()].map(({ id, name }) => [id, name])),
  );

  constructor() {
    const count = (by: number) => () => this.unkept.update((now) => now + by);
    this.actions.pipe(ofType(CrewEvents.changeMade), takeUntilDestroyed()).subscribe(count(1));
    this.actions.pipe(ofType(CrewEvents.changeKept), takeUntilDestroyed()).subscribe(count(-1));
    // Whoever works here goes by the name that the book has for them.
    effect(() => {
      const who = this.session.who();
      const known = this.everybody().find(({ id }) => id === who.id);
      // Another language draws the page anew: only once what was entered is kept.
      const isOther = known && JSON.stringify(asWorker(known)) !== JSON.stringify(asWorker(who));
      if (isOther && this.unkept() === 0) this.session.who.set(asWorker(known));
    });
    effect(() => {
      if (!this.book.view()) return;
      for (const person of unsentPeople())
        this.desk.make(CREW_CHANGES.adding('people', person), 'do', person.id);
      forgetUnsentPeople();
    });
  }

  /** The name of a person of the crew; of one whose name was erased, that. */
  nameOf(personId: string): string {
    return this.names().get(personId) ?? $localize`a former hand`;
  }

  /** Works as this person from now on. */
  be(personId: string): void {
    const person = this.people().find(({ id }) => id === personId);
    if (person) this.session.who.set(asWorker(person));
  }

  /** Whoever works here reads this language from now on, on every device. */
  speak(language: SpokenLanguage): void {
    const who = this.session.who();
    if (this.everybody().some(({ id }) => id === who.id))
      this.desk.make(CREW_CHANGES.setting('people', who.id, { language }));
    else this.session.who.set({ ...who, language });
  }

  /** Somebody new, who enters themselves, or the one of this name who is there; works as them from now on. */
  add(name: string): RefusalIn | undefined {
    const known = this.people().find((person) => person.name === name);
    const person: Member = known ?? { id: crypto.randomUUID(), name };
    const refusal = known
      ? undefined
      : this.desk.make(CREW_CHANGES.adding('people', person), 'do', person.id);
    if (!refusal) this.session.who.set(asWorker(person));
    return refusal;
  }
}

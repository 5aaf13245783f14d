import { Injectable, InjectionToken, effect, inject, signal } from '@angular/core';
import type { Member, Person, RulebookBase } from '@mule-tally/core';
import {
  Member as MemberSchema,
  Person as PersonSchema,
  USUAL_EDITION,
  isEdition,
  personOfVersion1,
} from '@mule-tally/core';
import * as z from 'zod';
import { asked } from '../language/language';

export type Theme = 'paper' | 'attic' | 'sun';

const kept = (name: string): string | null => localStorage.getItem(`mule-tally.${name}`);
const keep = (name: string, value: string): void => localStorage.setItem(`mule-tally.${name}`, value);

/** What was kept as JSON under a name; `without` where there is none that can be read. */
function keptJson<S extends z.ZodType>(name: string, schema: S, without: z.infer<S>): z.infer<S> {
  try {
    return schema.parse(JSON.parse(kept(name) ?? ''));
  } catch {
    return without;
  }
}

/** Whoever worked on this device: version 1 kept a name only. */
const lastPerson = (): Member => {
  const name = kept('who') ?? 'Lead';
  return keptJson('person', MemberSchema, { id: personOfVersion1(name), name });
};

function usualEdition(): RulebookBase {
  const last = kept('edition');
  return last !== null && isEdition(last) ? last : USUAL_EDITION;
}

function ownDevice(): string {
  const known = z.uuid().safeParse(kept('device'));
  if (known.success) return known.data;
  const id = crypto.randomUUID();
  keep('device', id);
  return id;
}

/** Draws the whole page anew. */
export const DRAW_ANEW = new InjectionToken<() => void>('draw anew', {
  factory: () => () => location.reload(),
});

/** Who works on this device and how it looks: whoever is signed in, and before a crew is set up a picked name. */
@Injectable({ providedIn: 'root' })
export class Session {
  readonly who = signal<Member>(lastPerson());
  /** This browser, as changes say where they were made. */
  deviceId = ownDevice();
  readonly theme = signal((kept('theme') as Theme | null) ?? 'paper');
  /** The edition that a house of this device usually stands under: the one that was chosen last. */
  readonly edition = signal<RulebookBase>(usualEdition());

  /** The server knows this browser under another id. */
  deviceIs(id: string): void {
    if (id === this.deviceId) return;
    this.deviceId = id;
    keep('device', id);
  }

  private readonly drawAnew = inject(DRAW_ANEW);

  constructor() {
    const spoken = asked();
    effect(() => keep('edition', this.edition()));
    effect(() => {
      keep('person', JSON.stringify(this.who()));
      // Another person, another language: everything is drawn anew. Nothing is lost, all that is entered is kept on the device.
      if (asked() !== spoken) this.drawAnew();
    });
    effect(() => {
      keep('theme', this.theme());
      document.documentElement.dataset['theme'] = this.theme();
      document.documentElement.dataset['bsTheme'] = this.theme() === 'attic' ? 'dark' : 'light';
    });
  }
}

const UNSENT = 'people-unsent';

/** People who were entered on this device before the crew had a book, and whom the server has not been told of yet. */
export const unsentPeople = (): readonly Person[] => keptJson(UNSENT, z.array(PersonSchema), []);
export const forgetUnsentPeople = (): void => localStorage.removeItem(`mule-tally.${UNSENT}`);
